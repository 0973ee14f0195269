import { type ReactNode, type Ref, useContext } from "react";
import {
  Checkbox as AriaCheckbox,
  FieldError,
  FieldErrorContext,
  Input,
  Label,
  Radio,
  RadioGroup,
  Text,
  TextArea,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
} from "react-aria-components";
import styled, { css } from "styled-components";

type FieldProps = {
  label: string;
  /** As the server calls it: what it refuses of it then stands here. */
  name?: string;
  value: string;
  onChange: (value: string) => void;
  hint?: ReactNode;
  error?: string | null;
  unit?: string;
  size?: "plain" | "key";
  numeric?: boolean;
  type?: "text" | "password" | "datetime-local";
  autoComplete?: string;
  isRequired?: boolean;
  maxLength?: number;
  inputRef?: Ref<HTMLInputElement>;
  autoFocus?: boolean;
};

/** One line to type into. Numbers are text here: comma or point, the server reads both. */
export function Field(props: FieldProps) {
  const { label, hint, error, unit, size = "plain", numeric, inputRef, ...rest } = props;
  return (
    <TextField {...rest} isInvalid={error ? true : undefined} validationBehavior="aria">
      <FieldLabel>{label}</FieldLabel>
      <Row>
        <FieldInput
          ref={inputRef}
          $size={size}
          $numeric={Boolean(numeric)}
          inputMode={numeric ? "decimal" : undefined}
        />
        {unit && <Unit $size={size}>{unit}</Unit>}
      </Row>
      <Under error={error} hint={hint} />
    </TextField>
  );
}

/** Why it cannot be, as the page or the server says, else what belongs into it. */
function Under({ error, hint }: { error?: string | null; hint?: ReactNode }) {
  const { isInvalid } = useContext(FieldErrorContext) ?? { isInvalid: false };
  if (error) return <ErrorText slot="errorMessage">{error}</ErrorText>;
  if (isInvalid) return <Refused />;
  return hint ? <Hint slot="description">{hint}</Hint> : null;
}

/** Several lines to type into. */
export function LinesField(props: Omit<FieldProps, "size" | "numeric" | "unit" | "inputRef" | "type">) {
  const { label, hint, error, ...rest } = props;
  return (
    <TextField {...rest} isInvalid={error ? true : undefined} validationBehavior="aria">
      <FieldLabel>{label}</FieldLabel>
      <Area rows={3} />
      <Under error={error} hint={hint} />
    </TextField>
  );
}

export type ChoiceProps<T extends string> = {
  label: string;
  value: T;
  onChange: (value: T) => void;
  options: readonly (readonly [T, string])[];
  hideLabel?: boolean;
};

/** A few choices, all visible. */
export function Choice<T extends string>({ label, value, onChange, options, hideLabel }: ChoiceProps<T>) {
  return (
    <RadioGroup
      value={value}
      onChange={(next) => onChange(next as T)}
      orientation="horizontal"
      aria-label={hideLabel ? label : undefined}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <Chips>
        {options.map(([key, word]) => (
          <Chip key={key} value={key}>
            {word}
          </Chip>
        ))}
      </Chips>
    </RadioGroup>
  );
}

/** A few choices of which each changes what stands below: the arrows only move, Enter or Space chooses. */
export function Switch<T extends string>({ label, value, onChange, options }: ChoiceProps<T>) {
  return (
    <Row>
      <ToggleButtonGroup aria-label={label} selectionMode="single" disallowEmptySelection selectedKeys={[value]}>
        <Chips>
          {options.map(([key, word]) => (
            // Also for the one that is chosen already: said by hand it is meant.
            <SwitchChip key={key} id={key} onPress={() => onChange(key)}>
              {word}
            </SwitchChip>
          ))}
        </Chips>
      </ToggleButtonGroup>
    </Row>
  );
}

/** A box to tick, large enough for a thumb. `mark` is the key that ticks it. */
export function Tick({
  children,
  mark,
  ...props
}: {
  children: ReactNode;
  mark?: string;
  value?: string;
  isSelected?: boolean;
  onChange?: (is: boolean) => void;
  danger?: boolean;
}) {
  const { danger, ...rest } = props;
  return (
    <TickBox {...rest} $danger={Boolean(danger)}>
      {({ isSelected }) => (
        <>
          <Box aria-hidden="true">{isSelected ? "✕" : ""}</Box>
          <span>{children}</span>
          {mark && <Key aria-hidden="true">{mark}</Key>}
        </>
      )}
    </TickBox>
  );
}

