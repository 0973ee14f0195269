import { useState } from "react";

/** Settings of a form that this device remembers from one entry to the next. */
export function useRemembered<T extends object>(name: string, usual: T): [T, (value: T) => void] {
  const key = `zembric-form-${name}`;
  const [value, setValue] = useState<T>(() => ({ ...usual, ...stored(key) }));
  const remember = (next: T) => {
    localStorage.setItem(key, JSON.stringify(next));
    setValue(next);
  };
  return [value, remember];
}

function stored(key: string): object {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(key) ?? "{}");
    return typeof found === "object" && found !== null ? found : {};
  } catch {
    return {};
  }
}
