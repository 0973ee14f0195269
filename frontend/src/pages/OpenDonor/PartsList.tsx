import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, type Donor, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { PART_WORDS } from "../../words";

type Kind = Schemas["PartOut"]["kind"];

/** Good parts of a donor that were kept for another job. */
export function PartsList({ donor }: { donor: Donor }) {
  const [kind, setKind] = useState<Kind>("charger-board");
  const [description, setDescription] = useState("");
  const keep = useWrite(
    (body: Schemas["PartIn"], key) =>
      answer(() =>
        api.POST("/api/donors/{number}/parts", {
          params: { path: { number: donor.number } },
          headers: once(key),
          body,
        }),
      ),
    () => setDescription(""),
  );
  return (
    <Box aria-label="Parts kept">
      <h2>Good parts kept</h2>
      <PartLines parts={donor.parts} />
      <Row
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate({ kind, description });
        }}
      >
        <Pick label="Part" value={kind} onChange={setKind} options={Object.entries(PART_WORDS) as [Kind, string][]} />
        <Field label="Which one" value={description} onChange={setDescription} maxLength={200} />
        <Button type="submit" isDisabled={keep.isPending}>
          Keep this part
        </Button>
      </Row>
      <ProblemNotice problem={keep.error} />
    </Box>
  );
}

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
  const [why, setWhy] = useState("");
  const gone = useWrite(
    (body: Schemas["PartGoneIn"], key) =>
      answer(() =>
        api.POST("/api/parts/{part_id}/gone", { params: { path: { part_id: part.id } }, headers: once(key), body }),
      ),
    onDone,
  );
  return (
    <Row
      onSubmit={(event) => {
        event.preventDefault();
        gone.mutate({ why });
      }}
    >
      <Field
        label="What it went into"
        value={why}
        onChange={setWhy}
        maxLength={200}
        autoFocus
        error={gone.error instanceof Problem ? gone.error.message : null}
      />
      <Button type="submit" isDisabled={gone.isPending}>
        Gone
      </Button>
    </Row>
  );
}

const Box = styled(Sheet)`display: grid; gap: 0.75rem;`;
const Row = styled(
  Form,
)`display: grid; grid-template-columns: 1fr 1fr auto; gap: 0.75rem; align-items: end; width: 100%; ${({ theme }) => theme.narrow} { grid-template-columns: 1fr; }`;
const Lines = styled.ul`
  display: grid;
  li { display: flex; flex-wrap: wrap; align-items: center; justify-content: space-between; gap: 0.25rem 1rem; padding: 0.25rem 0; border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
`;
const Small = styled.span`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
