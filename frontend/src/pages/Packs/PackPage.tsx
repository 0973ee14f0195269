import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../api/client";
import { checksQuery, drawPack, packQuery } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button, ButtonLink } from "../../components/Button";
import { Figures } from "../../components/Figures";
import { Notice, ProblemNotice } from "../../components/Notice";
import { PackDrawing } from "../../components/PackDrawing";
import { Page, Sheet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { day, dayAndTime, PACK_ACTIONS, PACK_WORDS } from "../../words";
import { GiveOut } from "./GiveOut";
import { InTheWay } from "./InTheWay";
import { JoiningSheet } from "./Joining/JoiningSheet";
import { Outside } from "./Outside/Outside";
import { isOpenStop } from "./Plan/CheckList";
import { PlanSheet } from "./Plan/PlanSheet";
import { Proved } from "./Proved";
import { StalePlan } from "./StalePlan";
import { StopPack } from "./StopPack";

const WAY: readonly Pack["state"][] = ["planned", "built", "given-out", "back", "taken-apart"];
const REACHED_BY: Partial<Record<Pack["state"], string>> = {
  planned: "pack-kept",
  built: "pack-built",
  "given-out": "pack-given-out",
  back: "pack-back",
  "taken-apart": "pack-taken-apart",
};
const HAPPENED: Record<string, string> = {
  "pack-kept": "Planned, cells reserved",
  "pack-built": "Built",
  "pack-given-out": "Given out",
  "pack-back": "Came back",
  "pack-taken-apart": "Taken apart",
  "pack-dropped": "Dropped",
  "pack-mended": "Mended, cells exchanged",
  "pack-stopped": "Stopped",
  "pack-commissioned": "Proved",
  "step-wrong": "A step read wrong",
  "step-undone": "A step was taken back",
  "step-waived": "A coordinator let a point of proving pass",
  "pack-parts-changed": "What it is built from was changed",
  "pack-reported": "Somebody told how it does",
  "pack-looked-at": "Looked at as it came back",
  "return-decided": "Decided what to do with it",
  "holder-forgotten": "Who has it was forgotten",
  "page-opened": "Its page was opened",
  "page-withdrawn": "Its page was taken back",
  "pack-recalled": "Called back",
  "recall-settled": "A recall was settled",
  "pack-taken-in": "Taken in from elsewhere",
  "pack-laid-out": "Where its cells stand was drawn",
  "check-waived": "A coordinator let a check pass",
  "mark-allowed": "A coordinator said yes to a marked cell",
};

/** What is in a pack, where it is on its way, and what may follow. */
export default function PackPage() {
  const { number = "" } = useParams();
  const pack = useQuery(packQuery(number));
  const checks = useQuery({ ...checksQuery(number), enabled: pack.data !== undefined && isPlannedFor(pack.data) });
  const stops = (checks.data?.lines ?? []).filter(isOpenStop);
  const move = useWrite(
    (body: Schemas["PackMoveIn"], key) =>
      answer(() => api.POST("/api/packs/{number}/moves", { params: { path: { number } }, headers: once(key), body })),
    drawPack,
  );
  if (!pack.data)
    return (
      <Page title={`Pack ${number}`}>
        <Waiting query={pack} what="the pack" />
      </Page>
    );
  const { data } = pack;
  return (
    <Page
      title={data.purpose}
      lead={`Pack ${data.number}, ${data.series}S${data.parallel}P`}
      wide
      actions={
        <>
          <ButtonLink to={`/labels?cells=${data.number}`} $kind="plain">
            Label
          </ButtonLink>
          {data.state === "planned" && pickedOf(data) === data.picks.length && (
            <ButtonLink to={`/packs/${data.number}/build`} $kind="main">
              Build it step by step
            </ButtonLink>
          )}
          {data.state === "planned" && pickedOf(data) < data.picks.length && (
            <ButtonLink to={`/packs/${data.number}/pick`} $kind="main">
              {pickedOf(data) === 0 ? "Pick the cells" : "Go on picking"}
            </ButtonLink>
          )}
          {canBeTested(data) && (
            <ButtonLink to={`/packs/${data.number}/prove`} $kind="main">
              Prove it
            </ButtonLink>
          )}
        </>
      }
    >
      <Stack>
        <Way pack={data} />
        {data.stopped_why && data.state !== "taken-apart" && <Stopped pack={data} />}
        {data.plan && data.plan.stale.length > 0 && <StalePlan pack={data} plan={data.plan} />}
        {data.state === "planned" && (
          <p>
            {pickedOf(data)} of {data.picks.length} cells picked.
          </p>
        )}
        {BUILT.includes(data.state) && <Outside pack={data} />}
        {!(data.stopped_why && data.state !== "given-out") && <InTheWay pack={data} stops={stops} />}
        <ProblemNotice problem={move.error} />
        {data.commissioning && <Proved pack={data} run={checks.data?.run ?? null} />}
        {data.commissioning && data.state !== "given-out" && (
          <GiveOut
            isSending={move.isPending}
            problem={move.error}
            onGive={(given) => move.mutate({ state: "given-out", seen_version: data.version, ...given })}
          />
        )}
        <Actions>
          {data.next_states
            .filter((state) => state !== "given-out")
            .map((state, index) => (
              <Button
                key={state}
                kind={index === 0 && data.refused.length + stops.length === 0 && !canBeTested(data) ? "main" : "plain"}
                isDisabled={move.isPending}
                onPress={() => move.mutate({ state, seen_version: data.version })}
              >
                {PACK_ACTIONS[state]}
              </Button>
            ))}
          {BUILT.includes(data.state) && !data.stopped_why && <StopPack pack={data} />}
        </Actions>
        {data.state === "planned" && <BeforeJoining />}
        <Figures
          leads
          items={[
            { label: "Weakest group", value: data.weakest_mah, unit: "mAh" },
            { label: "Full", value: data.full_v, unit: "V", digits: 1 },
            { label: "Empty", value: data.empty_v, unit: "V", digits: 1 },
            { label: "Energy", value: data.energy_wh, unit: "Wh" },
            { label: "Spread", value: data.spread_mah, unit: "mAh" },
          ]}
        />
        <PackDrawing groups={data.groups} />
        {isPlannedFor(data) && (
          <Actions>
            <ButtonLink to={`/packs/${data.number}/layout`} $kind="plain">
              Where each cell stands: draw it to scale
            </ButtonLink>
          </Actions>
        )}
        {isPlannedFor(data) && <PlanSheet pack={data} checks={checks} />}
        {data.state === "planned" && <JoiningSheet pack={data} />}
        <Files aria-label="On paper and as files">
          <a href={`/api/packs/${data.number}/pick-list.pdf`} target="_blank" rel="noreferrer">
            Pick list (PDF)
          </a>
          {BUILT.includes(data.state) && !data.stopped_why && (
            <>
              <a href={`/api/packs/${data.number}/pack-label.pdf`} target="_blank" rel="noreferrer">
                Label for the pack, 100 × 60 mm
              </a>
              <a href={`/api/packs/${data.number}/pack-label.pdf?size=70x45`} target="_blank" rel="noreferrer">
                70 × 45 mm
              </a>
              <a href={`/api/packs/${data.number}/visitor-card.pdf`} target="_blank" rel="noreferrer">
                Visitor's card (PDF)
              </a>
              <a href={`/api/packs/${data.number}/visitor-card.pdf?large=true`} target="_blank" rel="noreferrer">
                The card in large print
              </a>
            </>
          )}
          <a href={`/api/packs/${data.number}/plan.csv`}>Plan as CSV</a>
          <a href={`/api/packs/${data.number}/plan.json`}>Plan as JSON</a>
        </Files>
        <Sheet>
          <h2>What happened</h2>
          <ol>
            {data.happenings.map((happening) => (
              <li key={happening.at + happening.what}>
                {dayAndTime(happening.at)}: {HAPPENED[happening.what] ?? happening.what}
                {happening.by && `, by ${happening.by}`}
                {["mark-allowed", "check-waived", "step-waived", "pack-recalled", "recall-settled"].includes(
                  happening.what,
                ) &&
                  happening.why &&
                  `: “${happening.why}”`}
              </li>
            ))}
          </ol>
        </Sheet>
      </Stack>
    </Page>
  );
}

/** What it is built from, what it will do and what is checked is worth knowing as long as there is a pack. */
const isPlannedFor = (pack: Pack) => !["taken-apart", "dropped"].includes(pack.state) && !pack.stopped_why;
const BUILT: readonly Pack["state"][] = ["built", "given-out", "back"];
const canBeTested = (pack: Pack) =>
  (pack.state === "built" || pack.state === "back") && !pack.stopped_why && !pack.commissioning;

/** Why nobody may use it, and who has it. */
function Stopped({ pack }: { pack: Pack }) {
  return (
    <Danger role="alert">
      <h2>This pack is stopped. Nobody uses or charges it.</h2>
      <p>{pack.stopped_why}</p>
      {pack.state === "given-out" ? (
        <p>
          It is out: <strong>{pack.given_to ?? "nobody wrote down who has it"}</strong>. Call them now; what to tell
          them stands on the first page.
        </p>
      ) : (
        <p>
          Take it apart on stone or metal, one cell at a time. What is dangerous goes into the fire-safe box, every
          other cell is looked at and measured before it may lie on the shelf.
        </p>
      )}
    </Danger>
  );
}

const pickedOf = (pack: Pack) => pack.picks.filter((line) => line.is_picked).length;

function Way({ pack }: { pack: Pack }) {
  if (pack.state === "dropped") return <Notice kind="ask">This plan was dropped; its cells are free again.</Notice>;
  const reached = WAY.indexOf(pack.state);
  return (
    <Line aria-label="Its way" style={{ gridTemplateColumns: `repeat(${WAY.length}, minmax(0, 1fr))` }}>
      {WAY.map((state, index) => {
        const happened = pack.happenings.findLast((each) => each.what === REACHED_BY[state]);
        return (
          <Stop
            key={state}
            $now={index === reached}
            $done={index <= reached}
            aria-current={index === reached ? "step" : undefined}
          >
            <Mark>{index === reached && <Tape>{pack.number}</Tape>}</Mark>
            <strong>{PACK_WORDS[state]}</strong>
            {index <= reached && happened && (
              <small>
                {day(happened.at)}
                {happened.by && `, ${happened.by}`}
              </small>
            )}
          </Stop>
        );
      })}
    </Line>
  );
}

/** The cautions of whoever joins. */
function BeforeJoining() {
  return (
    <Notice kind="ask">
      <p>
        Ring off, glasses on, insulated tools, one terminal at a time with tape on the other, sand at hand, never alone.
        One group alone wants a low cut-off too; from 2S on a board with balance and cut-off belongs in. No post, no
        aircraft: a home-made pack has passed no transport test.
      </p>
    </Notice>
  );
}

const Stack = styled.div`display: grid; gap: var(--block);`;
const Danger = styled.div`
  display: grid;
  gap: var(--slit);
  padding: var(--block) var(--sheet);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.danger};
  border-left-width: 14px;
  background: ${({ theme }) => theme.color.dangerPaper};
  h2 { color: ${({ theme }) => theme.color.danger}; }
`;
const Files = styled.nav`display: flex; flex-wrap: wrap; gap: var(--near) var(--room); a { display: inline-flex; align-items: center; min-height: 44px; }`;
const Actions = styled.div`display: flex; flex-wrap: wrap; gap: var(--gap);`;
/** A pencil line over the mat with a notch for each stop; the pack's own tape sticks where it has come to. */
const Line = styled.ol`display: grid; padding: var(--hair) 0; ${({ theme }) => theme.narrow} { font-size: ${({ theme }) => theme.size.note}; line-height: 1.25; }`;
const Stop = styled.li<{ $now: boolean; $done: boolean }>`
  display: grid;
  justify-items: start;
  align-content: start;
  gap: var(--thread);
  color: ${({ theme, $done }) => ($done ? theme.color.ink : theme.color.inkSoft)};
  strong { font-weight: ${({ $now }) => ($now ? 800 : 500)}; }
  small { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
  > :first-child {
    border-bottom: 3px ${({ $done, $now }) => ($done && !$now ? "solid" : "dashed")} ${({ theme, $done, $now }) => ($done && !$now ? theme.color.ink : theme.color.inkSoft)};
  }
  &:last-child > :first-child { border-bottom-color: transparent; }
`;
const Mark = styled.span`
  position: relative;
  margin-bottom: 1.125rem;
  display: flex;
  align-items: center;
  width: 100%;
  height: 2.5rem;
  &::after { content: ""; position: absolute; left: 0; bottom: -10px; width: 3px; height: 17px; background: currentColor; }
  > * { position: relative; z-index: 1; transform: translate(6px, 19px) rotate(-2deg); }
`;
