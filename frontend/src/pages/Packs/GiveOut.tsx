import styled from "styled-components";
import { Problem } from "../../api/client";
import { AskForm, useTyped } from "../../components/AskForm";
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
  const typed = useTyped({ given_to: "" });
  return (
    <Box
      problem={problem instanceof Problem && problem.field === "given_to" ? problem : null}
      send="Give it out"
      isSending={isSending}
      onSend={() => onGive(typed.values.given_to)}
    >
      <Field
        label="Who gets it, and how are they reached"
        {...typed.field("given_to")}
        maxLength={200}
        hint="Name and telephone, or where to knock: they are called if it turns out dangerous."
      />
    </Box>
  );
}

const Box = styled(AskForm)`display: grid; gap: var(--apart); justify-items: start; max-width: 36rem;`;
