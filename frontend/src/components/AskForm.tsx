import {
  type ComponentProps,
  type FormEvent,
  type ReactNode,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { Problem } from "../api/client";
import { Button } from "./Button";
import { ProblemNotice } from "./Notice";

/** What was typed into a form, by the names of its fields; `field` gives a field its name, its value and where it goes. */
export function useTyped<Values extends Record<string, string>>(first: Values) {
  const [values, setValues] = useState(first);
  const set = (name: keyof Values, value: string) => setValues((before) => ({ ...before, [name]: value }));
  return {
    values,
    set,
    /** Begins afresh, once it was kept. */
    clear: () => setValues(first),
    field: <Name extends keyof Values & string>(name: Name) => ({
      name,
      value: values[name],
      onChange: (value: string) => set(name, value),
    }),
  };
}

type Props = Omit<ComponentProps<typeof Form>, "onSubmit" | "validationErrors"> & {
  /** What the server refused: it stands at the field it names, and goes once that is typed over; else above the button. */
  problem: unknown;
  /** Where it stands when the server calls a thing otherwise than the form: `{ number: "cell" }`. */
  standsAt?: Record<string, string>;
  onSend: () => void;
  send: ReactNode;
  isSending: boolean;
  /** There is nothing to send yet, as anyone can see. */
  isDisabled?: boolean;
  kind?: "main" | "plain" | "danger";
  /** What has to be said first; null: nothing. */
  waitsFor?: string | null;
  /** What can be done instead, below what was refused. */
  instead?: ReactNode;
  /** Beside the button that sends. */
  besides?: ReactNode;
};

/** A form that asks for several things and is sent once, over React Aria's own validation. */
export function AskForm({
  problem,
  standsAt,
  onSend,
  send,
  isSending,
  isDisabled = false,
  kind = "main",
  waitsFor,
  instead,
  besides,
  children,
  ...rest
}: Props) {
  const form = useRef<HTMLFormElement>(null);
  const sends = useRef<HTMLButtonElement>(null);
  const refused = problem instanceof Problem ? problem.field : null;
  const named = refused ? (standsAt?.[refused] ?? refused) : null;
  // A button that waits for its answer loses the focus: it has it again, so that the next key is not lost.
  useEffect(() => {
    if (problem && document.activeElement === document.body) sends.current?.focus();
  }, [problem]);
  const [isBeside, setBeside] = useState(false);
  const [typedOver, setTypedOver] = useState<unknown>(null);
  useLayoutEffect(() => setBeside(named !== null && Boolean(form.current?.elements.namedItem(named))), [named]);
  const errors = useMemo(
    () => (named && problem instanceof Problem && problem !== typedOver ? { [named]: problem.message } : undefined),
    [named, problem, typedOver],
  );
  // React Aria lets it go when the field is left; the button would move away from under the press that leaves it.
  const letGo = (event: FormEvent<HTMLDivElement>) => {
    if ((event.target as HTMLInputElement).name === named) setTypedOver(problem);
  };
  const button = (
    <Button ref={sends} kind={kind} type="submit" waitsFor={waitsFor} isDisabled={isSending || isDisabled}>
      {send}
    </Button>
  );
  return (
    <Around onInput={letGo}>
      <Form
        {...rest}
        ref={form}
        validationBehavior="aria"
        validationErrors={errors}
        onSubmit={(event) => {
          event.preventDefault();
          if (!isSending && !isDisabled && !waitsFor) onSend();
        }}
      >
        {children as ReactNode}
        {!isBeside && <ProblemNotice problem={problem} />}
        {instead}
        {besides ? (
          <Row>
            {button}
            {besides}
          </Row>
        ) : (
          button
        )}
      </Form>
    </Around>
  );
}

const Around = styled.div`display: contents;`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near) var(--apart);`;
/** The same with its fields one below the other, apart. */
export const RoomyForm = styled(AskForm)`display: grid; gap: var(--apart); justify-items: start; width: 100%;`;
