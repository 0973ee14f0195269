import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writing";
import { Button } from "../../../components/Button";
import { ProblemNotice } from "../../../components/Notice";
import { dayAndTime } from "../../../words";
import { type Stage, type Step, toldIn, type Work } from "./steps";

/** All steps in their order: what was done by whom, what was read, and what comes. */
export function StepList({
  pack,
  work,
  stage,
  onWork,
}: {
  pack: Pack;
  work: Work;
  stage: Stage;
  onWork: (work: Work) => void;
}) {
  const undo = useWrite(
    (body: Schemas["StepKeyIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/steps/{stage}/takebacks", {
          params: { path: { number: pack.number, stage } },
          headers: once(key),
          body,
        }),
      ),
    onWork,
  );
  const last = work.steps.findLast((step) => step.act !== null);
  const passed = work.steps.filter((step) => step.is_passed).length;
  return (
    <Box aria-label="All steps">
      <h2>
        {passed} of {work.steps.length}
      </h2>
      <ProblemNotice problem={undo.error} />
      <ol>
        {work.steps.map((step) => (
          <Line
            key={step.key}
            $state={step.act?.state === "wrong" ? "wrong" : step.is_passed ? "passed" : "open"}
            aria-current={step.key === work.next_key ? "step" : undefined}
          >
            <span aria-hidden="true">{step.act?.state === "wrong" ? "!" : step.is_passed ? "✕" : ""}</span>
            <div>
              {step.title}
              {step.act && (
                <small>
                  {[...read(step), HOW[step.act.state], step.act.by, dayAndTime(step.act.at)]
                    .filter(Boolean)
                    .join(", ")}
                  {step.act.finding && step.act.state !== "wrong" && `: ${step.act.finding}`}
                </small>
              )}
            </div>
            {step === last && ["planned", "built", "back"].includes(pack.state) && (
              <Button kind="quiet" isDisabled={undo.isPending} onPress={() => undo.mutate({ step: step.key })}>
                Take back
              </Button>
            )}
          </Line>
        ))}
      </ol>
    </Box>
  );
}

const HOW: Record<Schemas["ActOut"]["state"], string> = {
  done: "",
  confirmed: "seen by two",
  waived: "let pass",
  wrong: "wrong",
  undone: "",
};
const read = (step: Step) =>
  step.asked
    .filter((asked) => step.act?.figures[asked.key] !== undefined)
    .slice(0, 4)
    .map((asked) => toldIn(step.act?.figures[asked.key] ?? 0, asked.unit));

const Box = styled.section`
  display: grid;
  gap: var(--near);
  padding: var(--block) var(--sheet);
  background: ${({ theme }) => theme.color.paper};
`;
const Line = styled.li<{ $state: "passed" | "wrong" | "open" }>`
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) auto;
  gap: var(--near);
  align-items: start;
  padding: var(--slit) 0;
  border-top: 1px solid ${({ theme }) => theme.color.paperLine};
  color: ${({ theme, $state }) => ($state === "wrong" ? theme.color.danger : $state === "open" ? theme.color.inkSoft : theme.color.ink)};
  &[aria-current] { color: ${({ theme }) => theme.color.ink}; font-weight: 800; }
  > span { width: 24px; height: 24px; border: 2px solid currentColor; border-radius: 2px; font-weight: 800; line-height: 20px; text-align: center; }
  small { display: block; font-size: ${({ theme }) => theme.size.note}; font-weight: 400; color: ${({ theme }) => theme.color.inkSoft}; }
`;
