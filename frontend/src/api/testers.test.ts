import { act, renderHook } from "@testing-library/react";

import { expect, test } from "vitest";
import { hearLive, useReading } from "./testers";

test("what the stream tells of a slot is what is read", () => {
  const { result } = renderHook(() => useReading(41));
  expect(result.current).toBeUndefined();
  act(() => {
    expect(hearLive('[{"s":41,"v":3.71,"i":0.5},{"s":42,"v":4.1,"i":0}]')).toBe(false);
  });
  expect(result.current).toMatchObject({ v: 3.71, i: 0.5 });
});

test("a change of the table is told apart from a reading", () => {
  expect(hearLive('[{"table":1}]')).toBe(true);
});

test("the last reading counts", () => {
  const { result } = renderHook(() => useReading(43));
  act(() => {
    hearLive('[{"s":43,"v":3.5,"i":1}]');
    hearLive('[{"s":43,"v":3.6,"i":1}]');
  });
  expect(result.current?.v).toBe(3.6);
});
