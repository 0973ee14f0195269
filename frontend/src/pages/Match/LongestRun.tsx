import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { Notice } from "../../components/Notice";
import { figure } from "../../words";
import { type Groups, sameGroups } from "./board";

/** A run that is longer by less than this share is not worth a word. */
const WORTH = 0.01;
const PROVED = 1e-3;

/** Where the load is large: how much longer the same cells run in groups that are made for it, and what that costs. */
export function LongestRun({
  request,
  laid,
  onLay,
}: {
  request: Schemas["MatchIn"];
  laid: Groups;
  onLay: (groups: string[][]) => void;
}) {
  const longest = useQuery({
    queryKey: ["matches", "longest-run", request],
    queryFn: () => answer(() => api.POST("/api/matches/longest-run", { body: request })),
    enabled: request.load_a != null,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const run = longest.data?.run;
  if (!run || run.minutes <= run.by_capacity_minutes * (1 + WORTH)) return null;
  if (sameGroups(laid, run.groups))
    return (
      <Notice kind="kept">
        These groups run longest: {figure(run.minutes)} minutes at {figure(request.load_a ?? 0, 1)} A.
      </Notice>
    );
  const proved = run.bound_minutes;
  const bound =
    proved === null
      ? `equal cells of the same mean would run ${figure(run.ideal_minutes)} minutes`
      : proved <= run.minutes * (1 + PROVED)
        ? "that no grouping of these cells runs longer is proved"
        : `that none runs longer than ${figure(proved, 1)} minutes is proved`;
  const less = run.by_capacity_weakest_mah - run.weakest_mah;
  return (
    <Notice kind="ask">
      <p>
        <strong>
          At {figure(request.load_a ?? 0, 1)} A the same cells can run {figure(run.minutes)} instead of{" "}
          {figure(run.by_capacity_minutes)} minutes.
        </strong>{" "}
        That is {figure(run.rate_c, 1)} C: a cell with much resistance then gives only part of what it holds. Groups
        made for the run {less > 0.5 ? `have ${figure(less)} mAh less in the weakest` : "are as strong"}; {bound}. From
        full, without warmth.
      </p>
      <Button onPress={() => onLay(run.groups)}>Lay the groups for the longest run</Button>
    </Notice>
  );
}
