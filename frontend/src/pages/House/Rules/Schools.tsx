import { useState } from "react";
import styled from "styled-components";
import { BANDS } from "../../../api/codes";
import { named } from "../../../catalogue";
import { Choice } from "../../../components/Fields";
import { Sheet } from "../../../components/Page";
import { Pick } from "../../../components/Pick";
import { FAMILY_WORDS, figure } from "../../../words";
import type { Draft, Rules } from "./draft";

const BAND_WORDS = named("band", BANDS);

type School = Rules["voltage_schools"][number];
type Family = School["families"][number]["family"];
type Band = School["families"][number]["bands"][number];
type VoltageCode = School["code"];
type GradeCode = Rules["grade_schools"][number]["code"];
type Props = {
  rules: Rules;
  shown: Draft;
  inForce: Rules["versions"][number];
  mayChange: boolean;
  onChange: (part: Partial<Draft>) => void;
};

export const VOLTAGE_NAMES: Record<VoltageCode, string> = { strict: "Strict", usual: "Usual", thrifty: "Thrifty" };
export const GRADE_NAMES: Record<GradeCode, string> = { health: "By health", bins: "By volume", fitness: "By fitness" };

/** How far an empty cell may be saved, by each school, on one ruler of volts. */
export function VoltageSchools({ rules, shown, inForce, mayChange, onChange }: Props) {
  const [family, setFamily] = useState<Family>("layered-oxide");
  return (
    <Sheet>
      <Head>
        <h2>What a first voltage means</h2>
        <Pick
          label="Shown for"
          value={family}
          onChange={setFamily}
          options={(rules.voltage_schools[0]?.families ?? []).map(
            (each) => [each.family, FAMILY_WORDS[each.family]] as const,
          )}
        />
      </Head>
      <Schools>
        {rules.voltage_schools.map((school) => (
          <SchoolCard key={school.code} $chosen={school.code === shown.voltage}>
            <h3>
              {VOLTAGE_NAMES[school.code]}
              {school.code === inForce.voltage_school && " (holds here)"}
            </h3>
            <p>{school.text}</p>
            <Bands bands={school.families.find((each) => each.family === family)?.bands ?? []} />
            <Small>{school.why}</Small>
          </SchoolCard>
        ))}
      </Schools>
      {mayChange && (
        <Choice
          label="First voltage"
          value={shown.voltage}
          onChange={(voltage) => onChange({ voltage })}
          options={Object.entries(VOLTAGE_NAMES) as [VoltageCode, string][]}
        />
      )}
    </Sheet>
  );
}

/** What a grade goes by, by each school. */
export function GradeSchools({ rules, shown, inForce, mayChange, onChange }: Props) {
  return (
    <Sheet>
      <h2>What a grade goes by</h2>
      <Schools>
        {rules.grade_schools.map((school) => (
          <SchoolCard key={school.code} $chosen={school.code === shown.grade}>
            <h3>
              {GRADE_NAMES[school.code]}
              {school.code === inForce.grade_school && " (holds here)"}
            </h3>
            <p>{school.text}</p>
          </SchoolCard>
        ))}
      </Schools>
      {mayChange && (
        <Choice
          label="Grades"
          value={shown.grade}
          onChange={(grade) => onChange({ grade })}
          options={Object.entries(GRADE_NAMES) as [GradeCode, string][]}
        />
      )}
    </Sheet>
  );
}

/** The bands of a school on one ruler of volts, the same for all three. */
function Bands({ bands }: { bands: Band[] }) {
  const top = Math.max(...bands.map((band) => band.from_v)) + 0.4;
  return (
    <Ruler>
      {[...bands].reverse().map((band, index, upwards) => {
        const end = index === 0 ? top : (upwards[index - 1]?.from_v ?? top);
        return (
          <BandRow
            key={`${band.band}-${band.from_v}`}
            $band={band.band}
            style={{ minHeight: `${Math.max(26, 34 * (end - band.from_v))}px` }}
          >
            <span>
              {BAND_WORDS[band.band]}
              {band.marks && ", marked for life"}
            </span>
            <Edge>{band.from_v > 0 ? `${figure(band.from_v, 2)} V` : "0 V"}</Edge>
          </BandRow>
        );
      })}
    </Ruler>
  );
}

const Head = styled.div`display: flex; flex-wrap: wrap; justify-content: space-between; gap: var(--near) var(--room); margin-bottom: var(--apart);`;
const Schools = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: var(--block);
  margin-bottom: var(--step);
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const SchoolCard = styled.section<{ $chosen: boolean }>`
  display: grid;
  align-content: start;
  gap: var(--near);
  padding: var(--step);
  p { min-height: 4.4em; }
  outline: ${({ $chosen }) => ($chosen ? "4px" : "1px")} solid ${({ theme, $chosen }) => ($chosen ? theme.color.ink : theme.color.paperLine)};
`;
const Ruler = styled.div`border: 2px solid ${({ theme }) => theme.color.ink};`;
const BandRow = styled.div<{ $band: Band["band"] }>`
  display: flex;
  align-items: end;
  justify-content: space-between;
  padding: 0 var(--near);
  border-bottom: 2px solid ${({ theme }) => theme.color.ink};
  background: ${({ theme, $band }) =>
    $band === "go-on"
      ? theme.color.mat
      : $band === "recovery"
        ? theme.color.askPaper
        : $band === "watched-recovery"
          ? theme.color.tape
          : theme.color.dangerPaper};
  color: ${({ theme, $band }) => ($band === "watched-recovery" ? theme.color.onTape : theme.color.ink)};
  font-size: ${({ theme }) => theme.size.note};
  &:last-child { border-bottom: 0; }
`;
const Edge = styled.strong`font-family: ${({ theme }) => theme.font.figure};`;
const Small = styled.small`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
