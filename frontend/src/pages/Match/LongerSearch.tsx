import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";
import { figure } from "../../words";

const LOOK_EVERY_MS = 1_000;
const SECONDS = 60;

interface LongerSearchProps {
  request: Schemas["MatchIn"];
  weakest: number;
  onFound: (proposal: Schemas["ProposalOut"]) => void;
}

/** Where better may be possible: a search in the background, which can be stopped with the best so far. */
export function LongerSearch({ request, weakest, onFound }: LongerSearchProps) {
  const [id, setId] = useState<number | null>(null);
  const begin = useMutation({
    mutationFn: () =>
      answer(() => api.POST("/api/match-searches", { body: { request, seconds: SECONDS }, headers: once() })),
    onSuccess: (search) => setId(search.id),
  });
  const path = { search_id: id ?? 0 };
  const search = useQuery({
    queryKey: ["match-search", id],
    queryFn: () => answer(() => api.GET("/api/match-searches/{search_id}", { params: { path } })),
    enabled: id !== null,
    refetchInterval: (query) => (isOver(query.state.data) ? false : LOOK_EVERY_MS),
  });
  const stop = useMutation({
    mutationFn: () =>
      answer(() => api.POST("/api/match-searches/{search_id}/stop", { params: { path }, headers: once() })),
  });
  const take = useMutation({
    mutationFn: () => answer(() => api.GET("/api/match-searches/{search_id}/proposal", { params: { path } })),
    onSuccess: (proposal) => {
      onFound(proposal);
      setId(null);
    },
  });
  const found = search.data;
  if (id === null || !found)
    return (
      <p>
        <Button onPress={() => begin.mutate()} isDisabled={begin.isPending}>
          Search for a minute
        </Button>
        <ProblemNotice problem={begin.error} />
      </p>
    );
  const gained = found.weakest_mah === null ? 0 : found.weakest_mah - weakest;
  const text =
    found.weakest_mah === null
      ? found.state === "waiting"
        ? "It waits for its turn."
        : "It searches."
      : gained > 0.001
        ? `${figure(gained)} mAh better so far.`
        : "Nothing better so far.";
  return (
    <Strip role="status">
      <Bar aria-hidden="true">
        <i style={{ width: `${100 * found.share}%` }} />
      </Bar>
      <p>
        {found.state === "failed"
          ? found.trouble
          : found.state === "done"
            ? `It is over. ${text.replace(" so far", "")}`
            : text}
      </p>
      <span>
        {!isOver(found) && (
          <>
            <Button onPress={() => stop.mutate()} isDisabled={stop.isPending}>
              Stop
            </Button>{" "}
          </>
        )}
        {gained > 0.001 && (
          <Button kind="main" onPress={() => take.mutate()} isDisabled={take.isPending}>
            Take the best so far
          </Button>
        )}{" "}
        {isOver(found) && (
          <Button kind="quiet" onPress={() => setId(null)}>
            Leave it as it is
          </Button>
        )}
      </span>
      <ProblemNotice problem={take.error ?? stop.error} />
    </Strip>
  );
}

const isOver = (search: Schemas["SearchOut"] | undefined) => search?.state === "done" || search?.state === "failed";
const Strip = styled.div`
  display: grid;
  gap: var(--slit);
  padding: var(--apart) var(--block);
  border-left: 6px solid ${({ theme }) => theme.color.pencil};
  background: ${({ theme }) => theme.color.paper};
`;
const Bar = styled.div`
  height: 10px;
  border: 2px solid ${({ theme }) => theme.color.ink};
  i { display: block; height: 100%; background: ${({ theme }) => theme.color.tape}; }
`;
