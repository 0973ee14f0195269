import styled from "styled-components";
import type { Pack, Schemas } from "../../api/client";
import { Sheet } from "../../components/Page";
import { day, figure, readNumber } from "../../words";

/** What was promised, what was worked out, and what was proved, side by side. */
export function Proved({ pack, run }: { pack: Pack; run: Schemas["OnPaperOut"] | null }) {
  const { commissioning } = pack;
  if (!commissioning) return null;
  const promise = pack.parts.find((part) => part.kind === "promise")?.figures;
  // It is proved with its load on all the time, and promised with the load on as often as it is used.
  const share = pack.parts.find((part) => part.kind === "device")?.figures.on_share;
  const promised = promise?.hours ? readNumber(promise.hours) : null;
  const hours = promised === null ? null : promised * ((share && readNumber(share)) || 1);
  const capacity = promise?.capacity_mah ? readNumber(promise.capacity_mah) : null;
  const at = promise?.at_v ? readNumber(promise.at_v) : null;
  const energy = capacity !== null && at !== null ? (capacity * at) / 1000 : null;
  const rows: [string, string, number | null, number | null, number | null][] = [
    ["Runs, load always on", "h", hours, run?.moments_h.at(-1) ?? null, commissioning.hours],
    ["Energy out", "Wh", energy, run?.energy_wh ?? null, commissioning.energy_wh],
  ];
  return (
    <Sheet>
      <h2>Proved, {day(commissioning.at)}</h2>
      <Scroll>
        <table>
          <thead>
            <tr>
              <td />
              <th scope="col">promised</th>
              <th scope="col">on paper</th>
              <th scope="col">proved</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(([what, unit, promised, paper, proved]) => (
              <tr key={what}>
                <th scope="row">{what}</th>
                <td>{told(promised, unit)}</td>
                <td>{told(paper, unit)}</td>
                <td>
                  <strong>{proved === null ? "let pass" : told(proved, unit)}</strong>
                </td>
              </tr>
            ))}
            <tr>
              <th scope="row">Groups</th>
              <td />
              <td />
              <td>
                {commissioning.group_volts.map((volts) => figure(volts, 2)).join(", ")}
                {"\u00a0"}V
              </td>
            </tr>
          </tbody>
        </table>
      </Scroll>
    </Sheet>
  );
}

const told = (value: number | null, unit: string) => (value === null ? "" : `${figure(value, 1)}\u00a0${unit}`);
const Scroll = styled.div`
  overflow-x: auto;
  table { border-collapse: collapse; }
  th, td { padding: var(--hair) var(--block) var(--hair) 0; text-align: left; }
  td { font-family: ${({ theme }) => theme.font.figure}; }
  strong { font-size: ${({ theme }) => theme.size.lead}; }
`;
