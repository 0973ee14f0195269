import { act } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useScanner } from "./useScanner";

declare global {
  var IS_REACT_ACT_ENVIRONMENT: boolean;
}
globalThis.IS_REACT_ACT_ENVIRONMENT = true;

let root: Root;
let scanned: string[];
let reached: string[];

function Bench() {
  const isScanning = useScanner((text) => scanned.push(text));
  return (
    // The form below the scanner: what it still hears.
    <form onKeyDown={(event) => reached.push(event.key)}>
      <input inputMode="decimal" aria-label="voltage" />
      <input type="text" aria-label="words" />
      <output>{isScanning ? "scanning" : "still"}</output>
    </form>
  );
}

const type = (keys: string[], into: "voltage" | "words" = "voltage") =>
  act(async () => {
    for (const key of keys)
      document
        .querySelector(`[aria-label=${into}]`)
        ?.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
  });

beforeEach(async () => {
  vi.useFakeTimers();
  [scanned, reached] = [[], []];
  document.body.innerHTML = "<div id=here></div>";
  root = createRoot(document.getElementById("here") as HTMLElement);
  await act(async () => root.render(<Bench />));
});

afterEach(async () => {
  await act(async () => root.unmount());
  vi.useRealTimers();
});

test("a scan is a letter, digits and Enter, and none of them reaches the form", async () => {
  await type([..."C1042", "Enter"]);
  expect([scanned, reached]).toEqual([["C1042"], []]);
});

test.each(["D", "P", "T", "X", "t"])("%s begins the number of another thing", async (letter) => {
  await type([letter, ..."125", "Enter"]);
  expect(scanned).toEqual([`${letter.toUpperCase()}125`]);
});

test("a voltage and the keys of findings go to the form", async () => {
  await type([..."3.71", "s", "w", "Enter"]);
  expect([scanned, reached]).toEqual([[], [..."3.71", "s", "w", "Enter"]]);
});

test("words keep their letters", async () => {
  await type([..."ct", "Enter"], "words");
  expect([scanned, reached]).toEqual([[], ["c", "t", "Enter"]]);
});

test("what was no scan is forgotten by another key or after a while", async () => {
  await type(["C", "1", "s"]);
  expect(document.querySelector("output")?.textContent).toBe("still");
  await type(["C", "1"]);
  expect(document.querySelector("output")?.textContent).toBe("scanning");
  await act(async () => vi.advanceTimersByTime(3_000));
  await type(["Enter"]);
  expect([scanned, reached]).toEqual([[], ["s", "Enter"]]);
});
