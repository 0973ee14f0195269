import { fireEvent, screen } from "@testing-library/react";
import { beforeEach, describe, expect, test, vi } from "vitest";
import { type Cell, Problem } from "../../api/client";
import { button, press, serve, show, type } from "../../testing/page";
import { benchOf, cellOf, placeOf, reasonOf } from "../../testing/samples";
import { InspectForm } from "./InspectForm";
import { NumberForm } from "./NumberForm";
import { PaperDate } from "./PaperDate";
import { type FormProps, ReadingForm } from "./ReadingForm";
import { SkipMeasurement } from "./SkipMeasurement";
import { ChargeForm, DecideForm, OutBoxForm, RepairForm, ShelveForm } from "./StepForms";

const onSend = vi.fn();
const onNothing = vi.fn();
const given = (more: Partial<FormProps> = {}): FormProps => ({
  number: "1042",
  cell: cellOf(),
  bench: benchOf(),
  again: null,
  onSend,
  onNothing,
  problem: null,
  isSending: false,
  ...more,
});
const body = () => onSend.mock.calls[0]?.[0]?.body;
const submit = (label: string) => fireEvent.submit(screen.getByLabelText(label).closest("form") as HTMLFormElement);
const person = (role: string) => ({
  "GET /api/session": {
    person: { name: "Oona", role },
    csrf_token: "t",
    language: "en",
    is_language_chosen: false,
    languages: ["en"],
    print_language: "en",
  },
});

beforeEach(() => {
  onSend.mockReset();
  onNothing.mockReset();
  serve({ ...person("volunteer"), "GET /api/instruments": { instruments: [] }, "GET /api/places": { places: [] } });
});

describe("a voltage", () => {
  test("is sent as it was typed, comma or point", () => {
    show(<ReadingForm {...given()} quantity="voltage" />);
    type("Resting voltage", "3,71");
    submit("Resting voltage");
    expect(body()).toMatchObject({
      quantity: "voltage",
      value: "3,71",
      method: "meter",
      state: "resting",
      confirmed: false,
    });
  });

  test("is not sent while nothing is typed: Enter then means what came back", () => {
    show(<ReadingForm {...given()} quantity="voltage" />);
    submit("Resting voltage");
    expect([onSend.mock.calls.length, onNothing.mock.calls.length]).toEqual([0, 1]);
  });

  test("typed before anything is known of the cell says no state: the server takes the likely one", () => {
    show(<ReadingForm {...given({ cell: null as never, bench: null })} quantity="voltage" />);
    type("Resting voltage", "3.71");
    submit("Resting voltage");
    expect(body().state).toBeNull();
  });

  test("of a cell that was charged a moment ago asks in which state it is", () => {
    const question = { text: "It was charged 20 min ago.", likely: "off-charger" as const };
    show(<ReadingForm {...given({ bench: benchOf({ question }) })} quantity="voltage" />);
    expect(screen.getByText("It is kept as that, and decides nothing.")).toBeTruthy();
    type("Voltage", "4.15");
    submit("Voltage");
    expect(body().state).toBe("off-charger");
  });

  test("that still moves can be said to", () => {
    show(<ReadingForm {...given()} quantity="voltage" />);
    press("It is not at rest, or still moves");
    type("Voltage", "3.2");
    submit("Voltage");
    expect(body().state).toBe("climbing");
  });

  test("that is likely a slip is offered mended, and Enter takes it", () => {
    const problem = new Problem("bad-input", "371 V cannot be.", "value", "3.71");
    show(<ReadingForm {...given({ again: { number: "1042", value: "371", problem }, problem })} quantity="voltage" />);
    expect(screen.getByText("371 V cannot be.")).toBeTruthy();
    submit("Resting voltage");
    expect(body().value).toBe("3.71");
  });

  test("that is odd is kept when it is sent once more", () => {
    const problem = new Problem("odd-input", "2.9 V after 3.7 V.", "value");
    show(<ReadingForm {...given({ again: { number: "1042", value: "2.9", problem }, problem })} quantity="voltage" />);
    press("Keep 2.9 V");
    expect(body()).toMatchObject({ value: "2.9", confirmed: true });
  });

  test("below zero asks for its cause, and no Enter keeps it", () => {
    const problem = new Problem("negative-voltage", "The leads are swapped?", "value");
    show(<ReadingForm {...given({ again: { number: "1042", value: "-3.7", problem }, problem })} quantity="voltage" />);
    submit("Resting voltage");
    expect(onSend).not.toHaveBeenCalled();
    press("Its can is plus");
    expect(body().turned).toBe("can-is-plus");
  });

  test("of nothing says where to look first", () => {
    show(<ReadingForm {...given({ bench: benchOf({ nothing_reached: true }) })} quantity="voltage" />);
    expect(screen.getByText(/That alone does not make it out/)).toBeTruthy();
  });
});

