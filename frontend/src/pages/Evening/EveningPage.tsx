import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { type Evening, useEvening } from "../../api/evening";
import { useWrite } from "../../api/writing";
import { Button, ButtonLink } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { clockTime, figure } from "../../words";
import { Close } from "./Close";
import { EveningForm } from "./EveningForm";
import { NextRow } from "./NextRow";
import { Over } from "./Over";
import { Strips } from "./Strips";
import { useIsOver } from "./useIsOver";

/** The evening at the testers: what can be finished, what is next, and the plan as strips of tape. */
export default function EveningPage() {
  const query = useEvening();
  const [isChanging, setChanging] = useState(false);
  const evening = query.data?.evening;
  const isOver = useIsOver(evening);
  const showPlan = () => {
    setChanging(false);
    // What can be finished stands at the top; who planned stood at the end of the form.
    window.scrollTo(0, 0);
  };
  return (
    <Page
      title={!evening ? "Plan the evening" : `The evening ${isOver ? "was" : "is"} until ${clockTime(evening.ends_at)}`}
      wide
      lead={
        evening ? undefined : "Say who is here and until when. What waits is known; what to do when follows from it."
      }
      actions={
        <ButtonLink to="/table" $kind="plain">
          On the testers
        </ButtonLink>
      }
    >
      {!query.data ? (
        <Waiting query={query} what="the evening" />
      ) : !evening || isChanging ? (
        <EveningForm known={evening ?? null} onDone={showPlan} />
      ) : isOver ? (
        <Over evening={evening} onLonger={() => setChanging(true)} />
      ) : (
        <Planned evening={evening} onChange={() => setChanging(true)} />
      )}
    </Page>
  );
}

function Planned({ evening, onChange }: { evening: Evening; onChange: () => void }) {
  const hasLater = evening.later.length > 0;
  return (
    <>
      <TwoColumns $left={1.3}>
        <Sheet aria-label="What can be finished">
          <Answer>
            <b>{figure(evening.tonight.length)}</b> of {figure(evening.waiting)} can be finished tonight
          </Answer>
          {evening.waiting === 0 && <p>Nothing waits for a tester. Open a donor, or look at what needs a voltage.</p>}
          {hasLater && evening.finished.length > evening.tonight.length && (
            <p>{figure(evening.finished.length - evening.tonight.length)} more in the evenings after it.</p>
          )}
          {evening.promises_missed > 0 && (
            <p>
              <strong>
                {evening.promises_missed === 1
                  ? "One that was promised cannot be done tonight."
                  : `${evening.promises_missed} that were promised cannot be done tonight.`}
              </strong>{" "}
              Tell the visitor now.
            </p>
          )}
          <First>
            {evening.next.length === 0
              ? "Nothing more is to be begun tonight."
              : evening.next.map((row, at) => (
                  <NextRow key={`${row.cell}-${row.program}`} row={row} isFirst={at === 0} />
                ))}
          </First>
          {evening.not_begun.length > 0 && (
            <Not>
              <strong>Should not be begun:</strong>{" "}
              {evening.not_begun.slice(0, 24).map((cell) => (
                <Tape key={cell} size="small" to={`/cells/${cell}`}>
                  {cell}
                </Tape>
              ))}
              {evening.not_begun.length > 24 && ` and ${evening.not_begun.length - 24} more`}
            </Not>
          )}
        </Sheet>
        <Sheet aria-label="Who is here">
          <h2>Who is here</h2>
          <ul>
            {evening.people.map((person) => (
              <li key={person.name}>
                {person.name}, until {clockTime(person.until)}
              </li>
            ))}
          </ul>
          {evening.promised.length > 0 && <p>Promised for tonight: {evening.promised.join(", ")}</p>}
          <Row>
            <Button onPress={onChange}>Somebody comes, leaves, a promise</Button>
            <Close>The evening is over</Close>
          </Row>
          <WhatIfs evening={evening} />
          <Learnt evening={evening} />
        </Sheet>
      </TwoColumns>
      <Strips evening={evening} />
      {evening.changes.length > 0 && (
        <Sheet aria-label="What changed">
          <h2>What changed</h2>
          <ol>
            {evening.changes.slice(0, 6).map((change) => (
              <li key={change.at}>
                <strong>{clockTime(change.at)}</strong> {change.said.join(" ")}
              </li>
            ))}
          </ol>
        </Sheet>
      )}
    </>
  );
}

const WHATS = [
  ["tester", "one more tester slot"],
  ["charger", "one more charger"],
  ["hands", "one more pair of hands"],
  ["hour", "an hour longer"],
] as const;

function WhatIfs({ evening }: { evening: Evening }) {
  const [told, setTold] = useState<Record<string, string>>({});
  const ask = useWrite(
    (what: (typeof WHATS)[number][0], key) =>
      answer<Schemas["EveningWhatIfOut"]>(() =>
        api.POST("/api/evening/what-if", { body: { what }, headers: once(key) }),
      ),
    (found, what) => {
      const more = found.finished - found.now;
      setTold((before) => ({ ...before, [what]: more > 0 ? `${more} more` : "none more" }));
    },
  );
  if (evening.waiting === 0) return null;
  return (
    <Box aria-label="What if">
      <h3>What would bring more?</h3>
      <Row>
        {WHATS.map(([what, words]) => (
          <Button key={what} onPress={() => ask.mutate(what)} isDisabled={ask.isPending}>
            {words}
            {told[what] && <strong>: {told[what]}</strong>}
          </Button>
        ))}
      </Row>
      <ProblemNotice problem={ask.error} />
    </Box>
  );
}

function Learnt({ evening }: { evening: Evening }) {
  if (evening.times_runs < 4)
    return <Small>Durations are by the tables; after a few runs here they are corrected by what those took.</Small>;
  return (
    <Small>
      Durations as learnt from {evening.times_runs} runs here: {figure(100 * evening.times_factor)} % of the tables.
    </Small>
  );
}

const Answer = styled.p`
  font-size: ${({ theme }) => theme.size.title};
  b { font: 700 ${({ theme }) => theme.size.key}/1 ${({ theme }) => theme.font.figure}; }
`;
const First = styled.ol`margin-top: var(--apart); border-top: 3px solid ${({ theme }) => theme.color.ink};`;
const Not = styled.p`margin-top: var(--apart); line-height: 2;`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near); margin: var(--apart) 0;`;
const Box = styled.section`padding-top: var(--apart); border-top: 1px solid ${({ theme }) => theme.color.paperLine};`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
