import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { Problem } from "../../api/client";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";

/** Who gets a pack: whoever has it is called if a cell of it turns out dangerous. */
export function GiveOut({
  onGive,
  isSending,
  problem,
}: {
  onGive: (givenTo: string) => void;
  isSending: boolean;
  problem: unknown;
}) {
  const [givenTo, setGivenTo] = useState("");
  return (
    <Box
      onSubmit={(event) => {
        event.preventDefault();
        onGive(givenTo);
      }}
    >
      <Field
        label="Who gets it, and how are they reached"
        value={givenTo}
        onChange={setGivenTo}
        maxLength={200}
        hint="Name and telephone, or where to knock: they are called if it turns out dangerous."
        error={problem instanceof Problem && problem.field === "given_to" ? problem.message : null}
      />
      <Button kind="main" type="submit" isDisabled={isSending}>
        Give it out
      </Button>
    </Box>
  );
}

const Box = styled(Form)`display: grid; gap: 0.75rem; justify-items: start; max-width: 36rem;`;
