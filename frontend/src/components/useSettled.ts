import { useEffect, useState } from "react";

/** What was typed, once typing has paused. */
export function useSettled<T>(value: T, pauseMs = 250): T {
  const [settled, setSettled] = useState(value);
  const text = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(text) as T), pauseMs);
    return () => clearTimeout(timer);
  }, [text, pauseMs]);
  return settled;
}
