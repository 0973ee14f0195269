import { fireEvent, screen, within } from "@testing-library/react";
import { beforeEach, expect, test, vi } from "vitest";
import { press, show } from "../testing/page";
import { Plot } from "./Plot";

// What is drawn on a canvas no test reads; what is told beside it is.
vi.mock("uplot/dist/uPlot.min.css", () => ({}));
vi.mock("uplot", () => ({
  default: class {
    scales = {};
    cursor = {};
    over = document.createElement("div");
    setCursor() {}
    setScale() {}
    setSelect() {}
    setSize() {}
    valToPos() {
      return 0;
    }
    destroy() {}
  },
}));

const X = [0, 1, 2, 3, 4];
const LINES = [
  { name: "voltage", unit: "V", digits: 2, y: [4.1, 4.0, null, 3.8, 3.7] },
  { name: "current", unit: "A", digits: 1, y: [-1, -1, -1, -1, 0], onRight: true },
];
const onZoom = vi.fn();
const curve = () => screen.getByRole("slider", { name: "Run of 1042" });
const told = () => curve().getAttribute("aria-valuetext");
const key = (name: string, more = {}) => fireEvent.keyDown(curve(), { key: name, ...more });

beforeEach(() => {
  onZoom.mockReset();
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {}
      disconnect() {}
      unobserve() {}
    },
  );
});

test("arrow keys read the values, and say where there is none", () => {
  show(<Plot label="Run of 1042" xLabel="minutes" x={X} lines={LINES} />);
  expect(told()).toBe("Run of 1042");
  key("ArrowRight");
  expect(told()).toBe("minutes 0: voltage 4.10 V, current -1.0 A");
  key("ArrowRight");
  key("ArrowRight");
  expect(told()).toContain("voltage none V");
});

test("Home and End lead to the ends, and no key beyond them", () => {
  show(<Plot label="Run of 1042" xLabel="minutes" x={X} lines={LINES} />);
  key("End");
  expect(told()).toContain("minutes 4");
  key("ArrowRight");
  expect(told()).toContain("minutes 4");
  key("Home");
  key("ArrowLeft");
  expect(told()).toContain("minutes 0");
});

test("the curve can be read as a table", () => {
  show(<Plot label="Run of 1042" xLabel="minutes" x={X} lines={LINES} />);
  press("As a table");
  const rows = within(screen.getByRole("table")).getAllByRole("row");
  expect(rows.map((row) => [...row.children].map((cell) => cell.textContent))).toEqual([
    ["minutes", "voltage (V)", "current (A)"],
    ["0", "4.10", "-1.0"],
    ["1", "4.00", "-1.0"],
    ["2", "", "-1.0"],
    ["3", "3.80", "-1.0"],
    ["4", "3.70", "0.0"],
  ]);
});

test("a long curve's table shows forty rows and its end", () => {
  const x = Array.from({ length: 1001 }, (_, index) => index);
  show(
    <Plot
      label="Run of 1042"
      xLabel="minutes"
      x={x}
      lines={[{ name: "voltage", unit: "V", digits: 2, y: x.map(() => 4) }]}
    />,
  );
  press("As a table");
  const rows = within(screen.getByRole("table")).getAllByRole("row");
  expect(rows.length).toBeLessThanOrEqual(42);
  expect(rows.at(-1)?.firstElementChild?.textContent).toBe("1000");
});

test("closer is a stretch of the whole, told to whoever fetches it, and back again", () => {
  show(<Plot label="Run of 1042" xLabel="minutes" x={X} lines={LINES} onZoom={onZoom} />);
  press("Closer");
  expect(onZoom).toHaveBeenLastCalledWith([1, 3]);
  press("The whole again");
  expect(onZoom).toHaveBeenLastCalledWith(null);
});

test("plus goes closer around what is being read", () => {
  show(<Plot label="Run of 1042" xLabel="minutes" x={X} lines={LINES} onZoom={onZoom} />);
  key("End");
  key("+");
  expect(onZoom).toHaveBeenLastCalledWith([3, 4]);
});

test("without somebody who fetches a stretch there is none to choose", () => {
  show(<Plot label="Run of 1042" xLabel="minutes" x={X} lines={LINES} />);
  expect(screen.queryByRole("button", { name: "Closer" })).toBeNull();
});
