import styled from "styled-components";
import type { Schemas } from "../api/client";
import { figure, LIMIT_KIND_WORDS } from "../words";
import { Hidden } from "./Amount";

/** A ruler on which one value stands against its limit. */
export function Scale({ reason }: { reason: Schemas["ReasonOut"] }) {
  const { value, limit } = reason;
  if (value === null || limit === null) return null;
  const digits = limit.value < 10 ? 2 : limit.unit === "%" ? 1 : 0;
  const end = Math.max(value, limit.value) * 1.25;
  const at = (figureAt: number) => `${Math.min(100, Math.max(0, (100 * figureAt) / end))}%`;
  return (
    <Ruler>
      <Line aria-hidden="true">
        {Array.from({ length: 21 }, (_, tick) => (
          <Tick key={tick} style={{ left: `${5 * tick}%` }} $long={tick % 5 === 0} />
        ))}
        <LimitTick style={{ left: at(limit.value) }} />
        <ValueMark style={{ left: at(value) }} />
      </Line>
      <Legend>
        <span>
          <Hidden>value </Hidden>
          {figure(value, digits)} {limit.unit}
        </span>
        <span>
          limit {figure(limit.value, digits)} {limit.unit}, {LIMIT_KIND_WORDS[limit.kind]}
        </span>
      </Legend>
    </Ruler>
  );
}

const Ruler = styled.div`margin: var(--near) 0 var(--hair);`;
const Line = styled.div`
  position: relative;
  height: 26px;
  border-bottom: 2px solid ${({ theme }) => theme.color.ink};
`;
const Tick = styled.i<{ $long: boolean }>`
  position: absolute;
  bottom: 0;
  width: 1px;
  height: ${({ $long }) => ($long ? "11px" : "6px")};
  background: ${({ theme }) => theme.color.inkSoft};
`;
const LimitTick = styled.i`
  position: absolute;
  bottom: 0;
  width: 3px;
  height: 22px;
  margin-left: -1px;
  background: ${({ theme }) => theme.color.ink};
`;
const ValueMark = styled.i`
  position: absolute;
  bottom: 0;
  margin-left: -8px;
  border: 8px solid transparent;
  border-top: 16px solid ${({ theme }) => theme.color.pencil};
  border-bottom: 0;
`;
const Legend = styled.div`
  display: flex;
  justify-content: space-between;
  gap: var(--block);
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.inkSoft};
  span:first-child { color: ${({ theme }) => theme.color.pencil}; font-weight: 700; white-space: nowrap; }
`;