export const FieldLabel = styled(Label)`display: block; margin-bottom: var(--hair); font-weight: 700;`;
const wrong = css`
  display: block;
  margin-top: var(--slit);
  padding: var(--slit) var(--gap);
  border-left: 5px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
`;
export const ErrorText = styled(Text)`${wrong}`;
const Refused = styled(FieldError)`${wrong}`;
export const Hint = styled(
  Text,
)`display: block; margin-top: var(--hair); font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Row = styled.div`display: flex; align-items: baseline; gap: var(--gap);`;
const Unit = styled.span<{
  $size: "plain" | "key";
}>`font-size: ${({ $size }) => ($size === "key" ? "2rem" : "inherit")};`;
const FieldInput = styled(Input)<{ $size: "plain" | "key"; $numeric: boolean }>`
  width: 100%;
  min-width: 0;
  min-height: ${({ theme }) => theme.target};
  padding: var(--hair) var(--near);
  border: 2px solid ${({ theme }) => theme.color.inkSoft};
  border-bottom: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  border-radius: 3px 3px 0 0;
  background: ${({ theme }) => theme.color.paper};
  ${({ $numeric, theme }) => $numeric && css`font-family: ${theme.font.figure};`}
  ${({ $size, theme }) => $size === "key" && css`max-width: 5.2em; font: 700 ${theme.size.key}/1.15 ${theme.font.figure};`}
  &[data-invalid] { border-color: ${({ theme }) => theme.color.danger}; }
`;
const Area = styled(TextArea)`
  width: 100%;
  padding: var(--slit) var(--near);
  border: 2px solid ${({ theme }) => theme.color.inkSoft};
  border-bottom: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  border-radius: 3px 3px 0 0;
  background: ${({ theme }) => theme.color.paper};
  &[data-invalid] { border-color: ${({ theme }) => theme.color.danger}; }
`;
const Chips = styled.div`display: flex; flex-wrap: wrap; gap: var(--near);`;
const chip = css`
  display: inline-flex;
  align-items: center;
  min-height: ${({ theme }) => theme.target};
  padding: var(--hair) var(--step);
  border: 2px solid ${({ theme }) => theme.color.inkSoft};
  border-radius: 3px;
  cursor: pointer;
  &[data-selected] { border-color: ${({ theme }) => theme.color.ink}; background: ${({ theme }) => theme.color.ink}; color: ${({ theme }) => theme.color.onInk}; font-weight: 700; }
  &[data-focus-visible] { outline: 3px solid ${({ theme }) => theme.color.pencil}; outline-offset: 2px; }
`;
const Chip = styled(Radio)`${chip}`;
const SwitchChip = styled(ToggleButton)`
  ${chip}
  background: transparent;
`;
const TickBox = styled(AriaCheckbox)<{ $danger: boolean }>`
  display: flex;
  align-items: center;
  gap: var(--gap);
  min-height: ${({ theme }) => theme.target};
  padding: var(--hair) var(--gap);
  border: 2px solid ${({ theme }) => theme.color.paperLine};
  border-radius: 3px;
  cursor: pointer;
  &[data-selected] {
    border-color: ${({ theme, $danger }) => ($danger ? theme.color.danger : theme.color.ink)};
    background: ${({ theme, $danger }) => ($danger ? theme.color.dangerPaper : theme.color.askPaper)};
    font-weight: 700;
  }
  &[data-focus-visible] { outline: 3px solid ${({ theme }) => theme.color.pencil}; outline-offset: 2px; }
`;
const Box = styled.span`
  flex: none;
  width: 24px;
  height: 24px;
  border: 2px solid currentColor;
  border-radius: 2px;
  font-weight: 800;
  line-height: 20px;
  text-align: center;
`;
export const Key = styled.kbd`
  margin-left: auto;
  padding: 0 0.4rem;
  border: 1px solid ${({ theme }) => theme.color.inkSoft};
  border-radius: 3px;
  font: 600 ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.figure};
  ${({ theme }) => theme.narrow} { display: none; }
`;
