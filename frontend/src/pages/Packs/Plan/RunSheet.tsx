import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { answer, api, type Pack, Problem, type Schemas } from "../../../api/client";
import { Figures } from "../../../components/Figures";
import { Fold } from "../../../components/Fold";
import { Notice } from "../../../components/Notice";
import { Plot } from "../../../components/Plot";
import { Table } from "../../../components/Table";
import { useSettled } from "../../../components/useSettled";
import { figure } from "../../../words";
import { Moment } from "./Moment";
import { endWords, instead, lasting, linesOf, type Paper } from "./run";
import { AS_PLANNED, bodyOf, WhatIf } from "./WhatIf";

/** Typing pauses so long before it is asked: figures should move with the hand. */
const PAUSE_MS = 60;

/** The pack run on paper: how long, what ends it, each cell at any moment of it, and what would be otherwise. */
export function RunSheet({ pack, checks }: { pack: Pack; checks: Schemas["ChecksOut"] }) {
  const [asked, setAsked] = useState(AS_PLANNED);
  const body = bodyOf(useSettled(asked, PAUSE_MS));
  const otherwise = useQuery({
    queryKey: ["pack", pack.number, "what-if", pack.version, body],
    queryFn: ({ signal }) =>
      answer(() =>
        api.POST("/api/packs/{number}/what-if", {
          params: { path: { number: pack.number } },
          body: body ?? {},
          signal,
        }),
      ),
    enabled: body !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const problem = body !== null && otherwise.error instanceof Problem ? otherwise.error : null;
  const found = body === null || problem ? checks : (otherwise.data ?? checks);
  const isOther = found !== checks;
  const why = found.lines.find((line) => line.name && line.id === "run-time");
  return (
    <section aria-label="On paper">
      <Stack>
        <h2>On paper</h2>
        {found.run ? (
          <Run paper={found.run} before={isOther ? checks.run : null} />
        ) : (
          <Notice kind="ask">
            <p>{why?.worked ?? "It could not be run."}</p>
            {why?.mend && <p>{why.mend}</p>}
          </Notice>
        )}
        {isOther && <Changed before={checks.lines} after={found.lines} />}
        {problem && (
          <Notice kind="error">
            <p>{problem.message}</p>
            <p>The figures above are still those of the plan.</p>
          </Notice>
        )}
        <WhatIf
          pack={pack}
          asked={asked}
          onAsk={setAsked}
          wrong={problem && { field: problem.field, text: problem.message }}
        />
      </Stack>
    </section>
  );
}

function Run({ paper, before }: { paper: Paper; before: Paper | null }) {
  const [read, setRead] = useState<number | null>(null);
  const lines = useMemo(() => linesOf(paper), [paper]);
  const last = paper.moments_h.length - 1;
  return (
    <>
      <div aria-live="polite">
        <Time>
          {lasting(paper.hours)}
          <small>
            {before
              ? instead(lasting(paper.hours), lasting(before.hours))
              : `${lasting(paper.shortest_h)} to ${lasting(paper.longest_h)} in nine of ten cases, by what the figures leave open`}
          </small>
        </Time>
        <p>{endWords(paper)}</p>
      </div>
      {paper.moments_h.length > 1 && (
        <>
          <Plot
            label="Voltage of the groups over the run"
            xLabel="Hours with the load on"
            xDigits={2}
            x={paper.moments_h}
            lines={lines}
            height={220}
            onRead={setRead}
            fileName="pack-on-paper"
          />
          <Moment paper={paper} at={Math.min(read ?? last, last)} />
        </>
      )}
      <Figures
        items={[
          { label: "Energy at its terminals", value: paper.energy_wh, unit: "Wh", digits: 1 },
          { label: "In the mean", value: paper.mean_v, unit: "V", digits: 2 },
          { label: "Heat", value: paper.heat_wh, unit: "Wh", digits: 1 },
          { label: "Left in stronger groups", value: paper.stranded_wh, unit: "Wh", digits: 1 },
        ]}
      />
      {paper.left.length > 0 && (
        <Fold title="What its voltage says of what is left">
          <Table
            columns={[
              { head: "Left", cell: (each) => `${each.left_pct} %` },
              { head: "In use (V)", cell: (each) => figure(each.loaded_v, 2) },
              { head: "After an hour at rest (V)", cell: (each) => figure(each.resting_v, 2) },
            ]}
            rows={paper.left}
            keyOf={(each) => each.left_pct}
          />
        </Fold>
      )}
      <Remarks>
        {paper.remarks.map((remark) => (
          <li key={remark}>{remark}</li>
        ))}
      </Remarks>
    </>
  );
}

/** Lines that stand otherwise than they are planned. */
function Changed({ before, after }: { before: Schemas["CheckOut"][]; after: Schemas["CheckOut"][] }) {
  const was = new Map(before.map((line) => [line.id, line.state]));
  const changed = after.filter((line) => line.state !== "holds" && was.get(line.id) === "holds");
  if (changed.length === 0) return null;
  return (
    <Notice kind="ask">
      {changed.map((line) => (
        <p key={line.id}>
          <strong>{line.name}:</strong> {line.worked}
        </p>
      ))}
    </Notice>
  );
}

const Stack = styled.div`display: grid; gap: var(--step); > * { min-width: 0; }`;
const Time = styled.p`
  font: 800 ${({ theme }) => theme.size.key}/1.1 ${({ theme }) => theme.font.figure};
  small { display: block; font: 500 1rem/1.4 ${({ theme }) => theme.font.text}; }
`;
const Remarks = styled.ul`
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.inkSoft};
`;
