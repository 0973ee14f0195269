import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../api/client";
import { useWrite } from "../api/writing";
import { PART_WORDS } from "../words";
import { AskForm, useTyped } from "./AskForm";
import { Button } from "./Button";
import { Field } from "./Fields";

/** Kept parts, each until it is said where it went. */
export function PartLines({ parts, withDonor }: { parts: Schemas["PartOut"][]; withDonor?: boolean }) {
  const [leaving, setLeaving] = useState<number | null>(null);
  if (parts.length === 0) return null;
  return (
    <Lines>
      {parts.map((part) => (
        <li key={part.id}>
          <span>
            <strong>{PART_WORDS[part.kind]}</strong>
            {part.description && `, ${part.description}`}
            {withDonor && ` (from ${part.donor_number}, ${part.donor_description})`}
            {part.gone_why && <Small> gone: {part.gone_why}</Small>}
          </span>
          {!part.gone_at && leaving !== part.id && (
            <Button kind="quiet" onPress={() => setLeaving(part.id)}>
              It is used
            </Button>
          )}
          {leaving === part.id && <GoneForm part={part} onDone={() => setLeaving(null)} />}
        </li>
      ))}
    </Lines>
  );
}

function GoneForm({ part, onDone }: { part: Schemas["PartOut"]; onDone: () => void }) {
  const typed = useTyped({ why: "" });
  const gone = useWrite(
    (body: Schemas["PartGoneIn"], key) =>
      answer(() =>
        api.POST("/api/parts/{part_id}/gone", { params: { path: { part_id: part.id } }, headers: once(key), body }),
      ),
    onDone,
  );
  return (
    <Row
      problem={gone.error}
      send="Gone"
      kind="plain"
      isSending={gone.isPending}
      onSend={() => gone.mutate({ why: typed.values.why })}
    >
      <Field label="What it went into" {...typed.field("why")} maxLength={200} autoFocus />
    </Row>
  );
}

const Row = styled(
  AskForm,
)`display: grid; grid-template-columns: 1fr 1fr auto; gap: var(--apart); align-items: end; width: 100%; ${({ theme }) => theme.narrow} { grid-template-columns: 1fr; }`;
const Lines = styled.ul`
  display: grid;
  li { display: flex; flex-wrap: wrap; align-items: center; justify-content: space-between; gap: var(--hair) var(--block); padding: var(--hair) 0; border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
`;
const Small = styled.span`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
