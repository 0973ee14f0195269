import type { Evening } from "../../api/evening";
import { useNow } from "../../components/useNow";

/** Whether its time is over. */
export function useIsOver(evening: Evening | null | undefined): boolean {
  const now = useNow(5_000);
  return evening ? now >= Date.parse(evening.ends_at) : false;
}
