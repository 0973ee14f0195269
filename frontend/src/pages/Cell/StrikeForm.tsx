import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";

/** An entry that is wrong where nobody knows the right one: struck out with a ground, it stays readable and counts no longer. */
export function StrikeForm({ number, entryId, onDone }: { number: string; entryId: number; onDone: () => void }) {
  const [why, setWhy] = useState("");
  const strike = useWrite(
    (body: Schemas["StrikeIn"], key) =>
      answer(() => api.POST("/api/cells/{number}/strikes", { params: { path: { number } }, headers: once(key), body })),
    onDone,
  );
  const problem = strike.error instanceof Problem ? strike.error : null;
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        strike.mutate({ entry_id: entryId, why });
      }}
    >
      <Field
        label="Why is it struck out?"
        value={why}
        onChange={setWhy}
        hint="e.g. meant for the cell beside it, right value not known"
        maxLength={300}
        autoFocus
        error={problem?.field === "why" ? problem.message : null}
      />
      {problem?.field !== "why" && <ProblemNotice problem={problem} />}
      <Row>
        <Button
          kind="main"
          type="submit"
          waitsFor={why.trim() === "" ? "First say why." : null}
          isDisabled={strike.isPending}
        >
          Strike it out
        </Button>
        <Button onPress={onDone}>Leave it</Button>
      </Row>
    </Stack>
  );
}

const Stack = styled(
  Form,
)`display: grid; gap: 0.625rem; margin: 0.5rem 0; padding: 0.75rem; border: 2px solid ${({ theme }) => theme.color.ink};`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: 0.5rem; button { min-height: 44px !important; padding: 0.375rem 0.875rem !important; }`;
