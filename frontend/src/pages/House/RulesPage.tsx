import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { useRules, useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Choice, Field, Pick } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Page, Sheet, Waiting } from "../../components/Page";
import { dayAndTime, FAMILY_WORDS, figure } from "../../words";

type Rules = Schemas["RulesOut"];
type School = Rules["voltage_schools"][number];
type Band = School["families"][number]["bands"][number];
type VoltageCode = School["code"];
type GradeCode = Rules["grade_schools"][number]["code"];

const VOLTAGE_NAMES: Record<VoltageCode, string> = { strict: "Strict", usual: "Usual", thrifty: "Thrifty" };
const GRADE_NAMES: Record<GradeCode, string> = { health: "By health", bins: "By volume", fitness: "By fitness" };
const BAND_WORDS: Record<Band["band"], string> = {
  recycle: "recycle",
  "watched-recovery": "recover under watch",
  recovery: "recover slowly",
  "go-on": "goes on",
  "over-voltage": "put aside",
};

/** The schools practice is divided into, what speaks for each, and which one this cafe follows. */
export default function RulesPage() {
  const rules = useRules();
  return (
    <Page
      title="House rules"
      wide
      lead="How far an empty cell may be saved is no settled matter. Your cafe chooses, says why, and every cell is judged by it."
    >
      {rules.data ? <House rules={rules.data} /> : <Waiting query={rules} what="the rules" />}
    </Page>
  );
}

function House({ rules }: { rules: Rules }) {
  const session = useSession();
  const inForce = rules.versions[0];
  const [voltage, setVoltage] = useState<VoltageCode | null>(null);
  const [grade, setGrade] = useState<GradeCode | null>(null);
  const [family, setFamily] = useState<School["families"][number]["family"]>("layered-oxide");
  const [why, setWhy] = useState("");
  const set = useWrite(
    (body: Schemas["RulesIn"], key) => answer(() => api.PUT("/api/rules", { body, headers: once(key) })),
    () => setWhy(""),
  );
  if (!inForce) return null;
  const chosen = { voltage: voltage ?? inForce.voltage_school, grade: grade ?? inForce.grade_school };
  const isChanged = chosen.voltage !== inForce.voltage_school || chosen.grade !== inForce.grade_school;
  const mayChange = session.data?.person?.role === "coordinator";
  const problem = set.error instanceof Problem ? set.error : null;
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        set.mutate({
          seen_version: inForce.version,
          voltage_school: chosen.voltage,
          grade_school: chosen.grade,
          why,
        });
      }}
    >
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
            <SchoolCard key={school.code} $chosen={school.code === chosen.voltage}>
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
      </Sheet>
      <Sheet>
        <h2>What a grade goes by</h2>
        <Schools>
          {rules.grade_schools.map((school) => (
            <SchoolCard key={school.code} $chosen={school.code === chosen.grade}>
              <h3>
                {GRADE_NAMES[school.code]}
                {school.code === inForce.grade_school && " (holds here)"}
              </h3>
              <p>{school.text}</p>
            </SchoolCard>
          ))}
        </Schools>
      </Sheet>
      <Sheet>
        {mayChange ? (
          <Change>
            <Choice
              label="First voltage"
              value={chosen.voltage}
              onChange={setVoltage}
              options={Object.entries(VOLTAGE_NAMES) as [VoltageCode, string][]}
            />
            <Choice
              label="Grades"
              value={chosen.grade}
              onChange={setGrade}
              options={Object.entries(GRADE_NAMES) as [GradeCode, string][]}
            />
            {isChanged && (
              <Field
                label="Why"
                value={why}
                onChange={setWhy}
                maxLength={300}
                hint="Whoever comes next will want to know."
                error={problem?.field === "why" ? problem.message : null}
              />
            )}
            {problem && problem.field !== "why" && <ProblemNotice problem={problem} />}
            <Button kind={isChanged ? "main" : "plain"} type="submit" isDisabled={!isChanged || set.isPending}>
              {set.isPending
                ? "Judging every cell anew …"
                : isChanged
                  ? "Set, and judge every cell anew"
                  : "Nothing changed"}
            </Button>
          </Change>
        ) : (
          <p>A coordinator sets the house rules.</p>
        )}
        {set.data?.changed != null && !isChanged && (
          <Notice kind="kept">
            Set. {set.data.changed} {set.data.changed === 1 ? "cell is" : "cells are"} judged differently now.
          </Notice>
        )}
        <h2>Before</h2>
        <ol>
          {rules.versions.map((version) => (
            <li key={version.version}>
              Version {version.version}: {VOLTAGE_NAMES[version.voltage_school]},{" "}
              {GRADE_NAMES[version.grade_school].toLowerCase()}. “{version.why}”{" "}
              <Small>
                {version.by ?? "Zembric"}, {dayAndTime(version.at)}
              </Small>
            </li>
          ))}
        </ol>
      </Sheet>
    </Stack>
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

const Stack = styled(Form)`display: grid; gap: 1rem;`;
const Head = styled.div`display: flex; flex-wrap: wrap; justify-content: space-between; gap: 0.5rem 1.5rem; margin-bottom: 0.75rem;`;
const Schools = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 1rem;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const SchoolCard = styled.section<{ $chosen: boolean }>`
  display: grid;
  align-content: start;
  gap: 0.5rem;
  padding: 0.875rem;
  p { min-height: 4.4em; }
  outline: ${({ $chosen }) => ($chosen ? "4px" : "1px")} solid ${({ theme, $chosen }) => ($chosen ? theme.color.ink : theme.color.paperLine)};
`;
const Change = styled.div`display: grid; gap: 0.875rem; justify-items: start; margin-bottom: 1rem;`;
const Ruler = styled.div`border: 2px solid ${({ theme }) => theme.color.ink};`;
const BandRow = styled.div<{ $band: Band["band"] }>`
  display: flex;
  align-items: end;
  justify-content: space-between;
  padding: 0 0.5rem;
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
