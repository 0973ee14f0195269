const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
const MOST_MS = 12 * HOUR_MS;

export type Person = { name: string; until: string };

/** The time of day as it is typed: 21:30. */
export function timeOf(iso: string): string {
  const at = new Date(iso);
  return `${String(at.getHours()).padStart(2, "0")}:${String(at.getMinutes()).padStart(2, "0")}`;
}

/** The next moment at which it is this time of day; null where it is no time. 21:30, 21.30, 2130 and 9:30 pm are taken. */
export function atTime(typed: string, now = new Date()): string | null {
  const found = /^\s*(\d{1,2})[:.h]?(\d{2})?\s*(am|pm)?\s*$/i.exec(typed);
  if (!found) return null;
  const half = found[3]?.toLowerCase();
  const hours = (Number(found[1]) % (half ? 12 : 24)) + (half === "pm" ? 12 : 0);
  const minutes = Number(found[2] ?? 0);
  if (Number(found[1]) > 24 || minutes > 59) return null;
  const at = new Date(now);
  at.setHours(hours, minutes, 0, 0);
  return new Date(at.getTime() <= now.getTime() ? at.getTime() + DAY_MS : at.getTime()).toISOString();
}

/** Whether a time of day was meant as one that is over: no evening is so long that it could still come. */
export function isPast(typed: string, now = new Date()): boolean {
  const at = atTime(typed, now);
  return at !== null && Date.parse(at) - now.getTime() > MOST_MS;
}

/** What a form of the evening begins with: who is still here; where its time is over, until an hour from now. */
export function firstOf(
  known: { ends_at: string; people: readonly Person[] } | null,
  now: number,
  me: string,
): { ends: string; people: Person[] } {
  const isOver = known !== null && Date.parse(known.ends_at) <= now;
  const ends =
    known && !isOver ? timeOf(known.ends_at) : timeOf(new Date(now + (known ? 1 : 3) * HOUR_MS).toISOString());
  if (!known) return { ends, people: [{ name: me, until: ends }] };
  // Who was to stay until the end may stay longer; who left before it is gone.
  const here = known.people.filter((person) =>
    isOver ? Date.parse(person.until) >= Date.parse(known.ends_at) : Date.parse(person.until) > now,
  );
  const people = here.map((person) => ({ name: person.name, until: isOver ? ends : timeOf(person.until) }));
  return { ends, people: people.length > 0 ? people : [{ name: me, until: ends }] };
}
