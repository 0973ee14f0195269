import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import type { Bench, Story } from "../../api/client";
import { restQuery, useLogs } from "../../api/measuring";
import { benchQuery, storyQuery } from "../../api/queries";
import { Amount } from "../../components/Amount";
import { ButtonLink } from "../../components/Button";
import { Figures } from "../../components/Figures";
import { Judgement } from "../../components/Judgement";
import { Marked } from "../../components/Marked";
import { NextStep } from "../../components/NextStep";
import { Notice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Photos } from "../../components/Photos";
import { SiblingStrip } from "../../components/SiblingStrip";
import { Tape } from "../../components/Tape";
import { where } from "../../components/where";
import { figure } from "../../words";
import { Capacities } from "./Identity/Capacities";
import { IdentityForm } from "./Identity/IdentityForm";
import { InSlot } from "./InSlot";
import { RepeatsPanel } from "./RepeatsPanel";
import { CellLogs, RestPanel } from "./RestPanel";
import { Timeline } from "./Timeline";
import { Verdict } from "./Verdict";
import { WhereForm } from "./WhereForm";

/** One cell: what next, why, what it is, and everything that ever happened to it. */
export default function CellPage() {
  const { number = "" } = useParams();
  const story = useQuery(storyQuery(number));
  const bench = useQuery({ ...benchQuery(number), retry: false });
  const rest = useQuery({ ...restQuery(number, null), retry: false });
  const logs = useLogs({ cell: number });
  // All of it is drawn at once: what comes in late would push the story away from under a press.
  const late = [story, bench, rest, logs].find((each) => each.isLoading && each.failureCount === 0);
  if (!story.data || late)
    return (
      <Page title={`Cell ${number}`}>
        <Waiting query={story.data && late ? late : story} what="the cell" />
      </Page>
    );
  const { cell } = story.data;
  return (
    <Page
      title={`Cell ${cell.number}`}
      lead={`${where(cell)}. From donor ${cell.donor_number}, ${cell.donor_description || cell.donor_kind}.${cell.own_label ? ` Called ${cell.own_label} in the list it came from.` : ""}`}
      actions={
        <>
          <ButtonLink to={`/labels?cells=${cell.number}`} $kind="plain">
            Label
          </ButtonLink>
          <ButtonLink to={`/bench/${cell.number}`} $kind="main">
            Take it to the bench
          </ButtonLink>
        </>
      }
    >
      <TwoColumns>
        <Stack>
          <InSlot number={cell.number} />
          <NextStep cell={cell} />
          <Sheet>
            {cell.is_marked && <Marked />}
            <Figures
              items={[
                { label: "Resting", value: cell.resting_voltage_v, unit: "V", digits: 2 },
                { label: "Capacity", value: cell.capacity_mah, unit: "mAh" },
                { label: "Resistance", value: cell.resistance_mohm, unit: "mΩ" },
              ]}
            />
            <RepeatsPanel repeats={story.data.repeats} />
            {story.data.gap_to_siblings_v !== null && (
              <Notice kind="ask">
                It reads {figure(Math.abs(story.data.gap_to_siblings_v), 2)} V{" "}
                {story.data.gap_to_siblings_v < 0 ? "below" : "above"} its siblings of the same donor. Such a cell often
                leaks.
              </Notice>
            )}
            <Judgement cell={cell} />
            <Verdict cell={cell} />
          </Sheet>
          <Sheet id="facts">
            <h2>What it is</h2>
            <Capacities cell={cell} />
            <IdentityForm key={cell.number} cell={cell} bench={bench.data ?? null} />
          </Sheet>
        </Stack>
        <Stack>
          <RestPanel cell={cell} />
          <CellLogs number={cell.number} />
          <Siblings story={story.data} bench={bench.data ?? null} />
          <Sheet>
            <h2>Its story</h2>
            <Timeline story={story.data} />
          </Sheet>
          <Sheet>
            <h2>Where it is</h2>
            <p>{where(cell)}.</p>
            {cell.step !== "handed-over" && <WhereForm cell={cell} />}
          </Sheet>
          <Photos of={{ cell: cell.number }} photos={bench.data?.photos ?? []} />
        </Stack>
      </TwoColumns>
    </Page>
  );
}

function Siblings({ story, bench }: { story: Story; bench: Bench | null }) {
  if (story.siblings.length === 0) return null;
  return (
    <Sheet>
      <h2>Its siblings</h2>
      <Link
        to={`/compare?cells=${[story.cell, ...story.siblings]
          .map((each) => each.number)
          .slice(0, 8)
          .join(",")}`}
      >
        Side by side
      </Link>
      {bench && (
        <SiblingStrip
          siblings={bench.siblings}
          own={story.cell.resting_voltage_v}
          groupV={bench.group_v}
          isOnePack={bench.is_one_pack}
        />
      )}
      <Tapes>
        {story.siblings.map((sibling) => (
          <li key={sibling.number}>
            <Tape size="small" to={`/cells/${sibling.number}`}>
              {sibling.number}
            </Tape>
            <Amount value={sibling.resting_voltage_v} unit="V" digits={2} />
          </li>
        ))}
      </Tapes>
    </Sheet>
  );
}

const Stack = styled.div`display: grid; gap: var(--step);`;
const Tapes = styled.ul`display: flex; flex-wrap: wrap; gap: var(--near) var(--sheet); margin-top: var(--near); li { display: flex; align-items: center; gap: var(--near); }`;
