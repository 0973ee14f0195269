import { useEffect, useRef, useState } from "react";
import { Form } from "react-aria-components";
import { Problem } from "../../api/client";
import { Field } from "../../components/Fields";

/** The number on the tape, Enter. */
export function NumberForm({
  current,
  problem,
  isTypedInto,
  onChoose,
  onNothing,
}: {
  current: string | undefined;
  problem: unknown;
  /** The form below it has the keys, whatever is heard of the number. */
  isTypedInto: boolean;
  onChoose: (number: string) => void;
  /** Enter, with no number typed. */
  onNothing: () => void;
}) {
  const [text, setText] = useState(current ?? "");
  const [shown, setShown] = useState(current);
  const input = useRef<HTMLInputElement>(null);
  const isWrong = problem instanceof Problem;
  if (shown !== current) {
    setShown(current);
    setText(current ?? "");
  }
  useEffect(() => {
    if (current && (!isWrong || isTypedInto)) return;
    input.current?.focus();
    input.current?.select();
  }, [current, isWrong, isTypedInto]);
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onChoose(text.trim());
        else onNothing();
      }}
    >
      <Field
        label="Cell number"
        numeric
        size={current && !isWrong ? "plain" : "key"}
        value={text}
        onChange={setText}
        inputRef={input}
        autoComplete="off"
        maxLength={20}
        error={isWrong ? problem.message : null}
        hint={current ? undefined : "Type it or scan it, then Enter."}
      />
    </Form>
  );
}
