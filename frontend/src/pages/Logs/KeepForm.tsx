import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Cell, once, Problem, type Schemas } from "../../api/client";
import type { Log } from "../../api/measuring";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Choice, Field } from "../../components/Fields";
import { Judgement } from "../../components/Judgement";
import { NextStep } from "../../components/NextStep";
import { Notice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { Tape } from "../../components/Tape";

type Test = Schemas["LogTestOut"];
type WasFull = "yes" | "no" | "unknown";
const WAS_FULL: [WasFull, string][] = [
  ["yes", "Yes, to the end"],
  ["no", "No"],
  ["unknown", "Nobody knows"],
];
const STARTED_FULL = { yes: true, no: false, unknown: null } as const;

/** Keeps what a test measured as readings of a cell; of a run it asks whether it began full. */
export function KeepForm({ log, test, measured }: { log: Log; test: number; measured: Test }) {
  const typed = useTyped({ cell: log.cell ?? "" });
  const { cell } = typed.values;
  const [wasFull, setWasFull] = useState<WasFull | null>(null);
  const keep = useWrite((body: Schemas["KeepLogIn"], key) =>
    answer(() =>
      api.POST("/api/logs/{log_id}/readings", { params: { path: { log_id: log.id } }, body, headers: once(key) }),
    ),
  );
  const hasCharge = measured.charge_capacity_mah !== null;
  const isAsked = measured.discharge_capacity_mah !== null && !hasCharge;
  const odd = keep.error instanceof Problem && keep.error.code === "odd-input" ? keep.error : null;
  if (keep.data) return <Kept cell={keep.data.cell} />;
  if (log.kept_tests.includes(test))
    return (
      <Sheet>
        <p>This is kept for cell</p>
        {log.cell && <Tape to={`/cells/${log.cell}`}>{log.cell}</Tape>}
      </Sheet>
    );
  if (measured.discharge_capacity_mah === null && !hasCharge) return null;
  return (
    <Sheet aria-label="Keep it">
      <KeepStack
        problem={odd ? null : keep.error}
        standsAt={{ number: "cell" }}
        kind="main"
        send={odd ? "Keep it all the same" : "Keep it"}
        isSending={keep.isPending}
        waitsFor={whatIsMissing(cell, isAsked, wasFull)}
        onSend={() =>
          keep.mutate({
            cell: cell.trim(),
            test,
            confirmed: odd !== null,
            started_full: hasCharge ? null : STARTED_FULL[wasFull ?? "unknown"],
          })
        }
      >
        <Field
          label="Keep it for cell"
          numeric
          size="key"
          {...typed.field("cell")}
          maxLength={20}
          autoComplete="off"
          hint="The number on its tape."
        />
        {isAsked && (
          <Choice
            label="Was it full before this run?"
            value={wasFull ?? ("" as WasFull)}
            onChange={setWasFull}
            options={WAS_FULL}
          />
        )}
        {isAsked && (wasFull === "no" || wasFull === "unknown") && (
          <p>
            Then it is kept as what this part gave, and graded by none of it unless a full charge was entered before.
          </p>
        )}
        {measured.discharge_capacity_mah !== null && hasCharge && (
          <p>The charge in this log is kept with it, and tells whether it was full before.</p>
        )}
        {odd && <Notice kind="ask">{odd.message} Enter once more keeps it.</Notice>}
      </KeepStack>
    </Sheet>
  );
}

function whatIsMissing(cell: string, isAsked: boolean, wasFull: WasFull | null): string | null {
  if (cell.trim() === "") return "First the cell's number.";
  return isAsked && wasFull === null ? "First say whether it was full." : null;
}

function Kept({ cell }: { cell: Cell }) {
  return (
    <Sheet>
      <Notice kind="kept">Kept for cell {cell.number}.</Notice>
      <Stack>
        <Tape to={`/cells/${cell.number}`}>{cell.number}</Tape>
        <NextStep cell={cell} />
        <Judgement cell={cell} />
      </Stack>
    </Sheet>
  );
}

const Stack = styled.div`display: grid; gap: var(--step); min-width: 0; > * { min-width: 0; }`;
const KeepStack = styled(AskForm)`display: grid; gap: var(--apart); justify-items: start;`;
