import styled from "styled-components";
import type { Schemas, Step } from "../../api/client";
import { useHome } from "../../api/queries";
import { ButtonLink } from "../../components/Button";
import { Page, Quiet, Waiting } from "../../components/Page";
import { StepMark } from "../../components/StepMark";
import { Tape } from "../../components/Tape";
import { EveningStrip } from "./EveningStrip";
import { COOKS, DECIDE, NOW, WAITS } from "./order";
import { Recall } from "./Recall";
import { Recalled } from "./Recalled";
import { StepRow, waysTo } from "./StepRow";
import { TrayStrip } from "./TrayStrip";
import { useEnterKey } from "./useEnterKey";

type Group = Schemas["StepGroupOut"];

const MAIN_TAPES = 4;
const SIDE_TAPES = 2;
/** The whole evening at one look: every cell by its next step. */
export function HomePage() {
  const home = useHome();
  const groups = new Map(home.data?.groups.map((group) => [group.step, group]));
  const pickFrom = (steps: readonly Step[]) => steps.flatMap((step) => groups.get(step) ?? []);
  const now = pickFrom(NOW);
  const cooks = pickFrom(COOKS);
  useEnterKey(now[0] ? waysTo(now[0]) : null);
  return (
    <Page
      title="What is next"
      wide
      actions={
        <ButtonLink to="/open" $kind="main">
          Open a donor
        </ButtonLink>
      }
    >
      {!home.data ? (
        <Waiting query={home} what="the evening" />
      ) : groups.size === 0 ? (
        <Quiet>
          <h2>The table is empty.</h2>
          <p>
            Open a dead device: its cells get numbers and places in a tray, and from then on this page says what each of
            them needs next.
          </p>
        </Quiet>
      ) : (
        <>
          <Recall packs={home.data.stopped_packs} />
          <Recalled packs={home.data.recalled} />
          <EveningStrip />
          {home.data.running.map((running) => (
            <Running key={running.number} running={running} />
          ))}
          {home.data.stale_plans.map((pack) => (
            <Ready key={pack.number}>
              <span>
                A cell of the plan for <strong>{pack.purpose}</strong> changed since it was made.
              </span>
              <ButtonLink to={`/packs/${pack.number}`} $kind="plain">
                Mend it
              </ButtonLink>
            </Ready>
          ))}
          {home.data.wishes.map((wish) => (
            <Ready key={wish.id}>
              <span>
                The cells for <strong>{wish.purpose}</strong> are on the shelf now.
              </span>
              <ButtonLink to={`/match?wish=${wish.id}`} $kind="plain">
                Match it
              </ButtonLink>
            </Ready>
          ))}
          <Table>
            <Zone
              title="Can be done now"
              groups={now}
              empty="Nothing. Open a donor, or look at what waits."
              tapes={MAIN_TAPES}
              startsOnEnter
            />
            <Side>
              {cooks.length > 0 && <Zone title="Cooking" groups={cooks} empty="" tapes={SIDE_TAPES} />}
              <Zone title="Waits" groups={pickFrom(WAITS)} empty="Nothing waits." tapes={SIDE_TAPES} />
              <Zone
                title="Needs a coordinator"
                groups={pickFrom(DECIDE)}
                empty="Nothing to decide."
                tapes={SIDE_TAPES}
              />
            </Side>
          </Table>
          <TrayStrip trays={home.data.trays} />
        </>
      )}
    </Page>
  );
}

/** A recovery under its clock: whoever stands nearest takes the next look. */
function Running({ running }: { running: Schemas["RunningOut"] }) {
  return (
    <Watched role="status">
      <StepMark step="recover" size={30} />
      <Tape to={`/bench/${running.number}`}>{running.number}</Tape>
      <span>
        <strong>Recovery runs.</strong> {running.text} Started by {running.started_by}.
      </span>
    </Watched>
  );
}

function Zone({
  title,
  groups,
  empty,
  tapes,
  startsOnEnter = false,
}: {
  title: string;
  groups: Group[];
  empty: string;
  tapes: number;
  startsOnEnter?: boolean;
}) {
  return (
    <ZoneBox aria-label={title}>
      <h2>{title}</h2>
      {groups.length === 0 ? (
        <p>{empty}</p>
      ) : (
        <ul>
          {groups.map((group, index) => (
            <StepRow
              key={group.step}
              group={group}
              tapes={tapes}
              brief={tapes === SIDE_TAPES}
              onEnter={startsOnEnter && index === 0}
            />
          ))}
        </ul>
      )}
    </ZoneBox>
  );
}

const Watched = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--slit) var(--block);
  margin-bottom: var(--apart);
  padding: var(--near) var(--block);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
`;
const Ready = styled(Watched)`justify-content: space-between;`;
const Table = styled.div`
  display: grid;
  grid-template-columns: 1.45fr 1fr;
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Side = styled.div`
  display: flex;
  flex-direction: column;
  section:last-child { flex: 1; }
  border-left: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  section + section { border-top: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink}; }
  ${({ theme }) => theme.narrow} { border-left: 0; border-top: 3px solid ${({ theme }) => theme.color.ink}; }
`;
const ZoneBox = styled.section`
  min-width: 0;
  padding: var(--block) var(--sheet) var(--sheet);
  background: ${({ theme }) => theme.color.paper};
  h2 { margin-bottom: var(--hair); }
`;
