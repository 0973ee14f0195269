const DAY_MS = 86_400_000;

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
