import { QueryClient, type QueryKey, queryOptions, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { askOrRemember, forgetSeen } from "../offline/seen";
import { answer, api, keepToken, loadSession, type Pack, Problem, type Session, utcOffsetMin } from "./client";
import { useIsLive } from "./live";
import type { operations } from "./schema";

export type CellQuery = NonNullable<operations["get_cells"]["parameters"]["query"]>;

export type SizeQuery = NonNullable<operations["get_size"]["parameters"]["query"]>;

/** What the bench, a tray, a pick and the cells that were looked at last need: it opens without the network, too. */
const OPENS_ALONE = new Set([
  "home",
  "bench",
  "story",
  "tray",
  "pack",
  "packs",
  "places",
  "place",
  "catalogue",
  "rules",
  "instruments",
  "donor",
]);

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      persister: (ask, context, query) =>
        OPENS_ALONE.has(String(query.queryKey[0]))
          ? askOrRemember(query.queryHash, async () => ask(context), onScreen(query.queryKey))
          : ask(context),
      staleTime: 2_000,
      networkMode: "always",
      retry: (count, error) => error instanceof Problem && error.code === "offline" && count < 2,
    },
    mutations: { networkMode: "always" },
  },
});

/** What is shown of a query by now; an answer that comes late is not held against it: it is asked for anew. */
function onScreen<T>(queryKey: QueryKey): { held: T | undefined; onLate: () => void } {
  return {
    held: queryClient.getQueryData<T>(queryKey),
    onLate: () => void queryClient.invalidateQueries({ queryKey, exact: true }),
  };
}

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  // What is remembered of it holds the token too.
  queryFn: async () => {
    const session = keepToken(await askOrRemember("session", loadSession, onScreen<Session>(["session"])));
    // A sign-in that ran out or was ended elsewhere leaves nothing on a tablet that others use.
    if (!session.person) await forgetSeen();
    return session;
  },
  staleTime: Number.POSITIVE_INFINITY,
});

export const useSession = () => useQuery(sessionQuery);

/** Told of changes as they happen; else it looks again by itself. Now and then it does anyway, as waits run out. */
export const useHome = () => {
  const isLive = useIsLive();
  const refetchInterval = isLive ? 60_000 : 10_000;
  return useQuery({ queryKey: ["home"], queryFn: () => answer(() => api.GET("/api/home")), refetchInterval });
};

export const cellsQuery = (query: CellQuery) =>
  queryOptions({
    queryKey: ["cells", query],
    queryFn: () => answer(() => api.GET("/api/cells", { params: { query } })),
  });

export const shelfMapQuery = (query: CellQuery) =>
  queryOptions({
    queryKey: ["shelf", "map", query],
    queryFn: () => answer(() => api.GET("/api/shelf-map", { params: { query } })),
  });

export const storyQuery = (number: string) =>
  queryOptions({
    queryKey: ["story", number],
    queryFn: () => answer(() => api.GET("/api/cells/{number}", { params: { path: { number } } })),
  });

export type DonorsAsked = Omit<NonNullable<operations["get_donors"]["parameters"]["query"]>, "before">;

/** Donors that fit, the newest first, page behind page. */
export const useDonors = (asked: DonorsAsked) =>
  useInfiniteQuery({
    queryKey: ["donors", asked],
    queryFn: ({ pageParam }) =>
      answer(() => api.GET("/api/donors", { params: { query: { ...asked, before: pageParam } } })),
    initialPageParam: null as string | null,
    getNextPageParam: (last, pages) =>
      pages.reduce((sum, page) => sum + page.donors.length, 0) < last.count
        ? (last.donors.at(-1)?.number ?? null)
        : null,
    select: ({ pages }) => ({ donors: pages.flatMap((page) => page.donors), count: pages[0]?.count ?? 0 }),
    placeholderData: (before) => before,
  });

/** What fits words: of a device, a size, a place, a person or a day. */
export const soughtQuery = (text: string) =>
  queryOptions({
    queryKey: ["sought", text],
    queryFn: () =>
      answer(() => api.GET("/api/search", { params: { query: { text, utc_offset_min: utcOffsetMin() } } })),
    retry: false,
  });

export const useDonor = (number: string) =>
  useQuery({
    queryKey: ["donor", number],
    queryFn: () => answer(() => api.GET("/api/donors/{number}", { params: { path: { number } } })),
  });

export const usePlaces = () =>
  useQuery({ queryKey: ["places"], queryFn: () => answer(() => api.GET("/api/places")), staleTime: 60_000 });

export const usePlace = (number: string) =>
  useQuery({
    queryKey: ["place", number],
    queryFn: () => answer(() => api.GET("/api/places/{number}", { params: { path: { number } } })),
  });

