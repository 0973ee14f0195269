import { useEffect, useState } from "react";
import { serverNow } from "../api/client";

/** The time [ms] by the server's clock, looked at every so often: the same on all devices, and also where no answer comes. */
export function useNow(everyMs: number): number {
  const [now, setNow] = useState(() => Date.parse(serverNow()));
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.parse(serverNow())), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}
