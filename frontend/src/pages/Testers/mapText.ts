/** An instrument's commands as somebody types them: one line a command, under what they are for. */
export const MAP_KEYS = [
  ["identify", "Ask who it is", "Usually *IDN?"],
  ["begin", "Sent once at the beginning", "Such as *CLS, remote control on"],
  ["watchdog", "Set its watchdog", "{seconds} is put in; without a working one it charges nothing"],
  ["watchdog_ask", "Ask for its watchdog", "It answers the seconds it is set to"],
  ["charge", "Charge", "{channel}, {current_a}, {limit_v}, {end_a}, {seconds}; {current_a:.3f} with three digits"],
  ["discharge", "Discharge", "{limit_v} is the cut-off here"],
  ["off", "Everything off", "Sent whenever anything is wrong"],
  ["measure", "Measure", "One line that is answered with numbers between commas"],
  [
    "gives",
    "What it answers, in order",
    "time_s, voltage_v, current_a, minus_current_a, cell_degc, - to pass over; one a line",
  ],
  ["rows", "Or: what it recorded since", "Rows between semicolons, each as above"],
  ["error_ask", "Ask for an error", "Such as SYST:ERR?; an answer that begins with 0 is none"],
  ["put_in", "Put a cell in", "Only of a simulated tester"],
] as const;

const LISTS = new Set(["begin", "watchdog", "charge", "discharge", "off", "gives"]);
type Typed = Record<string, string>;

export function textOf(map: Record<string, unknown>): Typed {
  return Object.fromEntries(
    MAP_KEYS.map(([key]) => {
      const held = map[key];
      return [key, Array.isArray(held) ? held.join("\n") : typeof held === "string" ? held : ""];
    }),
  );
}

export function mapOf(typed: Typed): Record<string, string | string[]> {
  const lines = (text: string) => text.split("\n").flatMap((line) => line.trim() || []);
  return Object.fromEntries(
    MAP_KEYS.map(([key]) => [key, LISTS.has(key) ? lines(typed[key] ?? "") : (typed[key] ?? "").trim()]),
  );
}
