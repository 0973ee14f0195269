import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Donor, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Field } from "../../components/Fields";
import { Sheet } from "../../components/Page";
import { PartLines } from "../../components/PartLines";
import { Pick } from "../../components/Pick";
import { PART_WORDS } from "../../words";

type Kind = Schemas["PartOut"]["kind"];

/** Good parts of a donor that were kept for another job. */
export function PartsList({ donor }: { donor: Donor }) {
  const [kind, setKind] = useState<Kind>("charger-board");
  const typed = useTyped({ description: "" });
  const keep = useWrite(
    (body: Schemas["PartIn"], key) =>
      answer(() =>
        api.POST("/api/donors/{number}/parts", {
          params: { path: { number: donor.number } },
          headers: once(key),
          body,
        }),
      ),
    typed.clear,
  );
  return (
    <Box aria-label="Parts kept">
      <h2>Good parts kept</h2>
      <PartLines parts={donor.parts} />
      <Row
        problem={keep.error}
        send="Keep this part"
        kind="plain"
        isSending={keep.isPending}
        onSend={() => keep.mutate({ kind, description: typed.values.description })}
      >
        <Pick label="Part" value={kind} onChange={setKind} options={Object.entries(PART_WORDS) as [Kind, string][]} />
        <Field label="Which one" {...typed.field("description")} maxLength={200} />
      </Row>
    </Box>
  );
}

const Box = styled(Sheet)`display: grid; gap: var(--apart);`;
const Row = styled(
  AskForm,
)`display: grid; grid-template-columns: 1fr 1fr auto; gap: var(--apart); align-items: end; width: 100%; ${({ theme }) => theme.narrow} { grid-template-columns: 1fr; }`;
