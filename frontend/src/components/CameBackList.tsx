import type { WaitingEntry } from "../api/waiting";
import { CameBack } from "./CameBack";
import { Notice } from "./Notice";
import type { useKept } from "./useKept";

/** What was typed on this page and not taken, each with what can be done about it; Enter is for the newest. */
export function CameBackList({
  kept,
  except = null,
  onAgain,
  onSettled,
}: {
  kept: ReturnType<typeof useKept>;
  /** One that is told otherwise. */
  except?: WaitingEntry | null;
  onAgain: (entry: WaitingEntry) => void;
  onSettled?: () => void;
}) {
  return kept.refused
    .filter((entry) => entry !== except)
    .map((entry) => (
      <Notice key={entry.id} kind="ask">
        <CameBack entry={entry} takesEnter={entry === kept.refused.at(-1)} onAgain={onAgain} onSettled={onSettled} />
      </Notice>
    ));
}
