import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { hearLive } from "./testers";

/** Overviews. What somebody may be typing into is left alone under their hands. */
const SHARED = new Set(["home", "shelf", "places", "tray", "donors", "packs", "logs"]);
/** What hangs on the testers: told of by those alone, as entries at the bench come far more often. */
const TABLE = new Set(["table", "slot", "alarms", "evening"]);
const GATHER_MS = 400;
/** A stream that opens later may have missed a change that what was asked with it has not, either. */
const SOON_MS = 500;
const REFUSED_AGAIN_MS = 30_000;

let live = false;
const listeners = new Set<() => void>();

function setLive(next: boolean): void {
  if (next === live) return;
  live = next;
  for (const tell of listeners) tell();
}

/** Whether changes are told as they happen; else a page has to look again by itself. */
export const useIsLive = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => live,
  );

/**
 * Looks again at what has one of these names. An answer on its way is waited for, as it may be from before the change, and never let
 * go: where changes come faster than a slow server answers, nothing would be shown any more.
 */
export function lookerAt(client: QueryClient): (names: Set<string>) => void {
  const wanted = new Set<string>();
  const looking = new Set<string>();
  return (names) => {
    for (const query of client
      .getQueryCache()
      .findAll({ predicate: ({ queryKey }) => names.has(String(queryKey[0])) })) {
      const { queryHash, queryKey } = query;
      wanted.add(queryHash);
      if (looking.has(queryHash)) continue;
      looking.add(queryHash);
      const go = async () => {
        while (wanted.delete(queryHash)) {
          // Who shows it tells of a failure.
          await query.promise?.catch(() => {});
          await client.invalidateQueries({ queryKey, exact: true }, { cancelRefetch: false });
        }
        looking.delete(queryHash);
      };
      void go();
    }
  };
}

/** Looks again at what is on the screen whenever the server tells of a change; several at once count as one. */
export function useChanges(isSignedIn: boolean): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!isSignedIn) return;
    let gathered: ReturnType<typeof setTimeout> | undefined;
    let gatheredTable: ReturnType<typeof setTimeout> | undefined;
    let again: ReturnType<typeof setTimeout> | undefined;
    let stream: EventSource | undefined;
    const look = lookerAt(client);
    const lookAgain = () => look(SHARED);
    const lookAtTable = () => look(TABLE);
    const open = () => {
      const opened = new EventSource("/api/changes");
      stream = opened;
      const asked = performance.now();
      let isFirst = true;
      opened.addEventListener("open", () => {
        setLive(true);
        // What changed while nobody listened was told to nobody.
        if (!isFirst || performance.now() - asked > SOON_MS) {
          lookAgain();
          lookAtTable();
        }
        isFirst = false;
      });
      opened.addEventListener("error", () => {
        setLive(false);
        // A refusal ends a stream for good, a lost connection does not.
        if (opened.readyState === EventSource.CLOSED) again = setTimeout(open, REFUSED_AGAIN_MS);
      });
      opened.addEventListener("live", (event) => {
        if (!hearLive(String(event.data))) return;
        clearTimeout(gatheredTable);
        gatheredTable = setTimeout(lookAtTable, GATHER_MS);
      });
      opened.addEventListener("change", () => {
        clearTimeout(gathered);
        gathered = setTimeout(lookAgain, GATHER_MS);
      });
    };
    const close = () => {
      clearTimeout(gathered);
      clearTimeout(gatheredTable);
      clearTimeout(again);
      stream?.close();
      setLive(false);
    };
    // A browser has few connections to one server: tabs that nobody sees keep none, and look again when they are seen.
    const onSight = () => {
      close();
      if (document.visibilityState === "visible") {
        open();
        lookAgain();
        lookAtTable();
      }
    };
    document.addEventListener("visibilitychange", onSight);
    if (document.visibilityState === "visible") open();
    return () => {
      document.removeEventListener("visibilitychange", onSight);
      close();
    };
  }, [isSignedIn, client]);
}
