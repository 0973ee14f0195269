import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../../api/client";
import { useSession } from "../../../api/queries";
import { useWrite } from "../../../api/writing";
import { AskForm, useTyped } from "../../../components/AskForm";
import { Button } from "../../../components/Button";
import { Field } from "../../../components/Fields";
import { FileButton } from "../../../components/FileButton";
import { Fold } from "../../../components/Fold";
import { Notice, ProblemNotice } from "../../../components/Notice";
import { Tape } from "../../../components/Tape";
import { JOINT_WORDS } from "../../../words";
import { bandOf, type Stage, type Step, toldIn, type Work } from "./steps";

/** The step that is next: what to do, which cell which way up, what the meter should say. */
export function CurrentStep({
  pack,
  step,
  stage,
  onWork,
}: {
  pack: Pack;
  step: Step;
  stage: Stage;
  onWork: (work: Work) => void;
}) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const path = { path: { number: pack.number, stage } };
  const done = useWrite(
    (body: Schemas["StepIn"], key) =>
      answer(() => api.POST("/api/packs/{number}/steps/{stage}", { params: path, headers: once(key), body })),
    (now) => onWork(now.work),
  );
  const confirm = useWrite(
    (body: Schemas["StepKeyIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/steps/{stage}/confirmations", { params: path, headers: once(key), body }),
      ),
    onWork,
  );
  const readLog = useMutation({
    mutationFn: async (file: File) => {
      const content = await file.text();
      return answer(() => api.POST("/api/run-logs", { body: { content } }));
    },
    onSuccess: (found) =>
      setTyped((before) => ({
        ...before,
        ...(step.key === "run" ? { hours: found.hours.toFixed(2) } : { wh: found.energy_wh.toFixed(2) }),
      })),
  });
  const only = step.asked.length === 1 ? step.asked[0] : null;
  const missing = step.asked.filter((asked) => !asked.is_optional && !typed[asked.key]?.trim()).length;
  return (
    <Card aria-label={step.title}>
      <h2>{step.title}</h2>
      {step.act?.state === "wrong" && step.act.finding && (
        <Wrong role="alert">
          <strong>{step.act.finding}</strong>
          <small>
            {step.act.by} measured {readings(step)}. Mend it, then measure anew.
          </small>
        </Wrong>
      )}
      <Todo>
        {step.todo.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </Todo>
      {step.cells.length > 0 && (
        <Cells>
          {step.cells.map((cell) => (
            <li key={cell.number}>
              <EndMark end={cell.end} />
              <Tape>{cell.number}</Tape>
              <span>plus {cell.end}</span>
              <small>{JOINT_WORDS[cell.joint]}</small>
            </li>
          ))}
        </Cells>
      )}
      {step.cautions.length > 0 && (
        <Cautions>
          {step.cautions.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </Cautions>
      )}
      {step.waits_for_second ? (
        <Notice kind="ask">
          <p>
            <strong>{step.act?.by} did this.</strong> Above the house's limits somebody else looks at it before it
            counts: the joint, the figure, the polarity.
          </p>
          <ProblemNotice problem={confirm.error} />
          <Button kind="main" isDisabled={confirm.isPending} onPress={() => confirm.mutate({ step: step.key })}>
            I looked at it, it is right
          </Button>
        </Notice>
      ) : (
        <AskForm
          problem={done.error}
          isSending={done.isPending}
          send={step.asked.length ? "Next" : "Done"}
          waitsFor={missing > 0 ? (missing === 1 ? "One figure is missing." : `${missing} figures are missing.`) : null}
          onSend={() => done.mutate({ step: step.key, figures: typed })}
        >
          {only?.expected !== undefined && only?.expected !== null && (
            <Expect>
              <strong>{toldIn(only.expected, only.unit)}</strong> expected
            </Expect>
          )}
          {FROM_LOG.includes(step.key) && stage === "prove" && (
            <div>
              <FileButton accept=".csv,.txt,.tsv,.log" onFile={(file) => readLog.mutate(file)}>
                From a tester's log
              </FileButton>
              <ProblemNotice problem={readLog.error} />
              {readLog.data && (
                <p>
                  The log says {toldIn(readLog.data.hours, "h")}, {toldIn(readLog.data.energy_wh, "Wh")}, down to{" "}
                  {toldIn(readLog.data.end_v, "V")}.
                </p>
              )}
            </div>
          )}
          <Figures $one={step.asked.length === 1}>
            {step.asked.map((asked, index) => {
              const band = bandOf(asked);
              return (
                <Field
                  key={asked.key}
                  name={asked.key}
                  label={asked.is_optional ? `${asked.name}, if you can` : asked.name}
                  unit={asked.unit}
                  numeric
                  size={step.asked.length === 1 ? "key" : "plain"}
                  value={typed[asked.key] ?? ""}
                  onChange={(value) => setTyped((before) => ({ ...before, [asked.key]: value }))}
                  hint={
                    band &&
                    (asked.expected !== null && band !== `about ${toldIn(asked.expected, asked.unit)}`
                      ? `${toldIn(asked.expected, asked.unit)} expected, ${band}`
                      : band)
                  }
                  maxLength={12}
                  autoComplete="off"
                  autoFocus={index === 0}
                />
              );
            })}
          </Figures>
        </AskForm>
      )}
      {step.may_be_waived && <WaiveStep pack={pack} step={step} stage={stage} onWork={onWork} />}
    </Card>
  );
}

/** Points whose figures a log of the same run tells. */
const FROM_LOG = ["run", "energy"];

const readings = (step: Step) =>
  step.asked
    .flatMap((asked) =>
      step.act?.figures[asked.key] === undefined ? [] : [toldIn(step.act.figures[asked.key] ?? 0, asked.unit)],
    )
    .join(", ");

function WaiveStep({
  pack,
  step,
  stage,
  onWork,
}: {
  pack: Pack;
  step: Step;
  stage: Stage;
  onWork: (work: Work) => void;
}) {
  const session = useSession();
  const { values, field } = useTyped({ why: "" });
  const waive = useWrite(
    (body: Schemas["StepWaiveIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/steps/{stage}/waivers", {
          params: { path: { number: pack.number, stage } },
          headers: once(key),
          body,
        }),
      ),
    onWork,
  );
  if (session.data?.person?.role !== "coordinator") return <p>A coordinator may let this pass, with a reason.</p>;
  return (
    <Fold title="Let it pass, with a reason">
      <AskForm
        problem={waive.error}
        isSending={waive.isPending}
        kind="plain"
        send="Let it pass"
        waitsFor={values.why.trim().length < 3 ? "First why; it stays on the papers." : null}
        onSend={() => waive.mutate({ step: step.key, why: values.why })}
      >
        <Field label={`Why may it pass: ${step.title}`} {...field("why")} maxLength={300} />
      </AskForm>
    </Fold>
  );
}

/** A cell seen from the side, its plus end where it has to be. */
function EndMark({ end }: { end: "up" | "down" }) {
  return (
    <svg
      width="30"
      height="56"
      viewBox="0 0 30 56"
      aria-hidden="true"
      style={{ transform: end === "down" ? "rotate(180deg)" : undefined }}
    >
      <path d="M10 8V3h10v5" fill="none" stroke="currentColor" strokeWidth="3" />
      <rect x="3" y="8" width="24" height="45" rx="3" fill="none" stroke="currentColor" strokeWidth="3" />
      <path d="M15 13v10M10 18h10" stroke="currentColor" strokeWidth="3" />
    </svg>
  );
}

const Card = styled.section`
  display: grid;
  gap: var(--apart);
  padding: var(--sheet);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  h2 { font-size: ${({ theme }) => theme.size.title}; line-height: 1.2; }
  ${({ theme }) => theme.narrow} { padding: var(--block); }
`;
const Todo = styled.div`font-size: ${({ theme }) => theme.size.lead};`;
const Wrong = styled.div`
  display: grid;
  gap: var(--hair);
  padding: var(--apart) var(--block);
  border-left: 14px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
  strong { font-size: ${({ theme }) => theme.size.lead}; }
`;
const Expect = styled.p`
  strong { font: 700 ${({ theme }) => theme.size.figure}/1.1 ${({ theme }) => theme.font.figure}; }
`;
const Cautions = styled.ul`
  display: grid;
  gap: var(--hair);
  padding: var(--near) var(--apart) var(--near) var(--room);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
  list-style: disc;
`;
const Cells = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: var(--apart) var(--sheet);
  li { display: grid; justify-items: center; gap: var(--hair); font-weight: 700; }
`;
const Figures = styled.div<{ $one: boolean }>`
  display: grid;
  grid-template-columns: ${({ $one }) => ($one ? "minmax(0, 1fr)" : "repeat(auto-fill, minmax(10.5rem, 1fr))")};
  gap: var(--apart);
  align-items: start;
  margin-bottom: var(--apart);
  width: 100%;
`;