describe("a capacity", () => {
  test("carries what its family and size ask for, until it is typed over", () => {
    show(<ReadingForm {...given()} quantity="capacity" />);
    type("Capacity", "2310");
    type("Current", "1000");
    submit("Capacity");
    expect(body()).toMatchObject({ current_ma: "1000", cut_off_v: "3.0", complete: true, started_full: true });
  });

  test("of a run that was broken off is no complete one", () => {
    show(<ReadingForm {...given()} quantity="capacity" />);
    fireEvent.click(screen.getByRole("checkbox", { name: /From full/ }));
    type("Capacity", "900");
    submit("Capacity");
    expect(body()).toMatchObject({ complete: false, started_full: false });
  });

  test("with a cut-off that cannot be is told at the cut-off", () => {
    const problem = new Problem("bad-input", "9 V cannot be.", "cut_off_v");
    show(
      <ReadingForm {...given({ again: { number: "1042", value: "2310", problem }, problem })} quantity="capacity" />,
    );
    const described = screen.getByLabelText("Cut-off").getAttribute("aria-describedby");
    expect(document.getElementById(described ?? "")?.textContent).toBe("9 V cannot be.");
  });
});

test("what cannot be measured is skipped with a ground of some words", () => {
  show(<SkipMeasurement number="1042" quantity="resistance" onSend={onSend} />);
  press("No resistance meter here?");
  type("Go on without, because", "no meter tonight");
  press("Skip resistance of 1042");
  expect(onSend).toHaveBeenCalledWith({ to: "skips", body: { what: "resistance", why: "no meter tonight" } });
});

describe("a charge", () => {
  test.each([
    ["4.05", /It ended at 4.05 V: that is not full/],
    ["4.12", /4.12 V is a little below 4.20 V/],
  ])("that ended at %s V is told what that means before it is kept", (ended, told) => {
    show(<ChargeForm {...given()} />);
    type("Charged; ended at", ended);
    expect(screen.getByText(told)).toBeTruthy();
  });

  test("that somebody stopped is no complete one", () => {
    show(<ChargeForm {...given()} />);
    type("Charged; ended at", "4.00");
    fireEvent.click(screen.getByRole("radio", { name: "I stopped it" }));
    press("Keep the charge");
    expect(body()).toMatchObject({ end_v: "4.00", complete: false, minutes: null, happened: false });
  });

  test("that went too far says to stop, and is written down as what happened", () => {
    const problem = new Problem("went-too-far", "4.40 V is above full.", "end_v");
    show(<ChargeForm {...given({ problem })} />);
    type("Charged; ended at", "4.40");
    expect(screen.getByText("Stop the charger now.")).toBeTruthy();
    press("It happened: write it down");
    expect(body()).toMatchObject({ end_v: "4.40", happened: true });
  });

  test("of a low cell begins slowly and says until when", () => {
    show(<ChargeForm {...given({ bench: benchOf({ charge_start_ma: 130, charge_start_until_v: 3 }) })} />);
    expect(screen.getByText("130 mA")).toBeTruthy();
  });

  test("stands above the cautions of everything that charges", () => {
    show(<ChargeForm {...given()} />);
    expect(screen.getByText("Somebody awake beside it, never overnight.")).toBeTruthy();
  });
});

