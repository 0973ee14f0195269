import { act, fireEvent, screen, within } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, test, vi } from "vitest";
import type { Finding } from "../api/client";
import { press, serve, show } from "../testing/page";
import { cellOf, placeOf, reasonOf } from "../testing/samples";
import { Amount } from "./Amount";
import { CountField } from "./CountField";
import { FindingTicks } from "./FindingTicks";
import { HazardScreen } from "./HazardScreen";
import { InstrumentPick } from "./InstrumentPick";
import { Judgement } from "./Judgement";
import { NextStep } from "./NextStep";
import { RunningClock } from "./RunningClock";
import { requestInWords } from "./requestInWords";
import { SiblingStrip } from "./SiblingStrip";
import { Tray } from "./Tray";
import { where } from "./where";

afterEach(() => vi.useRealTimers());

describe("a judgement", () => {
  test("tells grade, how sure, and each ground on its ruler with the kind of its limit", () => {
    show(<Judgement cell={cellOf({ reasons: [reasonOf()] })} />);
    const told = screen.getByRole("region", { name: "Judgement of cell 1042" });
    expect(told.textContent).toContain("Strong");
    expect(told.textContent).toContain("one of the best here, sure");
    expect(within(told).getByText("limit 80.0 %, house rule")).toBeTruthy();
  });

  test.each([
    ["sheet", "its data sheet allows no more"],
    ["no-sheet", "more is for cells with a data sheet"],
    ["shown", "it has given that much"],
  ])("says what the current it may carry is set by: %s", (set_by, words) => {
    show(<Judgement cell={cellOf({ continuous_current_a: 2.5, continuous_current_set_by: set_by })} />);
    expect(screen.getByText(`Carries at most about 2.5 A for long; ${words}.`)).toBeTruthy();
  });

  test("without a comparison draws no ruler", () => {
    show(
      <Judgement
        cell={cellOf({ reasons: [reasonOf({ value: null, limit: null, text: "Still missing: capacity." })] })}
      />,
    );
    expect(screen.queryByText(/^limit/)).toBeNull();
  });
});

describe("a next step", () => {
  test("tells how long and with what", () => {
    show(<NextStep cell={cellOf({ step: "charge", step_minutes: 180, step_needs: "a charger for its chemistry" })} />);
    expect(screen.getByText("About 3 h, with a charger for its chemistry.")).toBeTruthy();
  });

  test.each([
    ["2026-01-05T12:00:00Z", /^Overdue since .*2026/],
    ["2199-01-05T12:00:00Z", /^Not later than .*2199/],
  ])("left until %s says so", (overdue_at, words) => {
    show(<NextStep cell={cellOf({ overdue_at })} />);
    expect(screen.getByText(words)).toBeTruthy();
  });

  test("of a rest runs down, and is over when it is", () => {
    const { unmount } = show(<NextStep cell={cellOf({ step: "rest", not_before: "2199-01-05T12:00:00Z" })} />);
    expect(screen.getByText(/left, until/)).toBeTruthy();
    unmount();
    show(<NextStep cell={cellOf({ step: "rest", not_before: "2026-01-05T12:00:00Z" })} />);
    expect(screen.getByText(/over since/)).toBeTruthy();
  });
});

test("a recovery's clock counts to its next look, and says when it is due", () => {
  vi.useFakeTimers({ now: Date.parse("2026-11-20T19:10:00Z") });
  const { unmount } = show(
    <RunningClock startedAt="2026-11-20T19:00:00Z" nextAt="2026-11-20T19:15:00Z" endsAt="2026-11-20T20:00:00Z" />,
  );
  expect(screen.getByRole("timer").textContent).toMatch(/Next look in (5:00|4:5\d) min/);
  unmount();
  show(<RunningClock startedAt="2026-11-20T18:00:00Z" nextAt={null} endsAt="2026-11-20T19:00:00Z" />);
  expect(screen.getByText("Measure it now")).toBeTruthy();
  expect(screen.getByText(/its time is over, this look decides/)).toBeTruthy();
});

function Ticks({ asked }: { asked?: Finding[] }) {
  const [found, setFound] = useState<Finding[]>([]);
  return (
    <>
      <FindingTicks found={found} onChange={setFound} asked={asked} />
      <output data-testid="found">{found.join(" ")}</output>
    </>
  );
}

