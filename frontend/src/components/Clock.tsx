import { dayAndTime, span } from "../words";
import { useNow } from "./useNow";

/** Time still to wait, running; the same after a reload and on another device. */
export function Clock({ until }: { until: string }) {
  const now = useNow(5_000);
  const left = new Date(until).getTime() - now;
  return left > 0 ? (
    <span>
      {span(left)} left, until {dayAndTime(until)}
    </span>
  ) : (
    <span>over since {dayAndTime(until)}</span>
  );
}
