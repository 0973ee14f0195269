import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { Evening } from "../../api/evening";
import { Button, ButtonLink } from "../../components/Button";
import { Sheet, TwoColumns } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { clockTime, figure, PROGRAM_WORDS } from "../../words";
import { Close } from "./Close";

/** The time that was said is over: nothing more is begun, what runs is looked after, and whoever stays says so. */
export function Over({ evening, onLonger }: { evening: Evening; onLonger: () => void }) {
  const count = evening.running.length;
  return (
    <TwoColumns $left={1.1} $below>
      <Sheet aria-label="Who is still here">
        <Answer>
          {count > 0 && (
            <>
              <b>{figure(count)}</b> {count === 1 ? "cell runs yet." : "cells run yet."}{" "}
            </>
          )}
          Who is still here?
        </Answer>
        <p>This plan begins nothing more. Say who stays and until when, and it is made anew.</p>
        <Row>
          <Button kind="main" onPress={onLonger}>
            We stay longer
          </Button>
          <Close>Everybody goes home</Close>
        </Row>
        <p>
          {evening.done === 0
            ? "Nothing was brought to its end tonight."
            : evening.done === 1
              ? "One cell was brought to the end of what ran on it."
              : `${figure(evening.done)} cells were brought to the end of what ran on them.`}{" "}
          <Link to="/brought">What it brought</Link>
        </p>
      </Sheet>
      <Sheet aria-label="What runs yet">
        <h2>{count === 0 ? "Nothing runs any more" : "Runs yet"}</h2>
        {count === 0 ? (
          <p>Look at every tester and charger once more before you go: nothing warm, nothing that swells.</p>
        ) : (
          <>
            <ul>
              {evening.running.map((row) => (
                <Running key={row.slot} row={row} />
              ))}
            </ul>
            <Last>Stay with them or stop them. Nothing charges where nobody is, and nothing over night.</Last>
          </>
        )}
      </Sheet>
    </TwoColumns>
  );
}

function Running({ row }: { row: Schemas["StillRunsOut"] }) {
  return (
    <Line>
      <Tape size="small" to={`/cells/${row.cell}`}>
        {row.cell}
      </Tape>
      <span>
        {PROGRAM_WORDS[row.program]} in <strong>{row.slot_name}</strong> ({row.slot})
        {row.ends_at && `, until about ${clockTime(row.ends_at)}`}
      </span>
      <ButtonLink to={`/table/${row.slot}`} $kind="plain">
        To the slot
      </ButtonLink>
    </Line>
  );
}

const Answer = styled.p`
  margin-bottom: var(--near);
  font-weight: 700;
  font-size: ${({ theme }) => theme.size.title};
  b { font: 700 ${({ theme }) => theme.size.key}/1 ${({ theme }) => theme.font.figure}; }
`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near); margin: var(--apart) 0;`;
const Line = styled.li`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  gap: var(--near) var(--apart);
  align-items: center;
  padding: var(--near) 0;
  border-bottom: 1px solid ${({ theme }) => theme.color.paperLine};
  a { justify-self: start; }
  ${({ theme }) => theme.narrow} { grid-template-columns: auto 1fr; span { grid-column: 1 / -1; grid-row: 2; } }
`;
const Last = styled.p`margin-top: var(--apart);`;