describe("a look", () => {
  const key = (name: string) =>
    fireEvent.keyDown(screen.getByRole("button", { name: /Nothing found|Keep|Dangerous/ }), { key: name });

  const enter = () => {
    key("Enter");
    fireEvent.keyUp(screen.getByRole("button", { name: /Dangerous/ }), { key: "Enter" });
  };

  test("that found nothing is kept with one press", () => {
    show(<InspectForm {...given()} />);
    press("Nothing found");
    expect(onSend.mock.calls[0]?.[0]).toMatchObject({ to: "inspections", body: { findings: [] } });
  });

  test("ticks a finding by its letter, and takes it away by the same", () => {
    show(<InspectForm {...given()} />);
    key("w");
    expect(button("Keep this finding")).toBeTruthy();
    key("w");
    expect(button("Nothing found")).toBeTruthy();
  });

  test("takes a voltage that was measured already along with it", () => {
    show(<InspectForm {...given()} />);
    for (const digit of "3.7") key(digit);
    press("Nothing found, keep the voltage");
    expect(onSend.mock.calls[0]?.[0]).toMatchObject({ to: "first-looks", body: { value: "3.7" } });
  });

  test("that found a danger is asked about before Enter keeps it", () => {
    show(<InspectForm {...given()} />);
    key("s");
    enter();
    expect(onSend).not.toHaveBeenCalled();
    expect(screen.getByText(/Enter again, and it goes into the fire-safe box/)).toBeTruthy();
    enter();
    expect(body().findings).toEqual(["swollen"]);
  });

  test("says first what a sibling's danger asks to look at", () => {
    const prompts = [{ text: "1041 beside it swelled.", findings: ["swollen" as const] }];
    show(<InspectForm {...given({ bench: benchOf({ prompts }) })} />);
    expect(screen.getByText("1041 beside it swelled.")).toBeTruthy();
  });
});

describe("what follows", () => {
  test("is mended once it is ticked", () => {
    show(<RepairForm {...given()} />);
    expect(screen.getByText("First tick what was mended.")).toBeTruthy();
    fireEvent.click(screen.getByRole("checkbox", { name: /Wrapped anew/ }));
    press("Tick it off");
    expect(body().done).toEqual(["torn-wrap"]);
  });

  test("goes onto the shelf, into the first box that has room", async () => {
    serve({
      "GET /api/places": {
        places: [
          { place: placeOf({ capacity: 1 }), cells: 1 },
          { place: placeOf({ id: 8, name: "Green box" }), cells: 3 },
        ],
      },
    });
    show(<ShelveForm {...given()} />);
    fireEvent.click(await screen.findByRole("button", { name: "1042 lies in Green box" }));
    expect(body()).toEqual({ place_id: 8 });
  });

  test("goes out, taped", () => {
    show(<OutBoxForm {...given()} />);
    press(/lies in the out-box, taped/);
    expect(onSend.mock.calls[0]?.[0]).toEqual({ to: "out-box", body: {} });
  });

  const aside: Cell = cellOf({
    grade: "not-yet",
    step: "decide",
    reasons: [reasonOf({ code: "over-voltage", text: "It rests 0.08 V above full." })],
  });

  test("is decided by a coordinator with a ground", async () => {
    serve(person("coordinator"));
    show(<DecideForm {...given({ cell: aside })} />);
    fireEvent.change(await screen.findByLabelText("Why"), { target: { value: "a wrong charger" } });
    press("It is out");
    expect(body()).toEqual({ about: "over-voltage", outcome: "out", why: "a wrong charger" });
  });

  test("waits where nobody here may decide", async () => {
    show(<DecideForm {...given({ cell: aside })} />);
    expect(await screen.findByText(/A coordinator decides on this one/)).toBeTruthy();
  });
});

test("a number is chosen by Enter, and Enter without one means what came back", () => {
  const onChoose = vi.fn();
  show(<NumberForm current={undefined} problem={null} isTypedInto={false} onChoose={onChoose} onNothing={onNothing} />);
  submit("Cell number");
  type("Cell number", " 1042 ");
  submit("Cell number");
  expect([onChoose.mock.calls, onNothing.mock.calls.length]).toEqual([[["1042"]], 1]);
});

test("what stood on paper counts from its own time, until it is now again", () => {
  const onChange = vi.fn();
  const { unmount } = show(<PaperDate value={null} onChange={onChange} />);
  press("It stood on paper: give its date");
  expect(screen.getByText("Day and time as they stand on the paper.")).toBeTruthy();
  unmount();
  show(<PaperDate value="2026-11-20T19:30" onChange={onChange} />);
  press("It stood on paper: give its date");
  expect(screen.getByText(/What you enter now counts from/)).toBeTruthy();
  press("Now again");
  expect(onChange).toHaveBeenCalledWith(null);
});
