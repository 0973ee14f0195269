import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import { Button } from "react-aria-components";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Cell } from "../../api/client";
import { curveQuery, logsOfCellQuery } from "../../api/measuring";
import { storyQuery } from "../../api/queries";
import { Field, Switch } from "../../components/Fields";
import { GradeMark } from "../../components/GradeMark";
import { layOver } from "../../components/layOver";
import { Page, Quiet, Sheet } from "../../components/Page";
import { Plot } from "../../components/Plot";
import { Tape } from "../../components/Tape";
import { where } from "../../components/where";
import { figure, METHOD_WORDS, SURE_WORDS } from "../../words";

const MOST = 8;

/** Up to eight cells side by side: figures drawn to one scale, and their curves over one another. */
export default function ComparePage() {
  const [search, setSearch] = useSearchParams();
  const numbers = (search.get("cells") ?? "").split(",").filter(Boolean).slice(0, MOST);
  const [typed, setTyped] = useState("");
  const stories = useQueries({ queries: numbers.map((number) => ({ ...storyQuery(number), retry: false })) });
  const cells = stories.flatMap((story) => story.data?.cell ?? []);
  const wrong = stories.find((story) => story.error)?.error ?? null;
  const failed = numbers.filter((_, index) => stories[index]?.error);
  const put = (next: string[]) => setSearch(next.length > 0 ? { cells: next.join(",") } : {});
  return (
    <Page title="Side by side" wide lead="Up to eight cells, on one scale.">
      <Narrow
        onSubmit={(event) => {
          event.preventDefault();
          if (typed.trim() && !numbers.includes(typed.trim())) put([...numbers, typed.trim()]);
          setTyped("");
        }}
      >
        <Field
          label="One more cell"
          value={typed}
          onChange={setTyped}
          maxLength={20}
          hint={numbers.length >= MOST ? "Eight are enough; take one out first." : "Type or scan its number, Enter."}
          error={wrong ? wrong.message : null}
        />
      </Narrow>
      {failed.map((number) => (
        <p key={number}>
          {number} is left out.{" "}
          <Remove onPress={() => put(numbers.filter((each) => each !== number))}>forget it</Remove>
        </p>
      ))}
      {cells.length === 0 ? (
        <Quiet>
          <h2>No cell yet.</h2>
          <p>Type a number, or choose a stretch of the shelf's map and compare what is in it.</p>
        </Quiet>
      ) : (
        <>
          <Figures cells={cells} onRemove={(number) => put(numbers.filter((each) => each !== number))} />
          <CurvesOf cells={cells} />
        </>
      )}
    </Page>
  );
}

function Figures({ cells, onRemove }: { cells: Cell[]; onRemove: (number: string) => void }) {
  const most = (values: (number | null)[]) => Math.max(1, ...values.map((value) => value ?? 0));
  const mostMah = most(cells.map((cell) => cell.capacity_mah));
  const mostMohm = most(cells.map((cell) => cell.resistance_mohm));
  return (
    <Scroll tabIndex={0} role="region" aria-label="Cells side by side">
      <table>
        <tbody>
          <tr>
            <th scope="row">Cell</th>
            {cells.map((cell) => (
              <td key={cell.number}>
                <Tape size="small" to={`/cells/${cell.number}`}>
                  {cell.number}
                </Tape>{" "}
                <Remove onPress={() => onRemove(cell.number)}>take out</Remove>
              </td>
            ))}
          </tr>
          <Line name="Grade" cells={cells} show={(cell) => <GradeMark grade={cell.grade} />} />
          <Line name="How sure" cells={cells} show={(cell) => (cell.sure ? SURE_WORDS[cell.sure] : "–")} />
          <Line
            name="Capacity"
            cells={cells}
            show={(cell) => <Drawn value={cell.capacity_mah} u={cell.capacity_u_mah} unit="mAh" most={mostMah} />}
          />
          <Line
            name="Resistance"
            cells={cells}
            show={(cell) => (
              <>
                <Drawn value={cell.resistance_mohm} u={cell.resistance_u_mohm} unit="mΩ" most={mostMohm} />
                <Small>{cell.resistance_method ? METHOD_WORDS[cell.resistance_method] : ""}</Small>
              </>
            )}
          />
          <Line
            name="Resistance × capacity"
            cells={cells}
            show={(cell) =>
              cell.resistance_mohm && cell.capacity_mah
                ? `${figure((cell.resistance_mohm * cell.capacity_mah) / 1e6, 3)} Ω Ah`
                : "–"
            }
          />
          <Line
            name="Resting"
            cells={cells}
            show={(cell) => (cell.resting_voltage_v === null ? "–" : `${figure(cell.resting_voltage_v, 2)} V`)}
          />
          <Line name="Out of" cells={cells} show={(cell) => cell.donor_description || cell.donor_kind} />
          <Line name="Lies in" cells={cells} show={where} />
        </tbody>
      </table>
    </Scroll>
  );
}

