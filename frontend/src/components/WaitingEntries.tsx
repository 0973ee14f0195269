import { useEffect } from "react";
import styled from "styled-components";
import { newKey } from "../api/client";
import type { QueuedEntry } from "../api/entries";
import { useSession } from "../api/queries";
import { discard, flush, keepSending, sendChanged, useWaiting, type WaitingEntry } from "../api/waiting";
import { dayAndTime, FINDING_WORDS } from "../words";
import { Button } from "./Button";
import { Tape } from "./Tape";

/** What was typed and is not on the server yet. It stands on every page until it is, or until somebody decides. */
export function WaitingEntries() {
  const { entries, trouble } = useWaiting();
  const session = useSession();
  const name = session.data?.person?.name;
  useEffect(keepSending, []);
  useEffect(() => {
    if (name) void flush();
  }, [name]);
  if (entries.length === 0) return null;
  const refused = entries.filter((entry) => entry.refused);
  const others = entries.filter((entry) => entry.person !== name);
  const waiting = entries.length - refused.length;
  return (
    <Strip aria-live="polite" aria-label="Not on the server yet">
      {waiting > 0 && (
        <Row>
          <strong>
            {waiting} {waiting === 1 ? "entry waits" : "entries wait"} in this browser
          </strong>
          <span>
            {others.length > 0
              ? `Typed by ${others[0]?.person}; sent once ${others[0]?.person} signs in here.`
              : (trouble ?? "Sent once the server can be reached.")}
          </span>
          <Button onPress={() => void flush()}>Try now</Button>
        </Row>
      )}
      {refused.map((entry) => (
        <Refused key={entry.key} entry={entry} />
      ))}
    </Strip>
  );
}

function Refused({ entry }: { entry: WaitingEntry }) {
  const { refused, number } = entry;
  if (!refused) return null;
  const suggested = refused.suggestion ? withValue(entry.entry, refused.suggestion) : null;
  const confirmed = refused.code === "odd-input" ? confirm(entry.entry) : null;
  return (
    <Row>
      <Tape size="small" to={`/bench/${number}`}>
        {number}
      </Tape>
      <span>
        <strong>{said(entry.entry)}</strong>, typed {dayAndTime(entry.typedAt)}, was not taken. {refused.text}
      </span>
      {suggested && (
        <Button kind="main" onPress={() => sendChanged(entry.key, suggested, newKey())}>
          Take {refused.suggestion}
        </Button>
      )}
      {confirmed && (
        <Button kind="main" onPress={() => sendChanged(entry.key, confirmed, newKey())}>
          It is right, keep it
        </Button>
      )}
      <Button onPress={() => discard(entry.key)}>Let it go</Button>
    </Row>
  );
}

/** What an entry says, in a few words. */
export function said(entry: QueuedEntry): string {
  switch (entry.to) {
    case "first-looks":
      return [words(entry.body.findings), entry.body.value && `${entry.body.value} V`].filter(Boolean).join(", ");
    case "inspections":
      return words(entry.body.findings);
    case "readings":
      return `${entry.body.value} ${{ voltage: "V", capacity: "mAh", resistance: "mΩ" }[entry.body.quantity]}`;
    case "charges":
      return `Charge to ${entry.body.end_v} V`;
    case "repairs":
      return `Mended: ${words(entry.body.done)}`;
  }
}

function words(findings: (keyof typeof FINDING_WORDS)[]): string {
  return findings.length === 0 ? "Nothing found" : findings.map((finding) => FINDING_WORDS[finding]).join(", ");
}

function withValue(entry: QueuedEntry, value: string): QueuedEntry | null {
  if (entry.to === "first-looks") return { ...entry, body: { ...entry.body, value } };
  if (entry.to === "readings") return { ...entry, body: { ...entry.body, value } };
  return null;
}

function confirm(entry: QueuedEntry): QueuedEntry | null {
  if (entry.to === "first-looks") return { ...entry, body: { ...entry.body, confirmed: true } };
  if (entry.to === "readings") return { ...entry, body: { ...entry.body, confirmed: true } };
  return null;
}

const Strip = styled.aside`
  display: grid;
  gap: 0.5rem;
  padding: 0.625rem ${({ theme }) => theme.space.room};
  border-bottom: 3px solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.askPaper};
  ${({ theme }) => theme.narrow} { padding: 0.5rem 0.75rem; }
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.25rem 0.875rem;
  > span { flex: 1 1 16rem; }
`;