/** With the moment it was asked for: whatever was answered after that may be missing in it. */
export const trayQuery = (number: string) =>
  queryOptions({
    queryKey: ["tray", number],
    queryFn: async () => {
      const askedAt = Date.now();
      return { ...(await answer(() => api.GET("/api/trays/{number}", { params: { path: { number } } }))), askedAt };
    },
  });

export const benchQuery = (number: string) =>
  queryOptions({
    queryKey: ["bench", number],
    queryFn: () => answer(() => api.GET("/api/cells/{number}/bench", { params: { path: { number } } })),
  });

export const useCatalogue = () =>
  useQuery({
    queryKey: ["catalogue"],
    queryFn: () => answer(() => api.GET("/api/catalogue")),
    staleTime: 60_000,
  });

export const useRules = () => useQuery({ queryKey: ["rules"], queryFn: () => answer(() => api.GET("/api/rules")) });

export const usePrints = () => useQuery({ queryKey: ["prints"], queryFn: () => answer(() => api.GET("/api/prints")) });

export const useParts = () => useQuery({ queryKey: ["parts"], queryFn: () => answer(() => api.GET("/api/parts")) });

export const sizeQuery = (query: SizeQuery) =>
  queryOptions({
    queryKey: ["size", query],
    queryFn: () => answer(() => api.GET("/api/size", { params: { query } })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const findThing = (text: string) =>
  answer(() => api.GET("/api/find", { params: { query: { text, utc_offset_min: utcOffsetMin() } } }));

export const usePacks = () => useQuery({ queryKey: ["packs"], queryFn: () => answer(() => api.GET("/api/packs")) });

/** What can be asked of a match in this house. */
export const useMatchOptions = () =>
  useQuery({
    queryKey: ["match-options"],
    queryFn: () => answer(() => api.GET("/api/match-options")),
    staleTime: 60_000,
  });

/** Packs that the shelf could not meet when they were asked for. */
export const useWishes = (isWanted = true) =>
  useQuery({ queryKey: ["wishes"], queryFn: () => answer(() => api.GET("/api/wishes")), enabled: isWanted });

export const packQuery = (number: string) =>
  queryOptions({
    queryKey: ["pack", number],
    queryFn: () => answer(() => api.GET("/api/packs/{number}", { params: { path: { number } } })),
  });

/** A pack as a write answered it; whoever goes on at once goes on from this version, before it is read anew. */
export function drawPack(kept: Pack): void {
  queryClient.setQueryData(packQuery(kept.number).queryKey, kept);
}

/**
 * A cell that was just fetched stands as fetched until the pack is read anew: of several that are answered at once each
 * changes its own line only, and what was asked before the answer does not come after it.
 */
export async function notePick(pack: string, cell: string, isPicked: boolean): Promise<void> {
  const { queryKey } = packQuery(pack);
  await queryClient.cancelQueries({ queryKey, exact: true });
  queryClient.setQueryData(
    queryKey,
    (read) =>
      read && {
        ...read,
        picks: read.picks.map((line) => (line.number === cell ? { ...line, is_picked: isPicked } : line)),
      },
  );
}

export const checksQuery = (number: string) =>
  queryOptions({
    queryKey: ["pack", number, "checks"],
    queryFn: () => answer(() => api.GET("/api/packs/{number}/checks", { params: { path: { number } } })),
  });

export const layoutQuery = (number: string) =>
  queryOptions({
    queryKey: ["pack", number, "layout"],
    queryFn: () => answer(() => api.GET("/api/packs/{number}/layout", { params: { path: { number } } })),
  });

export const outsideQuery = (number: string) =>
  queryOptions({
    queryKey: ["pack", number, "outside"],
    queryFn: () => answer(() => api.GET("/api/packs/{number}/outside", { params: { path: { number } } })),
  });

export const recallsQuery = queryOptions({
  queryKey: ["recalls"],
  queryFn: () => answer(() => api.GET("/api/recalls")),
});

export const promisesQuery = queryOptions({
  queryKey: ["promises"],
  queryFn: () => answer(() => api.GET("/api/promises")),
});

export const stepsQuery = (number: string, stage: "build" | "prove") =>
  queryOptions({
    queryKey: ["pack", number, "steps", stage],
    queryFn: () => answer(() => api.GET("/api/packs/{number}/steps/{stage}", { params: { path: { number, stage } } })),
  });

export const joiningQuery = (number: string) =>
  queryOptions({
    queryKey: ["pack", number, "joining"],
    queryFn: () => answer(() => api.GET("/api/packs/{number}/joining", { params: { path: { number } } })),
  });

/** After a write everything but the session may look different. */
export function refreshAll(): void {
  void queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
}
