import { type EntryAnswer, sendEntry } from "../api/entries";
import { forgetAnswer } from "../api/waiting";
import { useWrite } from "../api/writing";
import type { useKept } from "./useKept";
import { useUndoKey } from "./useUndoKey";

/** Takes the last entry back, by a press or by Ctrl+Z; `onBack` brings its cell to hand again. */
export function useTakeBack(
  kept: ReturnType<typeof useKept>,
  onBack: (number: string) => void,
  mayGo: (answer: EntryAnswer) => boolean = () => true,
) {
  const undo = useWrite(sendEntry, ({ cell }) => {
    if (kept.last) {
      forgetAnswer(kept.last.id);
      kept.drop(kept.last.id);
    }
    onBack(cell.number);
  });
  const takeBack = () => {
    const { number, answer } = kept.last ?? {};
    if (number && answer?.entry_id && mayGo(answer))
      undo.mutate({ number, entry: { to: "withdrawals", body: { entry_id: answer.entry_id } } });
  };
  useUndoKey(takeBack);
  return { takeBack, problem: undo.error };
}
