import { Link } from "react-router";
import styled from "styled-components";
import { useInstruments } from "../api/measuring";
import { Pick } from "./Pick";

const NO_INSTRUMENT = "none";

/** What it is measured with; a corrected instrument says so. */
export function InstrumentPick({
  isQuiet,
  value,
  onChange,
}: {
  /** Says nothing where there is none yet. */
  isQuiet?: boolean;
  value: string | null;
  onChange: (number: string | null) => void;
}) {
  const instruments = useInstruments();
  const usable = instruments.data?.instruments.filter((each) => each.is_active) ?? [];
  if (usable.length === 0 && isQuiet) return null;
  if (usable.length === 0)
    return (
      <Small>
        <Link to="/instruments">Give your meters and testers numbers</Link>, and every figure knows what it came from.
      </Small>
    );
  return (
    <Pick
      label="Instrument"
      value={usable.some((each) => each.number === value) ? (value ?? NO_INSTRUMENT) : NO_INSTRUMENT}
      onChange={(next) => onChange(next === NO_INSTRUMENT ? null : next)}
      options={[
        [NO_INSTRUMENT, "Not said"],
        ...usable.map((each) => [each.number, `${each.number} ${each.name}`] as const),
      ]}
    />
  );
}

const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
