import { answer, api, once, type Schemas } from "../../api/client";

export type EntryAnswer = Schemas["EntryAnswerOut"];

/** What can be entered for a cell, by the address it is sent to. */
export type EntryInput =
  | { to: "inspections"; body: Schemas["InspectionIn"] }
  | { to: "readings"; body: Schemas["ReadingIn"] }
  | { to: "charges"; body: Schemas["ChargeIn"] }
  | { to: "recoveries"; body: Schemas["RecoveryIn"] }
  | { to: "repairs"; body: Schemas["RepairIn"] }
  | { to: "skips"; body: Schemas["SkipIn"] }
  | { to: "decisions"; body: Schemas["DecisionIn"] }
  | { to: "shelvings"; body: Schemas["ShelvingIn"] }
  | { to: "out-box"; body: Schemas["OutBoxIn"] }
  | { to: "withdrawals"; body: Schemas["WithdrawalIn"] };

/** Sends one entry; the answer is the cell as it is judged now. */
export function sendEntry({ number, entry }: { number: string; entry: EntryInput }, key: string): Promise<EntryAnswer> {
  const rest = { params: { path: { number } }, headers: once(key) };
  return answer<EntryAnswer>(() => {
    switch (entry.to) {
      case "inspections":
        return api.POST("/api/cells/{number}/inspections", { ...rest, body: entry.body });
      case "readings":
        return api.POST("/api/cells/{number}/readings", { ...rest, body: entry.body });
      case "charges":
        return api.POST("/api/cells/{number}/charges", { ...rest, body: entry.body });
      case "recoveries":
        return api.POST("/api/cells/{number}/recoveries", { ...rest, body: entry.body });
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
