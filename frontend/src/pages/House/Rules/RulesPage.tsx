import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../../api/client";
import { useRules, useSession } from "../../../api/queries";
import { useToldOfOthers, useWrite } from "../../../api/writing";
import { Notice } from "../../../components/Notice";
import { Page, Sheet, Waiting } from "../../../components/Page";
import { dayAndTime } from "../../../words";
import { type Draft, draftOf, type Rules, type RulesToTry, sent } from "./draft";
import { GRADE_NAMES, GradeSchools, VOLTAGE_NAMES, VoltageSchools } from "./Schools";
import { SetRules } from "./SetRules";
import { SpecialRules } from "./SpecialRules";
import { Switches } from "./Switches";
import { Values } from "./Values";

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
  const [why, setWhy] = useState("");
  /** The version that was looked at as the draft began: whoever set another one meanwhile is not set aside unseen. */
  const [seen, setSeen] = useState<number | null>(null);
  const set = useWrite(
    (body: Schemas["RulesIn"], key) => answer(() => api.PUT("/api/rules", { body, headers: once(key) })),
    () => {
      setWhy("");
      setDraft(null);
      setSeen(null);
    },
  );
  const tried = useMutation({
    mutationFn: (body: RulesToTry) => answer(() => api.POST("/api/rules/preview", { body })),
  });
  // Told of it, and with a look at what it would change now, it is meant.
  useToldOfOthers(set.error, () => {
    setSeen(null);
    tried.reset();
  });
  if (!inForce) return null;
  const shown = draft ?? draftOf(rules);
  const change = (part: Partial<Draft>) => {
    setDraft({ ...shown, ...part });
    setSeen((before) => before ?? inForce.version);
    tried.reset();
  };
  const isChanged = JSON.stringify(sent(shown)) !== JSON.stringify(sent(draftOf(rules)));
  const mayChange = session.data?.person?.role === "coordinator";
  const refused = [tried.error, set.error].find((error) => error instanceof Problem) ?? null;
  const problem = refused instanceof Problem ? refused : null;
  const wrong = problem?.field ? { field: problem.field, text: problem.message } : null;
  const given = { rules, shown, inForce, mayChange, onChange: change };
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        if (tried.data) set.mutate({ ...sent(shown), seen_version: seen ?? inForce.version, why });
        else {
          set.reset();
          tried.mutate(sent(shown));
        }
      }}
    >
      <VoltageSchools {...given} />
      <GradeSchools {...given} />
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
      <Switches {...given} />
      <Sheet>
        {mayChange ? (
          <SetRules
            rules={rules}
            preview={tried.data}
            isTrying={tried.isPending}
            isSetting={set.isPending}
            isChanged={isChanged}
            problem={problem}
            why={why}
            onWhy={setWhy}
            onChange={change}
            onLeave={() => {
              setDraft(null);
              setSeen(null);
              set.reset();
              tried.reset();
            }}
          />
        ) : (
          <p>A coordinator sets the house rules.</p>
        )}
        {set.data?.changed != null && !isChanged && (
          <Notice kind="kept">
            Set. {set.data.changed} {set.data.changed === 1 ? "cell is" : "cells are"} judged differently now.
          </Notice>
        )}
        <Before versions={rules.versions} />
      </Sheet>
    </Stack>
  );
}

/** Every version of the rules, with who set it, why, and what differed. */
function Before({ versions }: { versions: Rules["versions"] }) {
  return (
    <>
      <h2>Before</h2>
      <ol>
        {versions.map((version) => (
          <li key={version.version}>
            Version {version.version}: {VOLTAGE_NAMES[version.voltage_school]}, {GRADE_NAMES[version.grade_school]}. “
            {version.why}”{" "}
            <Small>
              {version.by ?? "Zembric"}, {dayAndTime(version.at)}
              {version.differences.length > 0 && `: ${version.differences.join("; ")}`}
            </Small>
          </li>
        ))}
      </ol>
    </>
  );
}

const Stack = styled(Form)`display: grid; gap: var(--block);`;
const Small = styled.small`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
