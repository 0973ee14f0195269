import { useQuery } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { answer, api, type Schemas } from "./client";
import { useIsLive } from "./live";

export type Slot = Schemas["SlotOut"];
export type Run = Schemas["SlotRunOut"];
export type Alarm = Schemas["AlarmOut"];
export type Curve = Schemas["RunCurveOut"];

/** What the stream tells of a slot each second, under short names. */
export type Reading = {
  s: number;
  v: number;
  i: number;
  c?: number;
  r?: number;
  t?: number;
  g?: number;
  in?: number;
  out?: number;
  left?: [number, number, number];
};

/** More points than a picture of a slot can show are never kept. */
const MOST_POINTS = 360;
const readings = new Map<number, Reading>();
const curves = new Map<number, Curve>();
const listeners = new Set<() => void>();
let version = 0;

/** Takes in what the stream told, once for all who look; true where slots, runs or alarms changed beyond that. */
export function hearLive(text: string): boolean {
  const told = JSON.parse(text) as (Reading | { table: 1 })[];
  for (const reading of told) {
    if ("table" in reading) return true;
    readings.set(reading.s, reading);
    const curve = reading.r === undefined ? undefined : curves.get(reading.r);
    if (reading.r !== undefined && reading.t !== undefined && curve) curves.set(reading.r, grown(curve, reading));
  }
  version += 1;
  for (const tell of listeners) tell();
  return false;
}

function grown(curve: Curve, reading: Reading): Curve {
  const time = reading.t ?? 0;
  if (time <= (curve.time_s.at(-1) ?? -1)) return curve;
  const next = {
    time_s: [...curve.time_s, time],
    voltage_v: [...curve.voltage_v, reading.v],
    current_a: [...curve.current_a, reading.i],
    cell_degc: [...curve.cell_degc, reading.c ?? null],
  };
  if (next.time_s.length <= MOST_POINTS) return next;
  const every = <T>(values: T[]) => values.filter((_, at) => at % 2 === 0 || at === values.length - 1);
  return {
    time_s: every(next.time_s),
    voltage_v: every(next.voltage_v),
    current_a: every(next.current_a),
    cell_degc: every(next.cell_degc),
  };
}

const subscribe = (tell: () => void) => {
  listeners.add(tell);
  return () => listeners.delete(tell);
};

/** What a slot reads now; undefined until the stream told. */
export const useReading = (slot: number): Reading | undefined =>
  useSyncExternalStore(subscribe, () => readings.get(slot));

/** The curve of a run: fetched once, then grown by what the stream tells. */
export function useRunCurve(run: Run | null): Curve | undefined {
  const isLive = useIsLive();
  const goesOn = run !== null && isGoingOn(run);
  const fetched = useQuery({
    queryKey: ["run-curve", run?.id],
    queryFn: () =>
      answer(() =>
        api.GET("/api/runs/{run_id}/curve", {
          params: { path: { run_id: run?.id ?? 0 }, query: { width: MOST_POINTS / 3 } },
        }),
      ),
    enabled: run !== null && run.rows > 0 && run.log_id === null,
    staleTime: 60_000,
    refetchInterval: goesOn && !isLive ? 3_000 : false,
  });
  useEffect(() => {
    if (run && fetched.data) curves.set(run.id, fetched.data);
  }, [run, fetched.data]);
  return useSyncExternalStore(subscribe, () => (run ? (curves.get(run.id) ?? fetched.data) : undefined));
}

export const useLiveVersion = () => useSyncExternalStore(subscribe, () => version);

export const isGoingOn = (run: Run) => run.state === "asked" || run.state === "running" || run.state === "waits";

export function useTable() {
  const isLive = useIsLive();
  return useQuery({
    queryKey: ["table"],
    queryFn: () => answer(() => api.GET("/api/table")),
    refetchInterval: isLive ? 15_000 : 2_000,
  });
}

export function useSlot(number: string) {
  const isLive = useIsLive();
  return useQuery({
    queryKey: ["slot", number],
    queryFn: () => answer(() => api.GET("/api/slots/{number}", { params: { path: { number } } })),
    refetchInterval: isLive ? 15_000 : 2_000,
  });
}

export function useAlarms(isOn: boolean) {
  const isLive = useIsLive();
  return useQuery({
    queryKey: ["alarms"],
    queryFn: () => answer(() => api.GET("/api/alarms")),
    enabled: isOn,
    refetchInterval: isLive ? 30_000 : 5_000,
  });
}
