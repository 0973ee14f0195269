import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";

/** An entry that is wrong where nobody knows the right one: struck out with a ground, it stays readable and counts no longer. */
export function StrikeForm({ number, entryId, onDone }: { number: string; entryId: number; onDone: () => void }) {
  const typed = useTyped({ why: "" });
  const strike = useWrite(
    (body: Schemas["StrikeIn"], key) =>
      answer(() => api.POST("/api/cells/{number}/strikes", { params: { path: { number } }, headers: once(key), body })),
    onDone,
  );
  return (
    <Stack
      problem={strike.error}
      send="Strike it out"
      waitsFor={typed.values.why.trim() === "" ? "First say why." : null}
      isSending={strike.isPending}
      besides={<Button onPress={onDone}>Leave it</Button>}
      onSend={() => strike.mutate({ entry_id: entryId, why: typed.values.why })}
    >
      <Field
        label="Why is it struck out?"
        {...typed.field("why")}
        hint="e.g. meant for the cell beside it, right value not known"
        maxLength={300}
        autoFocus
      />
    </Stack>
  );
}

const Stack = styled(
  AskForm,
)`display: grid; gap: var(--gap); margin: var(--near) 0; padding: var(--apart); border: 2px solid ${({ theme }) => theme.color.ink};`;
