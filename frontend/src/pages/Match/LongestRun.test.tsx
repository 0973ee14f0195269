import { screen } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { press, serve, show } from "../../testing/page";
import { LongestRun } from "./LongestRun";
import { asked, USUAL } from "./request";

const run: Schemas["LongestRunOut"] = {
  rate_c: 2.2,
  minutes: 27.2,
  by_capacity_minutes: 22.1,
  ideal_minutes: 29,
  bound_minutes: null,
  weakest_mah: 8159,
  by_capacity_weakest_mah: 8745,
  groups: [["1"], ["2"]],
};
const request = asked({ ...USUAL, load: "20" });

test("a longer run is told with what it costs, and its groups are laid", async () => {
  const onLay = vi.fn();
  serve({ "POST /api/matches/longest-run": { run } });
  show(<LongestRun request={request} laid={[["1", "2"]]} onLay={onLay} />);
  expect(await screen.findByText("At 20.0 A the same cells can run 27 instead of 22 minutes.")).toBeTruthy();
  expect(screen.getByText(/have 586 mAh less in the weakest/)).toBeTruthy();
  press("Lay the groups for the longest run");
  expect(onLay).toHaveBeenCalledWith([["1"], ["2"]]);
});

test("groups that run longest are said to, in whatever order they lie", async () => {
  serve({ "POST /api/matches/longest-run": { run } });
  show(<LongestRun request={request} laid={[["2"], ["1"]]} onLay={vi.fn()} />);
  expect(await screen.findByText("These groups run longest: 27 minutes at 20.0 A.")).toBeTruthy();
  expect(screen.queryByRole("button")).toBeNull();
});

test.each([[{ run: null }], [{ run: { ...run, minutes: 22.2 } }]])(
  "what is not worth it is not told",
  async (found) => {
    const sent = serve({ "POST /api/matches/longest-run": found });
    show(<LongestRun request={request} laid={[]} onLay={vi.fn()} />);
    await vi.waitFor(() => expect(sent).toHaveLength(1));
    expect(screen.queryByRole("button")).toBeNull();
  },
);

test("without a load nobody is asked", () => {
  const sent = serve({});
  show(<LongestRun request={asked(USUAL)} laid={[]} onLay={vi.fn()} />);
  expect(sent).toHaveLength(0);
});
