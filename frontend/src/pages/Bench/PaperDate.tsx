import { useState } from "react";
import styled from "styled-components";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { dayAndTime } from "../../words";

/** When what is entered was done, where it stood on paper until now. It holds for this page, in sight, until "now" again. */
export function PaperDate({ value, onChange }: { value: string | null; onChange: (at: string | null) => void }) {
  const [isOpen, setOpen] = useState(false);
  const isGood = value !== null && !Number.isNaN(Date.parse(value));
  if (!isOpen)
    return (
      <Quietly>
        <Button kind="quiet" onPress={() => setOpen(true)}>
          It stood on paper: give its date
        </Button>
      </Quietly>
    );
  return (
    <Notice kind="ask">
      <Field
        label="Done on"
        type="datetime-local"
        value={value ?? ""}
        onChange={(next) => onChange(next || null)}
        hint={
          isGood ? `What you enter now counts from ${dayAndTime(value)}.` : "Day and time as they stand on the paper."
        }
      />
      <Button
        onPress={() => {
          onChange(null);
          setOpen(false);
        }}
      >
        Now again
      </Button>
    </Notice>
  );
}

const Quietly = styled.div`button { min-height: 44px; padding: 0; }`;
