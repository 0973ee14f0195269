import { useState } from "react";
import { Form } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { swapped } from "./board";

interface KeepProps {
  groups: string[][];
  request: Schemas["MatchIn"];
  purpose?: string;
  wishId?: number | null;
  onAgain: () => void;
  onKept?: (pack: Schemas["PackOut"]) => void;
}

/** Keeps a match as a plan. Where somebody was faster, what would replace the cells that went is one key away. */
export function Keep({ groups, request, purpose: wished = "", wishId = null, onAgain, onKept }: KeepProps) {
  const navigate = useNavigate();
  const [purpose, setPurpose] = useState(wished);
  const keep = useWrite(
    (body: Schemas["PackIn"], key) => answer(() => api.POST("/api/packs", { body, headers: once(key) })),
    (pack) => (onKept ? onKept(pack) : navigate(`/packs/${pack.number}`)),
  );
  const problem = keep.error instanceof Problem ? keep.error : null;
  const send = (what: string[][]) => keep.mutate({ purpose, request, groups: what, wish_id: wishId });
  const instead = problem?.ways.filter((way) => way.code.startsWith("instead:")) ?? [];
  const replaced = () =>
    instead.reduce<string[][]>((now, way) => {
      const [, out = "", comes = ""] = way.code.split(":");
      return swapped(now, out, comes).map((group) => [...group]);
    }, groups);
  return (
    <Sheet aria-label="Keep it">
      <KeepForm
        onSubmit={(event) => {
          event.preventDefault();
          send(groups);
        }}
      >
        <Field
          label="What is it for?"
          hint="e.g. weather logger for the allotment"
          value={purpose}
          onChange={setPurpose}
          maxLength={120}
          error={problem?.field === "purpose" ? problem.message : null}
        />
        {problem && problem.field !== "purpose" && <ProblemNotice problem={problem} />}
        {instead.length > 0 && (
          <>
            <ul>
              {instead.map((way) => (
                <li key={way.code}>{way.text}</li>
              ))}
            </ul>
            <Button kind="main" autoFocus onPress={() => send(replaced())}>
              Take {instead.length === 1 ? "it" : "them"} and keep
            </Button>
          </>
        )}
        {problem?.code === "cells-gone" && <Button onPress={onAgain}>Match again with what is left</Button>}
        {instead.length === 0 && (
          <Button kind="main" type="submit" isDisabled={keep.isPending}>
            Keep it, reserve the cells
          </Button>
        )}
      </KeepForm>
    </Sheet>
  );
}

const KeepForm = styled(
  Form,
)`display: grid; gap: var(--apart); max-width: 32rem; justify-items: start; > :first-child { width: 100%; }`;
