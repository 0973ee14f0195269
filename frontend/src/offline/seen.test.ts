import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { askOrRemember, forgetSeen } from "./seen";

const NOTHING_HELD = { held: undefined, onLate: () => {} };
const PATIENCE_MS = 4_000;

/** An answer that comes when it is let go. */
function late<T>(data: T): { ask: () => Promise<T>; letGo: () => void } {
  let go = (_: T) => {};
  const answer = new Promise<T>((resolve) => {
    go = resolve;
  });
  return { ask: () => answer, letGo: () => go(data) };
}

beforeEach(async () => {
  await forgetSeen();
  await askOrRemember("pack", async () => "three picked", NOTHING_HELD);
  vi.useFakeTimers({ toFake: ["setTimeout"], shouldAdvanceTime: true });
});
afterEach(() => {
  vi.useRealTimers();
});

test("where nothing is shown what was seen before is, and the late answer is asked for anew", async () => {
  const onLate = vi.fn();
  const { ask, letGo } = late("four picked");
  const shown = askOrRemember("pack", ask, { held: undefined, onLate });
  await vi.advanceTimersByTimeAsync(PATIENCE_MS);
  expect(await shown).toBe("three picked");
  expect(onLate).not.toHaveBeenCalled();
  letGo();
  await vi.waitFor(() => expect(onLate).toHaveBeenCalledOnce());
});

test("what is shown already is not replaced by what was seen before, however late the answer is", async () => {
  const { ask, letGo } = late("four picked and read");
  const shown = askOrRemember("pack", ask, { held: "four picked", onLate: () => {} });
  await vi.advanceTimersByTimeAsync(2 * PATIENCE_MS);
  letGo();
  expect(await shown).toBe("four picked and read");
});
