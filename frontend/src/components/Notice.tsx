import type { ReactNode } from "react";
import styled from "styled-components";
import { Problem } from "../api/client";

/** Something to be told at once: a refusal, a question, or that it was kept. */
export function Notice({ kind, children }: { kind: "error" | "ask" | "kept"; children: ReactNode }) {
  return (
    <Strip $kind={kind} role={kind === "error" ? "alert" : "status"}>
      {children}
    </Strip>
  );
}

/** The text of whatever went wrong; nothing where nothing did. */
export function ProblemNotice({ problem }: { problem: unknown }) {
  if (!problem) return null;
  const text = problem instanceof Problem ? problem.message : "Something went wrong on this page. Load it again.";
  return <Notice kind="error">{text}</Notice>;
}

const Strip = styled.div<{ $kind: "error" | "ask" | "kept" }>`
  & + section { margin-top: var(--step); }
  & > p + button { margin-top: var(--gap); }
  padding: var(--gap) var(--step);
  border-left: 6px solid ${({ theme, $kind }) => ($kind === "error" ? theme.color.danger : $kind === "ask" ? theme.color.tape : theme.color.grade.A)};
  background: ${({ theme, $kind }) => ($kind === "error" ? theme.color.dangerPaper : $kind === "ask" ? theme.color.askPaper : theme.color.paper)};
`;
