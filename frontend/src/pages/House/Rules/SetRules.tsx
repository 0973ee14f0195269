import { useState } from "react";
import styled from "styled-components";
import type { Problem, Schemas } from "../../../api/client";
import { Button } from "../../../components/Button";
import { Field } from "../../../components/Fields";
import { FileButton } from "../../../components/FileButton";
import { Notice, ProblemNotice } from "../../../components/Notice";
import { type Draft, draftFrom, type Rules } from "./draft";
import { Preview } from "./Preview";

type Props = {
  rules: Rules;
  /** What it would change, once somebody looked. */
  preview: Schemas["RulesPreviewOut"] | undefined;
  isTrying: boolean;
  isSetting: boolean;
  isChanged: boolean;
  problem: Problem | null;
  why: string;
  onWhy: (why: string) => void;
  onChange: (draft: Draft) => void;
  onLeave: () => void;
};

/** First what it would change, then why, then it holds; also in and out as a file. */
export function SetRules({
  rules,
  preview,
  isTrying,
  isSetting,
  isChanged,
  problem,
  why,
  onWhy,
  onChange,
  onLeave,
}: Props) {
  const [badFile, setBadFile] = useState(false);
  const wrong = problem?.field ? { field: problem.field, text: problem.message } : null;
  const isShownBeside =
    wrong !== null && (wrong.field === "why" || rules.limits.some((each) => each.key === wrong.field));
  return (
    <Change>
      {problem && !isShownBeside && <ProblemNotice problem={problem} />}
      {wrong && isShownBeside && wrong.field !== "why" && <Notice kind="error">{wrong.text}</Notice>}
      {!preview && (
        <Button kind={isChanged ? "main" : "plain"} type="submit" isDisabled={!isChanged || isTrying}>
          {isTrying ? "Looking through every cell …" : isChanged ? "See what it would change" : "Nothing changed"}
        </Button>
      )}
      {preview && (
        <>
          <Preview preview={preview} />
          <Field
            label="Why"
            value={why}
            onChange={onWhy}
            maxLength={300}
            hint="Whoever comes next will want to know."
            error={problem?.field === "why" ? problem.message : null}
          />
          <Buttons>
            <Button kind="main" type="submit" isDisabled={isSetting}>
              {isSetting ? "Judging every cell anew …" : "Set, and judge every cell anew"}
            </Button>
            <Button onPress={onLeave}>Leave it as it was</Button>
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
            if (found) onChange(found);
          }}
        >
          Bring rules in from a file
        </FileButton>
      </Buttons>
      {badFile && <Notice kind="error">This file holds no house rules. Take one that was written here.</Notice>}
    </Change>
  );
}

const Change = styled.div`display: grid; gap: var(--step); justify-items: start; margin-bottom: var(--block);`;
const Buttons = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--gap) var(--sheet); a { min-height: 44px; padding-top: var(--gap); }`;
