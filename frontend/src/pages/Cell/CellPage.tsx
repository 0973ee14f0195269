import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import styled from "styled-components";
import type { Cell, Story } from "../../api/client";
import { storyQuery, useSession } from "../../api/queries";
import { Amount } from "../../components/Amount";
import { ButtonLink } from "../../components/Button";
import { Figures } from "../../components/Figures";
import { Judgement } from "../../components/Judgement";
import { NextStep } from "../../components/NextStep";
import { Notice } from "../../components/Notice";
import { Page, Sheet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { FAMILY_WORDS, figure } from "../../words";
import { where } from "../Bench/CellHead";
import { FactsForm } from "./FactsForm";
import { Timeline } from "./Timeline";

/** One cell: what next, why, what it is, and everything that ever happened to it. */
export default function CellPage() {
  const { number = "" } = useParams();
  const story = useQuery(storyQuery(number));
  const session = useSession();
  if (!story.data)
    return (
      <Page title={`Cell ${number}`}>
        <Waiting query={story} what="the cell" />
      </Page>
    );
  const { cell } = story.data;
  return (
    <Page
      title={`Cell ${cell.number}`}
      lead={`${where(cell)}. From donor ${cell.donor_number}, ${cell.donor_description || cell.donor_kind}.`}
      actions={
        <ButtonLink to={`/bench/${cell.number}`} $kind="main">
          Take it to the bench
        </ButtonLink>
      }
    >
      <Columns>
        <Stack>
          <NextStep cell={cell} />
          <Sheet>
            <Figures
              items={[
                { label: "Resting", value: cell.resting_voltage_v, unit: "V", digits: 2 },
                { label: "Capacity", value: cell.capacity_mah, unit: "mAh" },
                { label: "Resistance", value: cell.resistance_mohm, unit: "mΩ" },
              ]}
            />
            {story.data.gap_to_brothers_v !== null && (
              <Notice kind="ask">
                It reads {figure(Math.abs(story.data.gap_to_brothers_v), 2)} V{" "}
                {story.data.gap_to_brothers_v < 0 ? "below" : "above"} its brothers of the same donor. Such a cell often
                leaks.
              </Notice>
            )}
            <Judgement cell={cell} />
          </Sheet>
          <Sheet id="facts">
            <h2>What it is</h2>
            {session.data?.person?.role === "coordinator" ? (
              <FactsForm key={cell.number} cell={cell} />
            ) : (
              <Facts cell={cell} />
            )}
          </Sheet>
          <Brothers story={story.data} />
        </Stack>
        <Sheet>
          <h2>Its story</h2>
          <Timeline story={story.data} />
        </Sheet>
      </Columns>
    </Page>
  );
}

function Facts({ cell }: { cell: Cell }) {
  return (
    <List>
      <dt>Size</dt>
      <dd>{cell.size_code ?? "not known"}</dd>
      <dt>Chemistry</dt>
      <dd>{cell.family ? FAMILY_WORDS[cell.family] : "not known"}</dd>
      <dt>Rated</dt>
      <dd>
        <Amount value={cell.rated_capacity_mah} unit="mAh" />
      </dd>
      <dt>Claimed</dt>
      <dd>
        <Amount value={cell.claimed_capacity_mah} unit="mAh" />
      </dd>
    </List>
  );
}

function Brothers({ story }: { story: Story }) {
  if (story.brothers.length === 0) return null;
  return (
    <Sheet>
      <h2>Its brothers</h2>
      <Tapes>
        {story.brothers.map((brother) => (
          <li key={brother.number}>
            <Tape size="small" to={`/cells/${brother.number}`}>
              {brother.number}
            </Tape>
            <Amount value={brother.resting_voltage_v} unit="V" digits={2} />
          </li>
        ))}
      </Tapes>
    </Sheet>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.25rem;
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Stack = styled.div`display: grid; gap: 0.875rem;`;
const List = styled.dl`
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 0.25rem 1.25rem;
  margin-top: 0.5rem;
  dt { color: ${({ theme }) => theme.color.inkSoft}; }
`;
const Tapes = styled.ul`display: flex; flex-wrap: wrap; gap: 0.5rem 1.25rem; margin-top: 0.5rem; li { display: flex; align-items: center; gap: 0.5rem; }`;
