import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Schemas } from "../../api/client";
import { CountField } from "../../components/CountField";
import { Switch } from "../../components/Fields";
import { Sheet, Waiting } from "../../components/Page";
import { FAMILIES_SAID, figure } from "../../words";
import { Never } from "./Never";

type What = Schemas["InPlaceIn"]["what"];
const WHAT: [What, string][] = [
  ["alkaline", "Alkaline"],
  ["nimh", "Nickel"],
  ["lead-acid", "Lead, 2 V each"],
];

/** So many other cells and ours on one ruler of volts, and what the old charger must never do. */
export function InPlace() {
  const [what, setWhat] = useState<What>("alkaline");
  const [count, setCount] = useState(3);
  const found = useQuery({
    queryKey: ["in-place-of", what, count],
    queryFn: () => answer(() => api.POST("/api/in-place-of", { body: { what, count } })),
  });
  return (
    <Sheet aria-label="In the place of other cells">
      <Stack>
        <Ask>
          <Switch label="What comes out" value={what} onChange={setWhat} options={WHAT} />
          <CountField label="So many in a row" value={count} onChange={setCount} least={1} most={40} />
        </Ask>
        {found.data ? <Windows found={found.data} /> : <Waiting query={found} what="the windows" />}
      </Stack>
    </Sheet>
  );
}

function Windows({ found }: { found: Schemas["InPlaceOut"] }) {
  const best = found.beside[0];
  const most = 1.05 * Math.max(found.full_v, ...found.beside.map((each) => each.full_v));
  const span = (low: number, high: number) => ({
    left: `${(100 * low) / most}%`,
    width: `${(100 * (high - low)) / most}%`,
  });
  return (
    <>
      {best ? (
        <h2>
          {best.series === 1 ? "One" : best.series} cell{best.series === 1 ? "" : "s"} of {FAMILIES_SAID[best.family]}{" "}
          in a row: {figure(100 * best.used_share)} % of its charge lies where the old ones worked
        </h2>
      ) : (
        <h2>None of ours works where the old ones did: a converter goes between.</h2>
      )}
      <Rulers>
        <Ruler>
          <span>What comes out</span>
          <Track aria-hidden="true">
            <Old style={span(found.empty_v, found.full_v)} />
          </Track>
          <b>
            {figure(found.empty_v, 1)} to {figure(found.full_v, 1)} V
          </b>
        </Ruler>
        {found.beside.map((each) => (
          <Ruler key={`${each.family}-${each.series}`}>
            <span>
              {each.series} of {FAMILIES_SAID[each.family]}
            </span>
            <Track aria-hidden="true">
              <Ghost style={span(found.empty_v, found.full_v)} />
              <Ours style={span(each.empty_v, each.full_v)} />
            </Track>
            <b>
              {figure(each.empty_v, 1)} to {figure(each.full_v, 1)} V, {figure(100 * each.used_share)} % of use
            </b>
          </Ruler>
        ))}
      </Rulers>
      <Never>
        {found.never.map((each) => (
          <li key={each}>{each}</li>
        ))}
        <li>
          Every pack of ours wants a low cut-off, and from two in a row on balance: match it and plan it as a pack.
        </li>
      </Never>
    </>
  );
}

const Stack = styled.div`display: grid; gap: var(--block);`;
const Ask = styled.div`display: flex; flex-wrap: wrap; gap: var(--apart) var(--room); align-items: end;`;
const Rulers = styled.ul`display: grid; gap: var(--near);`;
const Ruler = styled.li`
  display: grid;
  grid-template-columns: 14rem minmax(6rem, 1fr) 17rem;
  gap: var(--near) var(--block);
  align-items: center;
  b { font-family: ${({ theme }) => theme.font.figure}; }
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr; }
`;
const Track = styled.span`
  position: relative;
  height: 34px;
  border-bottom: 3px solid ${({ theme }) => theme.color.ink};
  background: repeating-linear-gradient(90deg, ${({ theme }) => theme.color.paperLine} 0 1px, transparent 1px 5%);
  i { position: absolute; bottom: 0; }
`;
const Old = styled.i`height: 24px; background: ${({ theme }) => theme.color.tape};`;
const Ghost = styled.i`height: 30px; border: 1px dashed ${({ theme }) => theme.color.inkSoft};`;
const Ours = styled.i`height: 20px; background: repeating-linear-gradient(135deg, ${({ theme }) => theme.color.pencil} 0 3px, transparent 3px 7px); border: 2px solid ${({ theme }) => theme.color.pencil};`;
