import { queryOptions, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas, uploadLog } from "./client";
import type { operations } from "./schema";

export type Log = Schemas["LogOut"];
export type Instrument = Schemas["InstrumentOut"];
export type Method = Schemas["MethodOut"];

const KNOWN = { staleTime: Number.POSITIVE_INFINITY } as const;

export const useSums = () =>
  useQuery({ queryKey: ["sums"], queryFn: () => answer(() => api.GET("/api/sums")), ...KNOWN });

export const useMethods = () =>
  useQuery({ queryKey: ["methods"], queryFn: () => answer(() => api.GET("/api/methods")), ...KNOWN });

export const useInstruments = () =>
  useQuery({ queryKey: ["instruments"], queryFn: () => answer(() => api.GET("/api/instruments")), staleTime: 60_000 });

export const sumQuery = (name: string, values: Record<string, string>) =>
  queryOptions({
    queryKey: ["sum", name, values],
    queryFn: () => answer(() => api.POST("/api/sums/{name}", { params: { path: { name } }, body: { values } })),
    retry: false,
    ...KNOWN,
  });

export const measuredQuery = (body: Schemas["MeasurementIn"]) =>
  queryOptions({
    queryKey: ["measured", body],
    queryFn: () => answer(() => api.POST("/api/measurements", { body })),
    retry: false,
    staleTime: 10_000,
  });

export const methodPlanQuery = (number: string, method: string, instrument: string | null) =>
  queryOptions({
    queryKey: ["method-plan", number, method, instrument],
    queryFn: () =>
      answer(() =>
        api.GET("/api/cells/{number}/method-plan", { params: { path: { number }, query: { method, instrument } } }),
      ),
    retry: false,
  });

export const restQuery = (number: string, instrument: string | null) =>
  queryOptions({
    queryKey: ["rest", number, instrument],
    queryFn: () =>
      answer(() => api.GET("/api/cells/{number}/rest", { params: { path: { number }, query: { instrument } } })),
    retry: false,
  });

export const agreementQuery = (a: string, b: string, quantity: "capacity" | "resistance") =>
  queryOptions({
    queryKey: ["agreement", a, b, quantity],
    queryFn: () => answer(() => api.GET("/api/agreement", { params: { query: { a, b, quantity } } })),
    retry: false,
  });

export type LogsAsked = Omit<NonNullable<operations["get_logs"]["parameters"]["query"]>, "before">;

/** The newest logs of one cell. */
export const logsOfCellQuery = (cell: string) =>
  queryOptions({
    queryKey: ["logs", "cell", cell],
    queryFn: () => answer(() => api.GET("/api/logs", { params: { query: { cell } } })),
  });

/** Logs that fit, the newest first, page behind page; looked at again while one of them is being read. */
export const useLogs = (asked: LogsAsked, enabled = true) =>
  useInfiniteQuery({
    queryKey: ["logs", asked],
    queryFn: ({ pageParam }) =>
      answer(() => api.GET("/api/logs", { params: { query: { ...asked, before: pageParam } } })),
    initialPageParam: null as number | null,
    getNextPageParam: (last, pages) =>
      pages.reduce((sum, page) => sum + page.logs.length, 0) < last.count ? (last.logs.at(-1)?.id ?? null) : null,
    select: ({ pages }) => ({ logs: pages.flatMap((page) => page.logs), count: pages[0]?.count ?? 0 }),
    placeholderData: (before) => before,
    refetchInterval: (query) =>
      query.state.data?.pages.some((page) =>
        page.logs.some((log) => log.state === "waiting" || log.state === "reading"),
      )
        ? 1_000
        : false,
    enabled,
  });

export const logQuery = (id: number) =>
  queryOptions({
    queryKey: ["log", id],
    queryFn: () => answer(() => api.GET("/api/logs/{log_id}", { params: { path: { log_id: id } } })),
    refetchInterval: (query) =>
      query.state.data?.state === "waiting" || query.state.data?.state === "reading" ? 700 : false,
  });

export const curveQuery = (id: number, test: number, range: [number, number] | null) =>
  queryOptions({
    queryKey: ["curve", id, test, range],
    queryFn: () =>
      answer(() =>
        api.GET("/api/logs/{log_id}/tests/{test}/curve", {
          params: {
            path: { log_id: id, test },
            query: {
              width: 900,
              from_s: range ? Math.max(0, range[0]) : null,
              to_s: range ? Math.max(0, range[1]) : null,
            },
          },
        }),
      ),
    ...KNOWN,
  });

/** Sends a log as it is; gives what came of it. */
export const sendLog = (file: Blob, name: string, cell: string | null, instrument: string | null): Promise<Log> => {
  const query = new URLSearchParams({ name });
  if (cell) query.set("cell", cell);
  if (instrument) query.set("instrument", instrument);
  return uploadLog<Log>(`/api/logs?${query}`, file);
};
