import { database } from "./database";

/** Entries that wait, in the order in which they were typed. Each is a record of its own: two tabs never overwrite one another's. */
export type Stored = { id: string };

const CHANNEL = "zembric-waiting";
const OLD = "zembric-waiting-entries";
const AT_THE_LAST = "zembric-waiting-at-the-last";
const channel = "BroadcastChannel" in globalThis ? new BroadcastChannel(CHANNEL) : undefined;

let latest = 0;
/** Later than all before, also when several are typed within the same tick of the clock. */
function nextOrder(): number {
  latest = Math.max(Date.now(), latest + 0.001);
  return latest;
}

export async function storedEntries<Entry extends Stored>(): Promise<Entry[]> {
  const kept = await (await database()).getAllFromIndex("waiting", "order");
  return kept.map((each) => each.entry as Entry);
}

export async function holds(id: string): Promise<boolean> {
  return (await (await database()).getKey("waiting", id)) !== undefined;
}

/** Adds it, or changes it where it stands. Rejects where there is no room. */
export async function store(entry: Stored): Promise<void> {
  const changing = (await database()).transaction("waiting", "readwrite", { durability: "strict" });
  const before = await changing.store.get(entry.id);
  await changing.store.put({ id: entry.id, order: before?.order ?? nextOrder(), entry });
  await changing.done;
  channel?.postMessage("changed");
}

export async function unstore(id: string): Promise<void> {
  await (await database()).delete("waiting", id);
  channel?.postMessage("changed");
}

/** Called when another tab changed what waits. */
export function onChangeElsewhere(listener: () => void): () => void {
  channel?.addEventListener("message", listener);
  return () => channel?.removeEventListener("message", listener);
}

/** What the page that closes could not store any more; taken up by the next one. */
export function jot(entries: readonly Stored[]): void {
  try {
    localStorage.setItem(AT_THE_LAST, JSON.stringify(entries));
  } catch {
    // Forbidden as well: the page said that it had to stay open.
  }
}

/** Takes in what was jotted down as a page closed, and what an older version of Zembric kept elsewhere. */
export async function takeUpLeft(): Promise<void> {
  for (const place of [OLD, AT_THE_LAST]) {
    const found: unknown = readOrNothing(place);
    if (!Array.isArray(found)) continue;
    for (const entry of found) {
      const id: unknown = entry?.id ?? entry?.key;
      if (typeof id === "string" && "number" in entry && "entry" in entry) await store({ ...entry, id });
    }
    localStorage.removeItem(place);
  }
}

function readOrNothing(place: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(place) ?? "null");
  } catch {
    return null;
  }
}
