import { useParams } from "react-router";
import styled from "styled-components";
import { answer, api, type Cell, type Donor, once, type Step } from "../../api/client";
import { useDonor } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button, ButtonLink } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Photos } from "../../components/Photos";
import { StepMark } from "../../components/StepMark";
import { Tape } from "../../components/Tape";
import { Tray } from "../../components/Tray";
import { dayAndTime, STEP_WORDS } from "../../words";
import { CluesForm } from "./CluesForm";
import { GroupsForm } from "./GroupsForm";
import { Cautions } from "./KindCard";
import { PartsList } from "./PartsList";

const AT_THE_BENCH: readonly Step[] = [
  "inspect",
  "repair",
  "measure-voltage",
  "recover",
  "charge",
  "measure-capacity",
  "measure-resistance",
  "repeat-measurement",
  "shelve",
  "recheck",
  "out-box",
];
const IN_THE_TRAY: readonly Step[] = ["inspect", "measure-voltage"];

/** One donor: its cells as they lie in the tray, what it told, and the next thing to do. */
export default function DonorPage() {
  const { number = "" } = useParams();
  const donor = useDonor(number);
  if (!donor.data)
    return (
      <Page title={`Donor ${number}`}>
        <Waiting query={donor} what="the donor" />
      </Page>
    );
  const { cells, description, kind_name, opened_at } = donor.data;
  const isNew = cells.every((cell) => cell.step === "inspect");
  return (
    <Page
      title={description || kind_name}
      wide
      lead={`${kind_name}, donor ${donor.data.number}, opened ${dayAndTime(opened_at)}`}
      actions={<NextAction donor={donor.data} />}
    >
      <Taped donor={donor.data} />
      <TwoColumns $left={1.15}>
        <Stack>
          {isNew && (
            <>
              <Cautions kind={donor.data} />
              <Sheet>
                <p>Write each number on masking tape and stick it on its cell as it comes out, or print the labels.</p>
              </Sheet>
            </>
          )}
          {byTray(cells).map((tray) => (
            <Tray key={tray.name} {...tray} link />
          ))}
          <Elsewhere cells={cells.filter((cell) => cell.place?.kind !== "tray")} />
          <GroupsForm donor={donor.data} />
        </Stack>
        <Stack>
          <CluesForm key={donor.data.number} donor={donor.data} />
          <PartsList donor={donor.data} />
          <Photos of={{ donor: donor.data.number }} photos={donor.data.photos} />
        </Stack>
      </TwoColumns>
    </Page>
  );
}

/** The tray pass while cells wait to be looked at, else the bench. */
function NextAction({ donor }: { donor: Donor }) {
  const next = AT_THE_BENCH.find((step) => donor.cells.some((cell) => cell.step === step));
  if (!next) return null;
  const due = donor.cells.filter((cell) => cell.step === next);
  const tray = IN_THE_TRAY.includes(next) ? due[0]?.place : null;
  const to =
    tray?.kind === "tray" ? `/trays/${tray.number}?donor=${donor.number}` : `/bench?step=${next}&donor=${donor.number}`;
  return (
    <>
      <ButtonLink
        to={`/labels?cells=${[donor.number, ...donor.cells.map((cell) => cell.number)].join(",")}`}
        $kind="plain"
      >
        Labels
      </ButtonLink>
      <ButtonLink to={to} $kind="main">
        <StepMark step={next} size={22} />
        {STEP_WORDS[next]}: {due.length}
      </ButtonLink>
    </>
  );
}

/** Open ends are taped first; that stands here, and on the tray, until somebody says so. */
function Taped({ donor }: { donor: Donor }) {
  const say = useWrite((_: null, key) =>
    answer(() =>
      api.POST("/api/donors/{number}/taped", {
        params: { path: { number: donor.number } },
        headers: once(key),
        body: {},
      }),
    ),
  );
  if (donor.taped_at)
    return (
      <Small>
        Open ends taped, said {donor.taped_by} on {dayAndTime(donor.taped_at)}.
      </Small>
    );
  return (
    <Asked role="status">
      <div>
        <h2>Are all open ends taped?</h2>
        <p>A strip or a wire that touches the next one makes sparks. Tape first, then measure.</p>
        <ProblemNotice problem={say.error} />
      </div>
      <Button kind="main" isDisabled={say.isPending} onPress={() => say.mutate(null)}>
        All taped
      </Button>
    </Asked>
  );
}

function Elsewhere({ cells }: { cells: Cell[] }) {
  if (cells.length === 0) return null;
  return (
    <section>
      <h2>No longer in a tray</h2>
      <List>
        {cells.map((cell) => (
          <li key={cell.number}>
            <Tape to={`/cells/${cell.number}`}>{cell.number}</Tape>
            <span>
              {cell.place?.name ??
                (cell.in_use_in
                  ? `in use in ${cell.in_use_in}`
                  : cell.pack_number
                    ? `pack ${cell.pack_number}`
                    : STEP_WORDS[cell.step])}
            </span>
          </li>
        ))}
      </List>
    </section>
  );
}

/** The trays that cells lie in, each with its cells. */
export function byTray(cells: Cell[]): { name: string; rows: number; columns: number; cells: Cell[] }[] {
  const trays = new Map<string, { name: string; rows: number; columns: number; cells: Cell[] }>();
  for (const cell of cells) {
    if (cell.place?.kind !== "tray") continue;
    const { name, rows, columns } = cell.place;
    const tray = trays.get(name) ?? { name, rows: rows ?? 1, columns: columns ?? 1, cells: [] };
    tray.cells.push(cell);
    trays.set(name, tray);
  }
  return [...trays.values()];
}

const Stack = styled.div`display: grid; gap: var(--block);`;
const Asked = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: var(--apart) var(--room);
  margin-bottom: var(--block);
  padding: var(--apart) 1.125rem;
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
`;
const Small = styled.p`margin-bottom: var(--apart); font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const List = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: var(--near) var(--room);
  margin-top: var(--near);
  li { display: flex; align-items: center; gap: var(--near); }
`;
