import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, api, type Schemas, serverNow } from "./client";
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

/** Whether its time is over: by the server's clock, so that it is also said where no answer comes any more. */
export function useIsOver(evening: Evening | null | undefined): boolean {
  const [now, setNow] = useState(() => Date.parse(serverNow()));
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.parse(serverNow())), 5_000);
    return () => clearInterval(timer);
  }, []);
  return evening ? Math.max(now, Date.parse(serverNow())) >= Date.parse(evening.ends_at) : false;
}
