import { answer, api, once, type Schemas } from "./client";
import { notePick } from "./queries";

export type EntryAnswer = Schemas["EntryAnswerOut"];

/** What is kept in this browser until the server has taken it. */
export type QueuedEntry =
  | { to: "first-looks"; body: Schemas["FirstLookIn"] }
  | { to: "inspections"; body: Schemas["InspectionIn"] }
  | { to: "readings"; body: Schemas["ReadingIn"] }
  | { to: "charges"; body: Schemas["ChargeIn"] }
  | { to: "repairs"; body: Schemas["RepairIn"] }
  | { to: "measurements"; body: Schemas["MeasurementIn"] }
  | { to: "moves"; body: Schemas["MoveIn"] }
  | { to: "skips"; body: Schemas["SkipIn"] }
  | { to: "shelvings"; body: Schemas["ShelvingIn"] }
  | { to: "out-box"; body: Schemas["NothingIn"] };

/** A cell that was fetched for a pack; it waits like an entry. */
export type Pick = { to: "picks"; pack: string; body: Schemas["PickIn"] };

/** What can be entered for a cell, by the address it is sent to. */
export type EntryInput =
  | QueuedEntry
  | { to: "recoveries"; body: Schemas["RecoveryIn"] }
  | { to: "recovery-starts"; body: Schemas["RecoveryStartIn"] }
  | { to: "recovery-checks"; body: Schemas["RecoveryCheckIn"] }
  | { to: "uses"; body: Schemas["UseIn"] }
  | { to: "decisions"; body: Schemas["DecisionIn"] }
  | { to: "withdrawals"; body: Schemas["WithdrawalIn"] };

/** Sends one entry; the answer is the cell as it is judged now. */
export function sendEntry({ number, entry }: { number: string; entry: EntryInput }, key: string): Promise<EntryAnswer> {
  const rest = { params: { path: { number } }, headers: once(key) };
  return answer<EntryAnswer>(() => {
    switch (entry.to) {
      case "first-looks":
        return api.POST("/api/cells/{number}/first-looks", { ...rest, body: entry.body });
      case "inspections":
        return api.POST("/api/cells/{number}/inspections", { ...rest, body: entry.body });
      case "readings":
        return api.POST("/api/cells/{number}/readings", { ...rest, body: entry.body });
      case "measurements":
        return api.POST("/api/cells/{number}/measurements", { ...rest, body: entry.body });
      case "charges":
        return api.POST("/api/cells/{number}/charges", { ...rest, body: entry.body });
      case "recoveries":
        return api.POST("/api/cells/{number}/recoveries", { ...rest, body: entry.body });
      case "recovery-starts":
        return api.POST("/api/cells/{number}/recovery-starts", { ...rest, body: entry.body });
      case "recovery-checks":
        return api.POST("/api/cells/{number}/recovery-checks", { ...rest, body: entry.body });
      case "moves":
        return api.POST("/api/cells/{number}/moves", { ...rest, body: entry.body });
      case "uses":
        return api.POST("/api/cells/{number}/uses", { ...rest, body: entry.body });
      case "repairs":
        return api.POST("/api/cells/{number}/repairs", { ...rest, body: entry.body });
      case "skips":
        return api.POST("/api/cells/{number}/skips", { ...rest, body: entry.body });
      case "decisions":
        return api.POST("/api/cells/{number}/decisions", { ...rest, body: entry.body });
      case "shelvings":
        return api.POST("/api/cells/{number}/shelvings", { ...rest, body: entry.body });
      case "out-box":
        return api.POST("/api/cells/{number}/out-box", { ...rest, body: entry.body });
      case "withdrawals":
        return api.POST("/api/cells/{number}/withdrawals", { ...rest, body: entry.body });
    }
  });
}

/** A cell's number without what a label or a hand puts round it. */
export const bare = (typed: string): string =>
  typed
    .replace(/[\s.-]/g, "")
    .toUpperCase()
    .replace(/^C/, "");

/** Sends what waited; a pick answers with its pack, which says nothing of the cell. */
export async function sendQueued(
  { number, entry }: { number: string; entry: QueuedEntry | Pick },
  key: string,
): Promise<EntryAnswer | null> {
  if (entry.to !== "picks") return sendEntry({ number, entry }, key);
  const rest = { params: { path: { number: entry.pack } }, headers: once(key), body: entry.body };
  await answer(() => api.POST("/api/packs/{number}/picks", rest));
  await notePick(entry.pack, bare(number), !entry.body.back);
  return null;
}

const HAS_TO_BE_ANSWERED = ["recoveries", "recovery-starts", "recovery-checks", "uses", "decisions", "withdrawals"];

/** Whether it may be kept behind whoever typed it; what depends on the answer may not. */
export const mayWait = (entry: EntryInput): entry is QueuedEntry => !HAS_TO_BE_ANSWERED.includes(entry.to);
