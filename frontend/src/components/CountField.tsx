import { Button, Input, NumberField } from "react-aria-components";
import styled from "styled-components";
import { ErrorText, FieldLabel } from "./Fields";

type CountProps = {
  label: string;
  /** As the server calls it. */
  name?: string;
  value: number;
  onChange: (value: number) => void;
  least: number;
  most: number;
  error?: string | null;
};

/** A small whole number with big minus and plus. */
export function CountField({ label, name, value, onChange, least, most, error }: CountProps) {
  return (
    <NumberField
      name={name}
      value={value}
      minValue={least}
      maxValue={most}
      isInvalid={Boolean(error)}
      validationBehavior="aria"
      onChange={(next) => onChange(Number.isNaN(next) ? least : next)}
    >
      <FieldLabel>{label}</FieldLabel>
      <Stepper>
        <Button slot="decrement">−</Button>
        <Input />
        <Button slot="increment">+</Button>
      </Stepper>
      {error && <ErrorText slot="errorMessage">{error}</ErrorText>}
    </NumberField>
  );
}

const Stepper = styled.div`
  display: flex;
  button { width: 52px; min-height: ${({ theme }) => theme.target}; border: 2px solid ${({ theme }) => theme.color.ink}; background: transparent; font-size: 1.5rem; font-weight: 700; cursor: pointer; }
  input { width: 4.5rem; min-height: ${({ theme }) => theme.target}; border: 2px solid ${({ theme }) => theme.color.ink}; border-inline: 0; background: ${({ theme }) => theme.color.paper}; text-align: center; font: 700 1.5rem ${({ theme }) => theme.font.figure}; }
`;
