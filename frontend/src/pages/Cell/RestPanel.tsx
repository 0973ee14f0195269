import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Cell, Step } from "../../api/client";
import { SELF_DISCHARGE_VERDICTS } from "../../api/codes";
import { restQuery, useLogs } from "../../api/measuring";
import { named } from "../../catalogue";
import { InstrumentPick } from "../../components/InstrumentPick";
import { Sheet } from "../../components/Page";
import { SumPicture } from "../../components/SumPicture";
import { day, figure, STEP_WORDS } from "../../words";

const VERDICT_WORDS = named("verdict", SELF_DISCHARGE_VERDICTS);

/** Steps beside which a cell goes on resting; any other one comes before the next reading at rest. */
const WAITED_FOR: ReadonlySet<Step> = new Set([
  "rest",
  "measure-voltage",
  "shelve",
  "keep",
  "recheck",
  "in-pack",
  "in-use",
]);
const RISES = "No loss to be seen: it reads a little more than before";

/** How a cell holds its charge: its resting voltages over days, and when the next one will say something. */
export function RestPanel({ cell }: { cell: Cell }) {
  const [meter, setMeter] = useState<string | null>(null);
  const rest = useQuery(restQuery(cell.number, meter));
  if (!rest.data?.since || rest.data.readings.length === 0) return null;
  const { readings, line, next_at } = rest.data;
  // Nothing is told of how a cell holds its charge by a voltage that climbs.
  const rises = rest.data.verdict === "fine" && (rest.data.mv_per_day ?? 0) < 0;
  const leftOut = readings.filter((reading) => reading.left_out !== null);
  const points = (name: string, chosen: typeof readings) => ({
    name,
    x: chosen.map((each) => each.days),
    y: chosen.map((each) => each.value_v),
    low: [],
    high: [],
    as_points: true,
  });
  return (
    <Sheet>
      <h2>How it rests</h2>
      <Verdict>{rises ? RISES : VERDICT_WORDS[rest.data.verdict]}</Verdict>
      <p>{rest.data.text}</p>
      <SumPicture
        title="Resting voltage over days"
        picture={{
          x_label: `days since its last ${rest.data.after_charge ? "charge" : "discharge"}`,
          unit: "V",
          lines: [
            points("readings", readings),
            ...(line
              ? [
                  {
                    name: "line, ± 2 errors",
                    x: line.days,
                    y: line.volts,
                    low: line.low_v,
                    high: line.high_v,
                    as_points: false,
                  },
                ]
              : []),
          ],
        }}
      />
      {leftOut.length > 0 && (
        <Small>
          {leftOut.length} of {readings.length} left out: {leftOut[0]?.left_out}.
        </Small>
      )}
      {next_at && !WAITED_FOR.has(cell.step) && (
        <p>
          Nobody waits for the next reading: <strong>{STEP_WORDS[cell.step]}</strong> comes first, and ends this rest.
        </p>
      )}
      {next_at && WAITED_FOR.has(cell.step) && (
        <p>
          The next reading says something from <strong>{day(next_at)}</strong> on.
        </p>
      )}
      <InstrumentPick value={meter} onChange={setMeter} />
    </Sheet>
  );
}

/** The logs of a cell. */
export function CellLogs({ number }: { number: string }) {
  const logs = useLogs({ cell: number });
  if (!logs.data) return null;
  return (
    <Sheet>
      <h2>Its logs</h2>
      <ul>
        {logs.data.logs.map((log) => (
          <li key={log.id}>
            <Link to={`/logs/${log.id}`}>{log.file_name}</Link>
            {log.discharge_capacity_mah !== null && `, ${figure(log.discharge_capacity_mah)} mAh`}
          </li>
        ))}
      </ul>
      <Link to={`/logs?cell=${number}`}>{logs.data.logs.length === 0 ? "Read one from a tester" : "Read another"}</Link>
    </Sheet>
  );
}

const Verdict = styled.p`font-size: ${({ theme }) => theme.size.title}; font-weight: 800;`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
