import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import styled from "styled-components";
import type { Pack, Schemas } from "../../../api/client";
import { joiningQuery } from "../../../api/queries";
import { Amount } from "../../../components/Amount";
import { ButtonLink } from "../../../components/Button";
import { Notice } from "../../../components/Notice";
import { Sheet, Waiting } from "../../../components/Page";
import { Plot } from "../../../components/Plot";
import { figure } from "../../../words";
import { lasting } from "../Plan/run";

type Joining = Schemas["JoiningOut"];

/** What would flow when the cells are joined as they rest now, and three ways to bring them together before. */
export function JoiningSheet({ pack }: { pack: Pack }) {
  const joining = useQuery(joiningQuery(pack.number));
  return (
    <Sheet aria-label="Joining">
      <Stack>
        <Head>
          <h2>Before they are joined</h2>
          <ButtonLink to={`/packs/${pack.number}/measure`} $kind="plain">
            Measure all before joining
          </ButtonLink>
        </Head>
        {joining.data?.joining ? (
          <Told joining={joining.data.joining} />
        ) : joining.data ? (
          <Notice kind="ask">{joining.data.why_not}</Notice>
        ) : (
          <Waiting query={joining} what="the joining" />
        )}
      </Stack>
    </Sheet>
  );
}

function Told({ joining }: { joining: Joining }) {
  const most = Math.max(...joining.first.map((each) => Math.abs(each.current_a)), 0.001);
  const tooMuch = joining.first.filter((each) => each.is_too_much);
  return (
    <>
      <Answer>
        <Amount value={joining.gap_v} unit="V" digits={2} size="figure" />
        <span>
          apart at rest; joined within {figure(joining.within_v, 2)} V.{" "}
          <strong>{joining.is_open ? "They may be joined." : "They may not be joined yet."}</strong>
        </span>
      </Answer>
      {tooMuch.length > 0 && (
        <Notice kind="error">
          Joined now,{" "}
          {tooMuch
            .map(
              (each) =>
                `${each.number} would carry ${figure(Math.abs(each.current_a), 1)} A and stands ${figure(each.stands_a, 1)} A`,
            )
            .join("; ")}
          . Even them first.
        </Notice>
      )}
      <First aria-label="What flows at first">
        {joining.first.map((each) => (
          <li key={each.number}>
            <span>{each.number}</span>
            <Bar aria-hidden="true">
              <i
                style={{
                  width: `${(50 * Math.abs(each.current_a)) / most}%`,
                  left: each.current_a < 0 ? `${50 - (50 * Math.abs(each.current_a)) / most}%` : "50%",
                }}
              />
            </Bar>
            <span>
              {Math.abs(each.current_a) < 0.005
                ? "nothing flows"
                : `${figure(Math.abs(each.current_a), 2)} A ${each.current_a > 0 ? "out" : "in"}`}
            </span>
          </li>
        ))}
      </First>
      {joining.is_flat && (
        <Notice kind="ask">
          Their curve is flat where they rest: equal voltages may be half a charge apart, and no meter sees it.
        </Notice>
      )}
      <p>{joining.why}</p>
      <Ways>
        {joining.ways.map((way) => (
          <WaySlip key={way.code} way={way} isBest={way.code === joining.best} cells={joining.first} />
        ))}
      </Ways>
    </>
  );
}

function WaySlip({ way, isBest, cells }: { way: Joining["ways"][number]; isBest: boolean; cells: Joining["first"] }) {
  const lines = useMemo(
    () => way.cell_v.map((y, index) => ({ name: cells[index]?.number ?? String(index), y, unit: "V", digits: 2 })),
    [way, cells],
  );
  return (
    <Slip $best={isBest} aria-label={way.name}>
      <h3>
        {way.name}
        {isBest && <Best>do this</Best>}
      </h3>
      <Hours>{way.hours === 0 ? "at once" : lasting(way.hours)}</Hours>
      <p>{way.needs}</p>
      {lines.length > 0 && way.moments_h.length > 1 && (
        <Plot
          label="Voltages coming together"
          xLabel="Hours"
          xDigits={2}
          x={way.moments_h}
          lines={lines}
          height={170}
          fileName="joining"
        />
      )}
    </Slip>
  );
}

const Stack = styled.div`display: grid; gap: var(--apart); > * { min-width: 0; }`;
const Head = styled.div`display: flex; flex-wrap: wrap; justify-content: space-between; align-items: center; gap: var(--near) var(--block);`;
const Answer = styled.p`display: flex; flex-wrap: wrap; align-items: baseline; gap: var(--hair) var(--gap);`;
const First = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(19rem, 1fr));
  gap: var(--thread) var(--room);
  li { display: grid; grid-template-columns: 3.5rem minmax(4rem, 1fr) 9.5rem; align-items: center; gap: var(--near); font: 500 1rem ${({ theme }) => theme.font.figure}; }
`;
/** Out of a cell to the right, into it to the left of the line in the middle. */
const Bar = styled.span`
  position: relative;
  height: 14px;
  background: linear-gradient(${({ theme }) => theme.color.ink}, ${({ theme }) => theme.color.ink}) center / 2px 100% no-repeat;
  i { position: absolute; top: 3px; height: 8px; background: ${({ theme }) => theme.color.pencil}; }
`;
const Ways = styled.ul`display: grid; grid-template-columns: repeat(auto-fit, minmax(17rem, 1fr)); gap: var(--block); align-items: start;`;
const Slip = styled.li<{ $best: boolean }>`
  display: grid;
  gap: var(--hair);
  min-width: 0;
  padding: var(--apart) var(--block);
  border: ${({ $best, theme }) => ($best ? `3px solid ${theme.color.ink}` : `1px dashed ${theme.color.inkSoft}`)};
  background: ${({ theme, $best }) => ($best ? theme.color.paper : "transparent")};
`;
const Best = styled.span`
  margin-left: var(--near);
  padding: 0 var(--near);
  background: ${({ theme }) => theme.color.tape};
  color: ${({ theme }) => theme.color.onTape};
  font-size: ${({ theme }) => theme.size.note};
`;
const Hours = styled.strong`font: 800 2rem/1.1 ${({ theme }) => theme.font.figure};`;
