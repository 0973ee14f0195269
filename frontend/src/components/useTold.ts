import { useState } from "react";
import { readNumber } from "../words";

/**
 * What is said and typed over what is kept of a thing, where only what was changed is sent. `kept` has the numbers as they
 * stand; what is typed over one is text until it is sent.
 */
export function useTold<Told extends object, Name extends string>(kept: Partial<Record<Name, number | null>>) {
  const [told, setTold] = useState<Told>({} as Told);
  const [typed, setTyped] = useState<Partial<Record<Name, string>>>({});
  const texts = Object.values<string | undefined>(typed).map((text) => text ?? "");
  const text = (name: Name) => typed[name] ?? kept[name]?.toString() ?? "";
  return {
    told,
    say: (next: Told) => setTold((before) => ({ ...before, ...next })),
    type: (next: Partial<Record<Name, string>>) => setTyped((before) => ({ ...before, ...next })),
    text,
    number: (name: Name) => readNumber(text(name)),
    /** The numbers that were typed over; null where one was wiped out. */
    numbers: (): Partial<Record<Name, number | null>> =>
      Object.fromEntries(
        Object.entries<string>(typed as Record<Name, string>).map(([name, each]) => [name, readNumber(each)]),
      ) as Partial<Record<Name, number | null>>,
    isChanged: Object.keys(told).length > 0 || texts.length > 0,
    isWrong: texts.some((each) => each.trim() !== "" && readNumber(each) === null),
    clear: () => {
      setTold({} as Told);
      setTyped({});
    },
  };
}
