import { act } from "react";
import { Heading } from "react-aria-components";
import { createRoot, type Root } from "react-dom/client";
import { ThemeProvider } from "styled-components";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { themes } from "../theme/tokens";
import { Takeover } from "./Takeover";

let root: Root;

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
  document.body.innerHTML = "<input aria-label=number><div id=here></div>";
  root = createRoot(document.getElementById("here") as HTMLElement);
});

afterEach(async () => {
  await act(async () => root.unmount());
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const field = () => document.querySelector("input") as HTMLInputElement;
const hasTheKeys = () => document.querySelector("[role=alertdialog]") !== null;

async function stopWhileTyping(typed: string): Promise<void> {
  field().focus();
  field().value = typed;
  await act(async () =>
    root.render(
      <ThemeProvider theme={themes.light}>
        <Takeover>
          <Heading slot="title">Stop.</Heading>
        </Takeover>
      </ThemeProvider>,
    ),
  );
  expect(document.querySelector("[role=alert]")?.textContent).toBe("Stop.");
}

test("it takes the keys once the hands rest", async () => {
  await stopWhileTyping("");
  await act(async () => vi.advanceTimersByTime(700));
  expect(hasTheKeys()).toBe(true);
});

test("a number that is half typed can be ended under it, after a look at the label", async () => {
  await stopWhileTyping("C10");
  await act(async () => vi.advanceTimersByTime(3_500));
  expect(hasTheKeys()).toBe(false);
  await act(async () => vi.advanceTimersByTime(500));
  expect(hasTheKeys()).toBe(true);
});

test("a choice that has the focus is not half typed", async () => {
  field().type = "radio";
  await stopWhileTyping("full");
  await act(async () => vi.advanceTimersByTime(700));
  expect(hasTheKeys()).toBe(true);
});
