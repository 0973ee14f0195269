import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Entry, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field, Tick } from "../../components/Fields";
import { Pick } from "../../components/Pick";
import { unitWord, VOLTAGE_STATE_WORDS } from "../../words";

type State = NonNullable<Schemas["ReadingIn"]["state"]>;

/** A right value in place of a wrong one, with the ground for it; the old one stays readable. */
export function CorrectForm({ number, entry, onDone }: { number: string; entry: Entry; onDone: () => void }) {
  const typed = useTyped({ value: "", why: "" });
  const { value, why } = typed.values;
  const [state, setState] = useState<State>((entry.voltage_state as State | null) ?? "resting");
  const [complete, setComplete] = useState(entry.complete ?? true);
  const correct = useWrite(
    (body: Schemas["CorrectionIn"], key) =>
      answer(() =>
        api.POST("/api/cells/{number}/corrections", { params: { path: { number } }, headers: once(key), body }),
      ),
    onDone,
  );
  const isOdd = correct.error instanceof Problem && correct.error.code === "odd-input";
  if (!entry.quantity || !entry.method) return null;
  const { quantity, method } = entry;
  return (
    <Stack
      problem={correct.error}
      send={isOdd ? "It is right all the same" : "Keep the correction"}
      isSending={correct.isPending}
      besides={<Button onPress={onDone}>Leave it</Button>}
      onSend={() =>
        correct.mutate({
          entry_id: entry.id,
          why,
          reading: {
            quantity,
            value,
            method,
            confirmed: isOdd,
            complete,
            state,
            instrument: entry.instrument,
            current_ma: entry.current_ma === null ? null : String(entry.current_ma),
            cut_off_v: entry.cut_off_v === null ? null : String(entry.cut_off_v),
          },
        })
      }
    >
      <Field
        label="Right value"
        unit={unitWord(entry.unit)}
        numeric
        {...typed.field("value")}
        autoFocus
        maxLength={20}
      />
      {quantity === "voltage" && (
        <Pick
          label="In which state"
          value={state}
          onChange={setState}
          options={Object.entries(VOLTAGE_STATE_WORDS) as [State, string][]}
        />
      )}
      {quantity === "capacity" && (
        <Tick isSelected={complete} onChange={setComplete}>
          From full, down to the cut-off, without a break
        </Tick>
      )}
      <Field label="Why" {...typed.field("why")} hint="e.g. typed into the wrong cell" maxLength={300} />
    </Stack>
  );
}

const Stack = styled(
  AskForm,
)`display: grid; gap: var(--gap); margin: var(--near) 0; padding: var(--apart); border: 2px solid ${({ theme }) => theme.color.ink};`;
