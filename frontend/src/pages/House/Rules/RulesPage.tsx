import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../../api/client";
import { BANDS } from "../../../api/codes";
import { useRules, useSession } from "../../../api/queries";
import { useWrite } from "../../../api/writing";
import { named } from "../../../catalogue";
import { Button } from "../../../components/Button";
import { Choice, Field } from "../../../components/Fields";
import { FileButton } from "../../../components/FileButton";
import { Notice, ProblemNotice } from "../../../components/Notice";
import { Page, Sheet, Waiting } from "../../../components/Page";
import { Pick } from "../../../components/Pick";
import { dayAndTime, FAMILY_WORDS, figure } from "../../../words";
import { type Draft, draftFrom, draftOf, type Rules, type RulesToTry, sent } from "./draft";
import { Preview } from "./Preview";
import { SpecialRules } from "./SpecialRules";
import { Values } from "./Values";

const BAND_WORDS = named("band", BANDS);

type School = Rules["voltage_schools"][number];
type Band = School["families"][number]["bands"][number];
type VoltageCode = School["code"];
type GradeCode = Rules["grade_schools"][number]["code"];

const VOLTAGE_NAMES: Record<VoltageCode, string> = { strict: "Strict", usual: "Usual", thrifty: "Thrifty" };
const GRADE_NAMES: Record<GradeCode, string> = { health: "By health", bins: "By volume", fitness: "By fitness" };

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
  const [draft, setDraft] = useState<Draft | null>(null);
  const [family, setFamily] = useState<School["families"][number]["family"]>("layered-oxide");
  const [why, setWhy] = useState("");
  const [badFile, setBadFile] = useState(false);
  const set = useWrite(
    (body: Schemas["RulesIn"], key) => answer(() => api.PUT("/api/rules", { body, headers: once(key) })),
    () => {
      setWhy("");
      setDraft(null);
    },
  );
  const tried = useMutation({
    mutationFn: (body: RulesToTry) => answer(() => api.POST("/api/rules/preview", { body })),
  });
  if (!inForce) return null;
  const shown = draft ?? draftOf(rules);
  const change = (part: Partial<Draft>) => {
    setDraft({ ...shown, ...part });
    tried.reset();
  };
  const isChanged = JSON.stringify(sent(shown)) !== JSON.stringify(sent(draftOf(rules)));
  const mayChange = session.data?.person?.role === "coordinator";
  const refused = [tried.error, set.error].find((error) => error instanceof Problem) ?? null;
  const problem = refused instanceof Problem ? refused : null;
  const wrong = problem?.field ? { field: problem.field, text: problem.message } : null;
  const isShownBeside =
    wrong !== null && (wrong.field === "why" || rules.limits.some((each) => each.key === wrong.field));
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (tried.data) set.mutate({ ...sent(shown), seen_version: inForce.version, why });
        else tried.mutate(sent(shown));
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
            onChange={(voltage) => change({ voltage })}
            options={Object.entries(VOLTAGE_NAMES) as [VoltageCode, string][]}
          />
        )}
      </Sheet>
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
            onChange={(grade) => change({ grade })}
            options={Object.entries(GRADE_NAMES) as [GradeCode, string][]}
          />
        )}
      </Sheet>
      <Sheet>
        <h2>The house's own values</h2>
        <p>Sound defaults, which a house may set otherwise. What is left empty is as usual.</p>
        <Values
          limits={rules.limits}
          values={shown.values}
          wrong={wrong}
          mayChange={mayChange}
          onChange={(key, value) => change({ values: { ...shown.values, [key]: value } })}
        />
        <h2>For one family or one size</h2>
        <SpecialRules
          limits={rules.limits}
          special={shown.special}
          wrong={wrong?.field === "special" ? wrong : null}
          mayChange={mayChange}
          onChange={(special) => change({ special })}
        />
      </Sheet>
      <Sheet>
        <h2>What no arithmetic decides</h2>
        {rules.switches.map((each) => {
          const chosen = each.choices.find((choice) => choice.code === shown.switches[each.key]);
          return (
            <SwitchRow key={each.key}>
              {mayChange ? (
                <Choice
                  label={each.question}
                  value={shown.switches[each.key] ?? each.chosen}
                  onChange={(choice) => change({ switches: { ...shown.switches, [each.key]: choice } })}
                  options={each.choices.map((choice) => [choice.code, choice.text] as const)}
                />
              ) : (
                <p>
                  {each.question} <strong>{chosen?.text}.</strong>
                </p>
              )}
              <Small>{chosen?.why}</Small>
            </SwitchRow>
          );
        })}
      </Sheet>
      <Sheet>
        {mayChange ? (
          <Change>
            {problem && !isShownBeside && <ProblemNotice problem={problem} />}
            {wrong && isShownBeside && wrong.field !== "why" && <Notice kind="error">{wrong.text}</Notice>}
            {!tried.data && (
              <Button kind={isChanged ? "main" : "plain"} type="submit" isDisabled={!isChanged || tried.isPending}>
                {tried.isPending
                  ? "Looking through every cell …"
                  : isChanged
                    ? "See what it would change"
                    : "Nothing changed"}
              </Button>
            )}
            {tried.data && (
              <>
                <Preview preview={tried.data} />
                <Field
                  label="Why"
                  value={why}
                  onChange={setWhy}
                  maxLength={300}
                  hint="Whoever comes next will want to know."
                  error={problem?.field === "why" ? problem.message : null}
                />
                <Buttons>
                  <Button kind="main" type="submit" isDisabled={set.isPending}>
                    {set.isPending ? "Judging every cell anew …" : "Set, and judge every cell anew"}
                  </Button>
                  <Button
                    onPress={() => {
                      setDraft(null);
                      tried.reset();
                    }}
                  >
                    Leave it as it was
                  </Button>
                </Buttons>
              </>
            )}
            <Buttons>
              <a href="/api/rules.json" download>
                Take these rules along (JSON)
              </a>
              <FileButton
                accept=".json,application/json"
                onFile={async (file) => {
                  const found = draftFrom(await file.text(), rules);
                  setBadFile(found === null);
                  if (found) change(found);
                }}
              >
                Bring rules in from a file
              </FileButton>
            </Buttons>
            {badFile && <Notice kind="error">This file holds no house rules. Take one that was written here.</Notice>}
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
                {version.differences.length > 0 && `: ${version.differences.join("; ")}`}
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

const Stack = styled(Form)`display: grid; gap: var(--block);`;
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
const Change = styled.div`display: grid; gap: var(--step); justify-items: start; margin-bottom: var(--block);`;
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
const Buttons = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--gap) var(--sheet); a { min-height: 44px; padding-top: var(--gap); }`;
const SwitchRow = styled.div`display: grid; gap: var(--hair); padding: var(--near) 0;`;
const Small = styled.small`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
