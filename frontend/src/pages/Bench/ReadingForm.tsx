import { useEffect, useRef, useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { type Cell, Problem, type Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { Field, Pick, Tick } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { METHOD_WORDS } from "../../words";
import type { EntryInput } from "./entries";
import { useRemembered } from "./remembered";
import { SkipResistance } from "./SkipResistance";

type Quantity = Schemas["ReadingIn"]["quantity"];
type Method = Schemas["ReadingIn"]["method"];
export type FormProps = { cell: Cell; onSend: (entry: EntryInput) => void; problem: unknown; isSending: boolean };

const UNIT: Record<Quantity, string> = { voltage: "V", capacity: "mAh", resistance: "mΩ" };
const LABEL: Record<Quantity, string> = { voltage: "Resting voltage", capacity: "Capacity", resistance: "Resistance" };
const CAPACITY_METHODS: Method[] = [
  "tester",
  "trace",
  "resistor-clock",
  "resistor-log",
  "charge-counted",
  "usb-linear",
  "usb-switching",
  "usb-step-up",
];
const RESISTANCE_METHODS: Method[] = ["ac-1khz", "dc-10s", "dc-1s", "tester"];
const withWords = (methods: Method[]) => methods.map((method) => [method, METHOD_WORDS[method] ?? method] as const);

/** One value, Enter. An odd value is asked about once, a likely slip is offered mended. */
export function ReadingForm({ cell, quantity, onSend, problem, isSending }: FormProps & { quantity: Quantity }) {
  const [value, setValue] = useState("");
  const [complete, setComplete] = useState(true);
  const [settings, remember] = useRemembered(quantity, {
    method: (quantity === "voltage" ? "meter" : quantity === "capacity" ? "tester" : "ac-1khz") as Method,
    current: "1000",
    cutOff: "3.0",
  });
  const refused = useRefusal(problem, value);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);

  const send = (typed: string, confirmed: boolean) =>
    onSend({
      to: "readings",
      body: {
        quantity,
        value: typed,
        method: settings.method,
        confirmed,
        complete,
        current_ma: quantity === "capacity" ? settings.current : null,
        cut_off_v: quantity === "capacity" ? settings.cutOff : null,
      },
    });

  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (isSending) return;
        if (refused?.suggestion) {
          setValue(refused.suggestion);
          send(refused.suggestion, false);
        } else send(value, refused?.code === "odd-input");
      }}
    >
      <Field
        label={LABEL[quantity]}
        unit={UNIT[quantity]}
        size="key"
        numeric
        value={value}
        onChange={setValue}
        inputRef={input}
        autoComplete="off"
        maxLength={20}
        error={
          refused && refused.code !== "odd-input" && refused.field !== "cut_off_v" && refused.field !== "current_ma"
            ? refused.message
            : null
        }
        hint={quantity === "voltage" ? "With nothing connected. Comma or point." : undefined}
      />
      {refused?.suggestion && (
        <Notice kind="ask">
          Enter takes {refused.suggestion} {UNIT[quantity]}. Or type it again.
        </Notice>
      )}
      {refused?.code === "odd-input" && (
        <Notice kind="ask">
          {refused.message} Enter once more keeps {value}.
        </Notice>
      )}
      {quantity === "capacity" && (
        <>
          <Pick
            label="Measured by"
            value={settings.method}
            onChange={(method) => remember({ ...settings, method })}
            options={withWords(CAPACITY_METHODS)}
          />
          <Pair>
            <Field
              label="Current"
              unit="mA"
              numeric
              value={settings.current}
              onChange={(current) => remember({ ...settings, current })}
              maxLength={20}
              error={refused?.field === "current_ma" ? refused.message : null}
            />
            <Field
              label="Cut-off"
              unit="V"
              numeric
              value={settings.cutOff}
              onChange={(cutOff) => remember({ ...settings, cutOff })}
              maxLength={20}
              error={refused?.field === "cut_off_v" ? refused.message : null}
            />
          </Pair>
          <Tick isSelected={complete} onChange={setComplete}>
            From full, down to the cut-off, without a break
          </Tick>
        </>
      )}
      {quantity === "resistance" && (
        <Pick
          label="Measured by"
          value={settings.method}
          onChange={(method) => remember({ ...settings, method })}
          options={withWords(RESISTANCE_METHODS)}
        />
      )}
      <Button kind="main" type="submit" isDisabled={isSending}>
        {refused?.suggestion
          ? `Take ${refused.suggestion} ${UNIT[quantity]}`
          : refused?.code === "odd-input"
            ? `Keep ${value} ${UNIT[quantity]}`
            : "Keep it"}
      </Button>
      {quantity === "resistance" && <SkipResistance number={cell.number} onSend={onSend} />}
    </Stack>
  );
}

/** The refusal of the last value, until something else is typed. */
function useRefusal(problem: unknown, value: string): Problem | null {
  const about = useRef<{ problem: unknown; value: string }>({ problem: null, value: "" });
  if (about.current.problem !== problem) about.current = { problem, value };
  return problem instanceof Problem && about.current.value === value ? problem : null;
}

export const Stack = styled(Form)`display: grid; gap: 0.875rem; justify-items: start; > * { max-width: 100%; }`;
const Pair = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 0.875rem;`;
