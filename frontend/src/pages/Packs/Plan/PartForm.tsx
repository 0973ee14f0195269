import { useState } from "react";
import styled from "styled-components";
import { type Catalogue, Problem, type Schemas } from "../../../api/client";
import { useParts } from "../../../api/queries";
import { AskForm } from "../../../components/AskForm";
import { Button } from "../../../components/Button";
import { Field } from "../../../components/Fields";
import { NeedFields } from "../../../components/NeedFields";
import { Pick } from "../../../components/Pick";
import { type Asked, beginning, keptAs, type PartIn } from "./parts";

const OWN = "own";

/** One part of a plan: from the catalogue, from a donor's kept parts, or with figures of its own. */
export function PartForm({
  catalogue,
  asked,
  part,
  send,
  isSending,
  problem,
  onKeep,
  onLeave,
}: {
  catalogue: Catalogue;
  asked: Asked;
  part: PartIn | null;
  send: string;
  isSending: boolean;
  problem: unknown;
  onKeep: (part: PartIn) => void;
  onLeave: () => void;
}) {
  const kept = useParts();
  const [name, setName] = useState(part?.name ?? "");
  const [figures, setFigures] = useState({ ...beginning(asked), ...part?.figures });
  const [partId, setPartId] = useState(part?.part_id ?? null);
  const [from, setFrom] = useState(part?.part_id ? `part-${part.part_id}` : OWN);
  const kinds = catalogue.pack_parts.filter((row) => row.kind === asked.kind && row.is_active);
  const here = keptAs(asked.kind, kept.data?.parts ?? []);
  const take = (from: string) => {
    setFrom(from);
    const row = kinds.find((each) => `kind-${each.id}` === from);
    const donors = here.find((each) => `part-${each.id}` === from);
    setPartId(donors?.id ?? null);
    if (row) {
      setName(row.name);
      setFigures({ ...beginning(asked), ...row.figures });
    }
    if (donors) setName(`${donors.description || "kept part"}, from ${donors.donor_number}`);
  };
  const wrong = problem instanceof Problem ? { field: problem.field, text: problem.message } : null;
  const isAtField = asked.needs.some((need) => need.key === wrong?.field && need.need !== "choice");
  return (
    <Around>
      <AskForm
        problem={isAtField ? null : problem}
        onSend={() => onKeep({ kind: asked.kind, name, figures, part_id: partId })}
        send={send}
        isSending={isSending}
        besides={
          <Button kind="quiet" onPress={onLeave}>
            Leave it
          </Button>
        }
      >
        <Stack>
          {(kinds.length > 0 || here.length > 0) && (
            <Pick
              label="Take it from"
              value={from}
              onChange={take}
              options={[[OWN, "figures of my own"], ...optionsOf(kinds, here)]}
            />
          )}
          <Field label="Which one is it" value={name} onChange={setName} maxLength={60} hint="May stay empty." />
          <NeedFields
            needs={asked.needs}
            values={figures}
            onChange={(key, value) => setFigures((before) => ({ ...before, [key]: value }))}
            wrong={wrong}
          />
        </Stack>
      </AskForm>
    </Around>
  );
}

const optionsOf = (
  kinds: Catalogue["pack_parts"],
  here: readonly Schemas["PartOut"][],
): (readonly [string, string])[] => [
  ...kinds.map((row) => [`kind-${row.id}`, row.name] as const),
  ...here.map((each) => [`part-${each.id}`, `kept: ${each.description || "no word"} (${each.donor_number})`] as const),
];

const Around = styled.div`padding: var(--apart) 0;`;
const Stack = styled.div`display: grid; gap: var(--apart);`;
