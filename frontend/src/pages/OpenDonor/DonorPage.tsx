import { useParams } from "react-router";
import styled from "styled-components";
import type { Cell, Step } from "../../api/client";
import { useDonor } from "../../api/queries";
import { ButtonLink } from "../../components/Button";
import { Page, Quiet, Waiting } from "../../components/Page";
import { StepMark } from "../../components/StepMark";
import { Tape } from "../../components/Tape";
import { Tray } from "../../components/Tray";
import { dayAndTime, KIND_WORDS, STEP_WORDS } from "../../words";

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

/** One donor: its cells as they lie in the tray, and the next thing to do with them. */
export default function DonorPage() {
  const { number = "" } = useParams();
  const donor = useDonor(number);
  if (!donor.data)
    return (
      <Page title={`Donor ${number}`}>
        <Waiting query={donor} what="the donor" />
      </Page>
    );
  const { cells, description, kind, opened_at } = donor.data;
  const next = AT_THE_BENCH.find((step) => cells.some((cell) => cell.step === step));
  const count = cells.filter((cell) => cell.step === next).length;
  const isNew = cells.every((cell) => cell.step === "inspect");
  return (
    <Page
      title={description || KIND_WORDS[kind]}
      lead={`Donor ${donor.data.number}, ${KIND_WORDS[kind].toLowerCase()}, opened ${dayAndTime(opened_at)}`}
      actions={
        next && (
          <ButtonLink to={`/bench?step=${next}&donor=${donor.data.number}`} $kind="main">
            <StepMark step={next} size={22} />
            {STEP_WORDS[next]}: {count}
          </ButtonLink>
        )
      }
    >
      {isNew && (
        <Hint>
          <p>
            Write each number on masking tape and stick it on its cell as it comes out. Tape over open ends at once.
          </p>
        </Hint>
      )}
      <Trays>
        {byTray(cells).map((tray) => (
          <Tray key={tray.name} {...tray} link />
        ))}
      </Trays>
      <Elsewhere cells={cells.filter((cell) => cell.place?.kind !== "tray")} />
    </Page>
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
            <span>{cell.place?.name ?? (cell.pack_number ? `pack ${cell.pack_number}` : STEP_WORDS[cell.step])}</span>
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

const Hint = styled(Quiet)`margin-bottom: 1rem; border-color: ${({ theme }) => theme.color.tape};`;
const Trays = styled.div`display: grid; gap: 1.25rem; margin-bottom: 1.5rem;`;
const List = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1.5rem;
  margin-top: 0.5rem;
  li { display: flex; align-items: center; gap: 0.5rem; }
`;
