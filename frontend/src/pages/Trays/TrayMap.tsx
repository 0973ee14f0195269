import { memo } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { WaitingEntry } from "../../api/waiting";
import { Hidden } from "../../components/Amount";
import { FindingMark } from "../../components/FindingMark";
import { figure } from "../../words";

type Pass = Schemas["TrayOut"];

/** The tray from above: what each place still needs, where the cursor stands, what waits. Tapping a place goes there. */
export function TrayMap({
  pass,
  slot,
  waiting,
  onChoose,
}: {
  pass: Pass;
  slot: number;
  waiting: Map<string, WaitingEntry>;
  onChoose: (slot: number) => void;
}) {
  const { rows, columns } = pass.tray;
  const bySlot = new Map(pass.cells.map((each) => [each.cell.slot, each]));
  return (
    <Board $columns={columns ?? 1} aria-label={pass.tray.name} role="group">
      {Array.from({ length: (rows ?? 1) * (columns ?? 1) }, (_, index) => {
        const at = index + 1;
        const each = bySlot.get(at);
        if (!each)
          return (
            <Empty key={at}>
              <SlotNumber>{at}</SlotNumber>
            </Empty>
          );
        const waits = waiting.get(each.cell.number);
        const state = waits
          ? "waits"
          : each.must_look
            ? "to look at"
            : each.needs_voltage
              ? "to measure"
              : each.cell.resting_voltage_v === null
                ? "looked at"
                : `${figure(each.cell.resting_voltage_v, 2)} V`;
        return (
          <Tile
            key={at}
            at={at}
            number={each.cell.number}
            state={state}
            isHere={at === slot}
            isDue={each.must_look || each.needs_voltage}
            waits={Boolean(waits)}
            isOut={each.cell.grade === "out"}
            toMend={each.cell.step === "repair"}
            onChoose={onChoose}
          />
        );
      })}
    </Board>
  );
}

interface TileProps {
  at: number;
  number: string;
  state: string;
  isHere: boolean;
  isDue: boolean;
  waits: boolean;
  isOut: boolean;
  toMend: boolean;
  onChoose: (slot: number) => void;
}

/** One place; drawn anew only when something of it changed, as every entry draws the tray. */
const Tile = memo(function Tile({ at, number, state, isHere, isDue, waits, isOut, toMend, onChoose }: TileProps) {
  return (
    <Place
      onPress={() => onChoose(at)}
      aria-current={isHere ? "location" : undefined}
      $here={isHere}
      $due={isDue}
      $waits={waits}
      $out={isOut}
    >
      <SlotNumber>
        <Hidden>place </Hidden>
        {at}
      </SlotNumber>
      <CellNumber>
        <Hidden>cell </Hidden>
        {number}
      </CellNumber>
      <State>
        {toMend && <FindingMark finding="torn-wrap" width={26} />}
        {state}
      </State>
    </Place>
  );
});

const Board = styled.div<{ $columns: number }>`
  display: grid;
  grid-template-columns: repeat(${({ $columns }) => $columns}, minmax(0, 1fr));
  gap: 5px;
  padding: 8px;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  border-radius: 10px;
  background: ${({ theme }) => theme.color.mat};
  ${({ theme }) => theme.narrow} { gap: 3px; padding: 4px; }
`;
const Place = styled(Button)<{ $here: boolean; $due: boolean; $waits: boolean; $out: boolean }>`
  position: relative;
  display: grid;
  align-content: center;
  justify-items: center;
  min-height: 70px;
  padding: var(--block) var(--thread) var(--hair);
  overflow: hidden;
  border: 2px solid ${({ theme, $out, $due }) => ($out ? theme.color.danger : $due ? theme.color.ink : theme.color.inkSoft)};
  border-radius: 8px;
  background: ${({ theme, $waits, $due }) => ($waits ? theme.color.askPaper : $due ? theme.color.paper : theme.color.mat)};
  cursor: pointer;
  ${({ theme, $here }) => $here && `outline: 4px solid ${theme.color.pencil}; outline-offset: 0;`}
`;
const Empty = styled.span`
  position: relative;
  min-height: 70px;
  border: 2px dashed ${({ theme }) => theme.color.matLine};
  border-radius: 8px;
`;
const SlotNumber = styled.span`
  position: absolute;
  top: 1px;
  left: 6px;
  font: 600 0.75rem ${({ theme }) => theme.font.figure};
  color: ${({ theme }) => theme.color.inkSoft};
`;
const CellNumber = styled.span`font: 700 1rem/1.1 ${({ theme }) => theme.font.figure};`;
const State = styled.span`
  display: flex;
  align-items: center;
  gap: var(--thread);
  font-size: 0.8125rem;
  line-height: 1.1;
  text-align: center;
`;
