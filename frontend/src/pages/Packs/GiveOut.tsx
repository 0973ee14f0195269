import styled from "styled-components";
import { Problem } from "../../api/client";
import { RoomyForm, useTyped } from "../../components/AskForm";
import { Field } from "../../components/Fields";

type Given = { given_to: string; job: string };

/** A pack goes out: with a word for what it does there, and how somebody is reached who wants that. */
export function GiveOut({
  onGive,
  isSending,
  problem,
}: {
  onGive: (given: Given) => void;
  isSending: boolean;
  problem: unknown;
}) {
  const typed = useTyped({ job: "", given_to: "" });
  return (
    <Box
      problem={problem instanceof Problem && ["given_to", "job"].includes(problem.field ?? "") ? problem : null}
      send="Give it out"
      isSending={isSending}
      onSend={() => onGive(typed.values)}
    >
      <Field label="What it does there, in a word or two" {...typed.field("job")} maxLength={200} />
      <Field
        label="How somebody is reached, if they want that"
        {...typed.field("given_to")}
        maxLength={200}
        hint="They are called if it turns out dangerous. Nobody has to say; it is forgotten whenever they ask."
      />
    </Box>
  );
}

const Box = styled(RoomyForm)`max-width: 36rem;`;
