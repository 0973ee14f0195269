import styled from "styled-components";
import type { Finding } from "../api/client";
import type { EntryInput, Pick, QueuedEntry } from "../api/entries";
import { discard, sendChanged, type WaitingEntry } from "../api/waiting";
import { dayAndTime, FINDING_WORDS } from "../words";
import { Button } from "./Button";
import { isHazard } from "./findings";
import { hasKeys } from "./hasKeys";
import { Tape } from "./Tape";

/** An entry that the server did not take: what was typed, why not, and what can be done about it. */
export function CameBack({
  entry: waiting,
  takesEnter,
  onAgain,
  onSettled,
}: {
  entry: WaitingEntry;
  /** Enter in an empty field does what stands first. */
  takesEnter?: boolean;
  /** Opens its form once more, as it was typed. */
  onAgain?: (entry: WaitingEntry) => void;
  /** Somebody decided; the keys belong elsewhere again. */
  onSettled?: () => void;
}) {
  const { refused, number, id, entry } = waiting;
  if (!refused) return null;
  const better = accepted(waiting);
  const settle = (next: QueuedEntry | Pick) => {
    void sendChanged(id, next);
    onSettled?.();
  };
  return (
    <Row>
      <Tape size="small" to={`/bench/${number}`}>
        {number}
      </Tape>
      <span>
        <strong>{said(entry)}</strong>
        {waiting.typedAt && `, typed ${dayAndTime(waiting.typedAt)}`}, was not taken. {refused.text}
        {takesEnter && hasKeys() && refused.suggestion && ` Enter takes ${refused.suggestion}${unitOf(entry)}.`}
        {takesEnter && hasKeys() && refused.code === "odd-input" && ` Enter once more keeps ${said(entry)}.`}
      </span>
      {better && (
        <Button kind="main" onPress={() => settle(better)}>
          {refused.suggestion ? `Take ${refused.suggestion}` : "It is right, keep it"}
        </Button>
      )}
      {refused.code === "negative-voltage" && (
        <>
          <Button kind="main" onPress={() => settle(changed(entry, { turned: "leads-swapped" }))}>
            The leads were swapped
          </Button>
          <Button onPress={() => settle(changed(entry, { turned: "can-is-plus" }))}>Its can is plus</Button>
        </>
      )}
      {refused.code === "went-too-far" && (
        <Button kind="danger" onPress={() => settle(changed(entry, { happened: true }))}>
          It happened: write it down
        </Button>
      )}
      {onAgain && <Button onPress={() => onAgain(waiting)}>Type it again</Button>}
      <Button
        onPress={() => {
          void discard(id);
          onSettled?.();
        }}
      >
        Let it go
      </Button>
    </Row>
  );
}

/** What the server would take of a refused entry: the likely value, or the same once more; null: a person has to say. */
export function accepted({ entry, refused }: WaitingEntry): QueuedEntry | Pick | null {
  if (refused?.suggestion) return changed(entry, { value: refused.suggestion });
  return refused?.code === "odd-input" ? changed(entry, { confirmed: true }) : null;
}

/** The same entry with other answers in it. */
function changed(entry: QueuedEntry | Pick, by: Record<string, unknown>): QueuedEntry | Pick {
  return { ...entry, body: { ...entry.body, ...by } } as QueuedEntry | Pick;
}

const UNITS = { voltage: "V", capacity: "mAh", resistance: "mΩ" } as const;

function unitOf(entry: QueuedEntry | Pick): string {
  if (entry.to === "first-looks") return " V";
  return entry.to === "readings" ? ` ${UNITS[entry.body.quantity]}` : "";
}

/** What an entry says, in a few words. */
export function said(entry: EntryInput | Pick): string {
  switch (entry.to) {
    case "first-looks":
      return [words(entry.body.findings), entry.body.value && `${entry.body.value} V`].filter(Boolean).join(", ");
    case "inspections":
      return words(entry.body.findings);
    case "readings":
      return `${entry.body.value} ${UNITS[entry.body.quantity]}`;
    case "measurements":
      return "A figure worked out";
    case "charges":
      return `Charge to ${entry.body.end_v} V`;
    case "repairs":
      return `Mended: ${words(entry.body.done)}`;
    case "recoveries":
      return `Recovery ${entry.body.outcome}`;
    case "recovery-starts":
      return "Recovery begun, its clock runs";
    case "recovery-checks":
      return `${entry.body.value} V in recovery`;
    case "moves":
      return `Lies in ${entry.body.place}`;
    case "uses":
      return `In use in ${entry.body.device}`;
    case "skips":
      return `No ${entry.body.what} taken`;
    case "decisions":
      return "Decided";
    case "shelvings":
      return "On the shelf";
    case "out-box":
      return "In the out-box";
    case "withdrawals":
      return "Taken back";
    case "picks":
      return entry.body.back ? `Put back, of pack ${entry.pack}` : `Picked for pack ${entry.pack}`;
  }
}

function words(findings: readonly Finding[]): string {
  if (findings.length === 0) return "Nothing found";
  const names = findings.map((finding) => FINDING_WORDS[finding]).join(", ");
  return findings.some(isHazard) ? `${names}: into the fire-safe box` : names;
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--slit) var(--step);
  > span { flex: 1 1 16rem; }
`;