test("dangers stand apart from what can be mended, and each is ticked and let go", () => {
  show(<Ticks />);
  expect(screen.getByText("Dangerous: it goes straight into the fire-safe box")).toBeTruthy();
  fireEvent.click(screen.getByRole("checkbox", { name: /Swollen or soft/ }));
  fireEvent.click(screen.getByRole("checkbox", { name: /Torn wrap/ }));
  fireEvent.click(screen.getByRole("checkbox", { name: /Swollen or soft/ }));
  expect(screen.getByTestId("found").textContent).toBe("torn-wrap");
});

const pass = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds));

test("the hazard screen is seen at once, and has the keys only when the hands rest", async () => {
  vi.useFakeTimers();
  const onDone = vi.fn();
  show(<HazardScreen number="1042" text="It is swollen." onDone={onDone} />);
  expect(screen.queryByRole("alertdialog")).toBeNull();
  await pass(500);
  fireEvent.keyDown(window, { key: "3" });
  await pass(500);
  expect(screen.queryByRole("alertdialog")).toBeNull();
  await pass(800);
  expect(screen.getByRole("alertdialog")).toBeTruthy();
  press("It lies in the fire-safe box");
  expect(onDone).toHaveBeenCalledOnce();
});

test("siblings stand on one ruler, with their span", () => {
  show(
    <SiblingStrip
      siblings={[
        { number: "1041", value_v: 3.7 },
        { number: "1043", value_v: 3.92 },
      ]}
      own={3.1}
      groupV={3.8}
    />,
  );
  expect(screen.getByText("Siblings 3.70 to 3.92 V; its group read 3.80 V")).toBeTruthy();
  expect(screen.getByText("this one")).toBeTruthy();
});

test("cells out of other devices blame nobody, and one alone says nothing", () => {
  const { container, unmount } = show(<SiblingStrip siblings={[]} own={3.1} />);
  expect(container.querySelector("figure")).toBeNull();
  unmount();
  show(<SiblingStrip siblings={[{ number: "1041", value_v: 3.7 }]} own={3.1} isOnePack={false} />);
  expect(screen.getByText(/What they read says nothing about this one/)).toBeTruthy();
});

test("a tray has all its places, and the cells in theirs", () => {
  show(
    <Tray
      name="Tray 1"
      rows={2}
      columns={2}
      cells={[cellOf({ slot: 3, grade: "not-yet", step: "charge" })]}
      here="1042"
    />,
  );
  const places = screen.getByRole("figure", { name: "Tray 1, 4 places" });
  expect(within(places).getByText("1042").closest("div")?.textContent).toContain("3");
  expect(within(places).getByText("Charge")).toBeTruthy();
});

test("a count goes by one, and not beyond what it can be", () => {
  const onChange = vi.fn();
  show(<CountField label="In series" value={2} onChange={onChange} least={1} most={3} />);
  fireEvent.click(screen.getByRole("button", { name: /Increase/ }));
  expect(onChange).toHaveBeenCalledWith(3);
});

test("what was not measured is a dash for the eye and words for the ear", () => {
  show(<Amount value={null} unit="mAh" />);
  expect(screen.getByText("not measured")).toBeTruthy();
});

test.each([
  [cellOf({ place: placeOf({ name: "Tray 1" }), slot: 4 }), "Tray 1, place 4"],
  [cellOf({ place: null, in_use_in: "reading lamp" }), "In use in reading lamp"],
  [cellOf({ place: null, pack_number: "P101" }), "In pack P101"],
  [cellOf({ place: null }), "Not here any more"],
])("where a cell is, is told in a few words", (cell, words) => {
  expect(where(cell)).toBe(words);
});

test("a request is one line", () => {
  expect(
    requestInWords({
      series: 2,
      parallel: 3,
      family: "layered-oxide",
      size_code: "18650",
      least_grade: "B",
      target_mah: 6000,
    } as never),
  ).toBe("2S3P of 18650, Layered oxide, 4.20 V (usual), Fair and better, 6000 mAh a group");
});

test("where no instrument has a number yet the page says why they need one", async () => {
  serve({ "GET /api/instruments": { instruments: [] } });
  show(<InstrumentPick value={null} onChange={() => {}} />);
  expect(await screen.findByText("Give your meters and testers numbers")).toBeTruthy();
});