function Line({ name, cells, show }: { name: string; cells: Cell[]; show: (cell: Cell) => React.ReactNode }) {
  return (
    <tr>
      <th scope="row">{name}</th>
      {cells.map((cell) => (
        <td key={cell.number}>{show(cell)}</td>
      ))}
    </tr>
  );
}

function Drawn({ value, u, unit, most }: { value: number | null; u: number | null; unit: string; most: number }) {
  if (value === null) return <>–</>;
  return (
    <>
      <strong>{figure(value)}</strong> {unit} {u !== null && <Small>± {figure(u)}</Small>}
      <Bar style={{ width: `${(100 * value) / most}%` }} />
    </>
  );
}

/** The last curve of each cell that has one. */
function CurvesOf({ cells }: { cells: Cell[] }) {
  const [over, setOver] = useState<"time" | "charge">("charge");
  const logs = useQueries({ queries: cells.map((cell) => logsOfCellQuery(cell.number)) });
  const found = cells.flatMap((cell, index) => {
    const log = logs[index]?.data?.logs.find((each) => each.state === "read");
    return log ? [{ log: log.id, name: `cell ${cell.number}` }] : [];
  });
  const curves = useQueries({ queries: found.map((each) => curveQuery(each.log, 0, null)) });
  if (found.length === 0) return null;
  const drawn = layOver(
    curves.map((curve) => curve.data ?? null),
    found.map((each) => each.name),
    over,
  );
  return (
    <Sheet>
      <h2>Their curves</h2>
      <Switch
        label="Over"
        value={over}
        onChange={setOver}
        options={[
          ["charge", "Over charge"],
          ["time", "Over time"],
        ]}
      />
      <Plot
        key={over}
        label={`Voltage over ${over}`}
        xLabel={over === "time" ? "minutes" : "mAh given"}
        x={drawn.x}
        lines={drawn.lines}
        height={340}
        fileName="side-by-side"
      />
    </Sheet>
  );
}

const Narrow = styled.form`max-width: 28rem;`;
const Scroll = styled.div`
  overflow-x: auto;
  margin: var(--block) 0;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  table { width: 100%; border-collapse: collapse; table-layout: fixed; }
  th { width: 9rem; }
  td { width: 11rem; }
  th, td { padding: var(--near) var(--step); text-align: left; vertical-align: top; }
  tr + tr > * { border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
  th { position: sticky; left: 0; background: ${({ theme }) => theme.color.paper}; }
`;
const Bar = styled.i`display: block; height: 8px; margin-top: 2px; background: ${({ theme }) => theme.color.pencil}; border-radius: 0 3px 3px 0;`;
const Small = styled.small`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Remove = styled(
  Button,
)`min-height: 44px; padding: 0 var(--hair); border: 0; background: none; color: inherit; text-decoration: underline; cursor: pointer; font-size: ${({ theme }) => theme.size.note};`;
