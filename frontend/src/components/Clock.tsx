import { useEffect, useState } from "react";
import { dayAndTime, span } from "../words";

/** Time still to wait, running; the same after a reload and on another device. */
export function Clock({ until }: { until: string }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5_000);
    return () => clearInterval(timer);
  }, []);
  const left = new Date(until).getTime() - now;
  return left > 0 ? (
    <span>
      {span(left)} left, until {dayAndTime(until)}
    </span>
  ) : (
    <span>over since {dayAndTime(until)}</span>
  );
}
