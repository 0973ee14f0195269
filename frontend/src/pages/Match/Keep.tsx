import { useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Sheet } from "../../components/Page";
import { swapped } from "./board";

interface KeepProps {
  groups: string[][];
  request: Schemas["MatchIn"];
  purpose?: string;
  wishId?: number | null;
  /** What it feeds and what was promised, where a need told it. */
  parts?: Schemas["PartOfPlanIn"][];
  onAgain: () => void;
  onKept?: (pack: Schemas["PackOut"]) => void;
}

/** Keeps a match as a plan. Where somebody was faster, what would replace the cells that went is one key away. */
export function Keep({ groups, request, purpose: wished = "", wishId = null, parts = [], onAgain, onKept }: KeepProps) {
  const navigate = useNavigate();
  const { values, field } = useTyped({ purpose: wished });
  const keep = useWrite(
    (body: Schemas["PackIn"], key) => answer(() => api.POST("/api/packs", { body, headers: once(key) })),
    (pack) => (onKept ? onKept(pack) : navigate(`/packs/${pack.number}`)),
  );
  const problem = keep.error instanceof Problem ? keep.error : null;
  const send = (what: string[][]) =>
    keep.mutate({ purpose: values.purpose, request, groups: what, wish_id: wishId, parts });
  const instead = problem?.ways.filter((way) => way.code.startsWith("instead:")) ?? [];
  const replaced = () =>
    instead.reduce<string[][]>((now, way) => {
      const [, out = "", comes = ""] = way.code.split(":");
      return swapped(now, out, comes).map((group) => [...group]);
    }, groups);
  return (
    <Sheet aria-label="Keep it">
      <KeepForm
        problem={keep.error}
        onSend={() => send(instead.length > 0 ? replaced() : groups)}
        send={
          instead.length > 0 ? `Take ${instead.length === 1 ? "it" : "them"} and keep` : "Keep it, reserve the cells"
        }
        isSending={keep.isPending}
        instead={
          instead.length > 0 && (
            <ul>
              {instead.map((way) => (
                <li key={way.code}>{way.text}</li>
              ))}
            </ul>
          )
        }
        besides={problem?.code === "cells-gone" && <Button onPress={onAgain}>Match again with what is left</Button>}
      >
        <Field
          label="What is it for?"
          hint="e.g. weather logger for the allotment"
          {...field("purpose")}
          maxLength={120}
        />
      </KeepForm>
    </Sheet>
  );
}

const KeepForm = styled(
  AskForm,
)`display: grid; gap: var(--apart); max-width: 32rem; justify-items: start; > :first-child { width: 100%; }`;
