import { act, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { beginAfresh, press, show, tidyUp } from "../testing/page";
import { Guarded } from "./Guarded";

beforeEach(() => {
  beginAfresh();
  vi.spyOn(console, "error").mockImplementation(() => {});
});
afterEach(tidyUp);

const page = { isWhole: false };

function Shaky() {
  if (!page.isWhole) throw new Error("cells[7] is missing");
  return <h1>Whole</h1>;
}

test("a page that breaks says what broke, and is shown once it no longer does", async () => {
  show(
    <Guarded>
      <Shaky />
    </Guarded>,
  );
  expect(screen.getByRole("heading", { name: "This page broke" })).toBeDefined();
  expect(screen.getByRole("alert").textContent).toContain("cells[7] is missing");
  page.isWhole = true;
  await press("Try again");
  expect(screen.getByRole("heading", { name: "Whole" })).toBeDefined();
});

test("a page to look at tries again by itself", async () => {
  vi.useFakeTimers({ shouldAdvanceTime: true });
  page.isWhole = false;
  show(
    <Guarded isToLookAt>
      <Shaky />
    </Guarded>,
  );
  expect(screen.getByRole("alert").textContent).not.toContain("coordinator");
  page.isWhole = true;
  await act(() => vi.advanceTimersByTimeAsync(20_000));
  vi.useRealTimers();
  expect(screen.getByRole("heading", { name: "Whole" })).toBeDefined();
});
