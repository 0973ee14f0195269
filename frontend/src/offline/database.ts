import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/** What this browser keeps by itself: entries that wait, and what was last seen of what the bench needs. */
interface Kept extends DBSchema {
  waiting: { key: string; value: { id: string; order: number; entry: unknown }; indexes: { order: number } };
  seen: { key: string; value: { key: string; at: number; data: unknown } };
}

let opened: Promise<IDBPDatabase<Kept>> | undefined;

/** The database of this browser; rejects where it is forbidden or broken, and is tried again the next time. */
export function database(): Promise<IDBPDatabase<Kept>> {
  opened ??= openDB<Kept>("zembric", 1, {
    upgrade(made) {
      made.createObjectStore("waiting", { keyPath: "id" }).createIndex("order", "order");
      made.createObjectStore("seen", { keyPath: "key" });
    },
    blocking: () => void close(),
    terminated: () => {
      opened = undefined;
    },
  }).catch((error: unknown) => {
    opened = undefined;
    throw error;
  });
  return opened;
}

/** Lets go of it, so that another page can change its shape. */
export async function close(): Promise<void> {
  const closing = opened;
  opened = undefined;
  (await closing)?.close();
}
