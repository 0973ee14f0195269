import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "./client";
import { useIsLive } from "./live";

export type Evening = Schemas["EveningOut"];

export function useEvening() {
  const isLive = useIsLive();
  return useQuery({
    queryKey: ["evening"],
    queryFn: () => answer(() => api.GET("/api/evening")),
    refetchInterval: isLive ? 30_000 : 10_000,
  });
}
