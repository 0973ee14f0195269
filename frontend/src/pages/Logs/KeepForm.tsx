import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import type { Log } from "../../api/measuring";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
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
  const [cell, setCell] = useState(log.cell ?? "");
  const [wasFull, setWasFull] = useState<WasFull | null>(null);
  const keep = useWrite((confirmed: boolean, key) =>
    answer(() =>
      api.POST("/api/logs/{log_id}/readings", {
        params: { path: { log_id: log.id } },
        body: {
          cell: cell.trim(),
          test,
          confirmed,
          started_full: hasCharge ? null : STARTED_FULL[wasFull ?? "unknown"],
        },
        headers: once(key),
      }),
    ),
  );
  const hasCharge = measured.charge_capacity_mah !== null;
  const isAsked = measured.discharge_capacity_mah !== null && !hasCharge;
  const problem = keep.error instanceof Problem ? keep.error : null;
  const isOdd = problem?.code === "odd-input";
  if (keep.data)
    return (
      <Sheet>
        <Notice kind="kept">Kept for cell {keep.data.cell.number}.</Notice>
        <Stack>
          <Tape to={`/cells/${keep.data.cell.number}`}>{keep.data.cell.number}</Tape>
          <NextStep cell={keep.data.cell} />
          <Judgement cell={keep.data.cell} />
        </Stack>
      </Sheet>
    );
  if (log.kept_tests.includes(test))
    return (
      <Sheet>
        <p>This is kept for cell</p>
        {log.cell && <Tape to={`/cells/${log.cell}`}>{log.cell}</Tape>}
      </Sheet>
    );
  if (measured.discharge_capacity_mah === null && measured.charge_capacity_mah === null) return null;
  return (
    <Sheet aria-label="Keep it">
      <KeepStack
        onSubmit={(event) => {
          event.preventDefault();
          if (!keep.isPending) keep.mutate(isOdd);
        }}
      >
        <Field
          label="Keep it for cell"
          numeric
          size="key"
          value={cell}
          onChange={setCell}
          maxLength={20}
          autoComplete="off"
          error={problem && !isOdd ? problem.message : null}
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
        {isOdd && <Notice kind="ask">{problem.message} Enter once more keeps it.</Notice>}
        <Button
          kind="main"
          type="submit"
          waitsFor={
            cell.trim() === ""
              ? "First the cell's number."
              : isAsked && wasFull === null
                ? "First say whether it was full."
                : null
          }
          isDisabled={keep.isPending}
        >
          {isOdd ? "Keep it all the same" : "Keep it"}
        </Button>
      </KeepStack>
    </Sheet>
  );
}

const Stack = styled.div`display: grid; gap: var(--step); min-width: 0; > * { min-width: 0; }`;
const KeepStack = styled(Form)`display: grid; gap: var(--apart); justify-items: start;`;
