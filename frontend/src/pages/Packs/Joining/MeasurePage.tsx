import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Form } from "react-aria-components";
import { useParams } from "react-router";
import styled from "styled-components";
import type { Pack } from "../../../api/client";
import { packQuery } from "../../../api/queries";
import { discard, useWaiting, type WaitingEntry } from "../../../api/waiting";
import { Button, ButtonLink } from "../../../components/Button";
import { CameBackList } from "../../../components/CameBackList";
import { Field } from "../../../components/Fields";
import { HazardScreen } from "../../../components/HazardScreen";
import { Notice } from "../../../components/Notice";
import { Page, Waiting } from "../../../components/Page";
import { Tape } from "../../../components/Tape";
import { useKept } from "../../../components/useKept";
import { useScanner } from "../../../components/useScanner";
import { figure, readNumber } from "../../../words";

/** One reading a cell, in the order in which they were picked: Enter keeps it and goes on to the next. */
export default function MeasurePage() {
  const { number = "" } = useParams();
  const pack = useQuery(packQuery(number));
  return (
    <Page
      title="Measure all before joining"
      lead={`Pack ${number}: the voltage of each cell at rest, with nothing connected`}
      actions={
        <ButtonLink to={`/packs/${number}`} $kind="plain">
          Back to the plan
        </ButtonLink>
      }
    >
      {pack.data ? <Pass pack={pack.data} /> : <Waiting query={pack} what="the cells" />}
    </Page>
  );
}

function Pass({ pack }: { pack: Pack }) {
  const kept = useKept();
  const { entries, answered } = useWaiting();
  const [here, setHere] = useState<Record<string, string>>({});
  const [at, setAt] = useState(0);
  const [typed, setTyped] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const cells = pack.picks;
  const current = cells[at];
  const goTo = (index: number) => {
    setAt(index);
    setTyped("");
    field.current?.focus();
  };
  useScanner((text) => {
    const found = cells.findIndex((cell) => text.toUpperCase().includes(cell.number));
    if (found >= 0) goTo(found);
  });
  const keep = () => {
    if (kept.acceptNewest() || !current || typed.trim() === "") return;
    kept.keep(current.number, { to: "readings", body: { quantity: "voltage", value: typed, method: "meter" } });
    const next = { ...here, [current.number]: typed };
    setHere(next);
    const after = [...cells.keys()].map((step) => (at + 1 + step) % cells.length);
    goTo(after.find((index) => !((cells[index]?.number ?? "") in next)) ?? cells.length);
  };
  const again = (entry: WaitingEntry) => {
    kept.drop(entry.id);
    void discard(entry.id);
    const { [entry.number]: _, ...others } = here;
    setHere(others);
    goTo(cells.findIndex((cell) => cell.number === entry.number));
  };
  const volts = Object.values(here).flatMap((text) => readNumber(text) ?? []);
  const gap = volts.length > 1 ? Math.max(...volts) - Math.min(...volts) : null;
  const isRefused = (cell: string) => kept.refused.some((entry) => entry.number === cell);
  const isWaiting = (cell: string) => entries.some((entry) => entry.number === cell && !entry.refused);
  const isTaken = (cell: string) => answered.some((entry) => entry.number === cell);
  return (
    <Stack>
      {kept.danger && (
        <HazardScreen
          key={kept.danger.id}
          number={kept.danger.number}
          text={kept.danger.text}
          onDone={() => kept.onDangerSeen(kept.danger?.id ?? "")}
        />
      )}
      {current ? (
        <Ask
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          <Where>
            <Tape size="large">{current.number}</Tape>
            <span>
              group {current.group}, {at + 1} of {cells.length}
            </span>
          </Where>
          <Field
            key={current.number}
            label={`Voltage of ${current.number}`}
            unit="V"
            numeric
            size="key"
            value={typed}
            onChange={setTyped}
            inputRef={field}
            maxLength={12}
            autoFocus
          />
          <Button kind="main" type="submit" isDisabled={typed.trim() === "" && kept.refused.length === 0}>
            Next
          </Button>
        </Ask>
      ) : (
        <Notice kind="kept">
          <p>
            <strong>All {cells.length} were measured.</strong>
            {gap !== null && ` They lie ${figure(gap, 2)} V apart.`}
          </p>
          <p>
            <ButtonLink to={`/packs/${pack.number}`} $kind="main">
              Go on with the pack
            </ButtonLink>
          </p>
        </Notice>
      )}
      <CameBackList kept={kept} onAgain={again} onSettled={() => field.current?.focus()} />
      <List aria-label="Cells in the order of picking">
        {cells.map((cell, index) => (
          <li key={cell.number}>
            <Line type="button" $now={index === at} onClick={() => goTo(index)}>
              <b>{cell.number}</b>
              <span>group {cell.group}</span>
              <span>
                {here[cell.number] === undefined
                  ? "not yet"
                  : `${here[cell.number]} V${isRefused(cell.number) ? ", came back" : isWaiting(cell.number) ? ", …" : isTaken(cell.number) ? ", kept" : ""}`}
              </span>
            </Line>
          </li>
        ))}
      </List>
      {gap !== null && current && (
        <p>
          So far {figure(gap, 2)} V apart; cells are joined within {figure(pack.join_within.value, 2)} V.
        </p>
      )}
    </Stack>
  );
}

const Stack = styled.div`display: grid; gap: var(--block);`;
const Ask = styled(Form)`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: var(--apart);
  padding: var(--block) var(--room);
  background: ${({ theme }) => theme.color.paper};
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
`;
const Where = styled.div`display: grid; gap: var(--hair); justify-items: start; flex: 1 0 100%;`;
const List = styled.ul`display: grid; grid-template-columns: repeat(auto-fill, minmax(19rem, 1fr)); gap: 0 var(--room); background: ${({ theme }) => theme.color.paper}; padding: var(--near) var(--block);`;
const Line = styled.button<{ $now: boolean }>`
  display: grid;
  grid-template-columns: 4rem 5rem 1fr;
  gap: var(--near);
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 0 var(--near);
  border: 0;
  border-left: 6px solid ${({ theme, $now }) => ($now ? theme.color.tape : "transparent")};
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
  b { font-family: ${({ theme }) => theme.font.figure}; }
`;
