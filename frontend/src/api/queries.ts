import { QueryClient, queryOptions, useQuery } from "@tanstack/react-query";
import { answer, api, loadSession, Problem } from "./client";
import type { operations } from "./schema";

export type CellQuery = NonNullable<operations["get_cells"]["parameters"]["query"]>;

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 2_000,
      networkMode: "always",
      retry: (count, error) => error instanceof Problem && error.code === "offline" && count < 2,
    },
    mutations: { networkMode: "always" },
  },
});

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: loadSession,
  staleTime: Number.POSITIVE_INFINITY,
});

export const useSession = () => useQuery(sessionQuery);

export const useHome = () =>
  useQuery({ queryKey: ["home"], queryFn: () => answer(() => api.GET("/api/home")), refetchInterval: 10_000 });

export const cellsQuery = (query: CellQuery) =>
  queryOptions({
    queryKey: ["cells", query],
    queryFn: () => answer(() => api.GET("/api/cells", { params: { query } })),
  });

export const storyQuery = (number: string) =>
  queryOptions({
    queryKey: ["story", number],
    queryFn: () => answer(() => api.GET("/api/cells/{number}", { params: { path: { number } } })),
  });

export const useDonors = () => useQuery({ queryKey: ["donors"], queryFn: () => answer(() => api.GET("/api/donors")) });

export const useDonor = (number: string) =>
  useQuery({
    queryKey: ["donor", number],
    queryFn: () => answer(() => api.GET("/api/donors/{number}", { params: { path: { number } } })),
  });

export const usePlaces = () =>
  useQuery({ queryKey: ["places"], queryFn: () => answer(() => api.GET("/api/places")), staleTime: 60_000 });

export const usePacks = () => useQuery({ queryKey: ["packs"], queryFn: () => answer(() => api.GET("/api/packs")) });

export const packQuery = (number: string) =>
  queryOptions({
    queryKey: ["pack", number],
    queryFn: () => answer(() => api.GET("/api/packs/{number}", { params: { path: { number } } })),
  });

/** After a write everything but the session may look different. */
export function refreshAll(): void {
  void queryClient.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
}
