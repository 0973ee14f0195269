import { Link } from "react-router";
import styled from "styled-components";
import { Page } from "../../components/Page";
import { PersonControls } from "../../components/PersonControls";
import { Languages } from "./Languages";

const ROOMS = [
  ["/places", "Trays and boxes", "What lies where; moving by scanning, counting, making another."],
  ["/table", "On the testers", "What runs in every slot, live; putting cells in."],
  ["/testers", "Testers on the wire", "Setting up loads, supplies and meters that answer."],
  ["/labels", "Labels", "Sheets, rolls, small flags, a test page for your printer."],
  ["/lists", "Lists in and out", "Take in the table you kept so far; give everything out."],
  ["/logs", "Testers' logs", "Drop a curve; capacity, energy and resistance come out of it."],
  ["/donors", "Donors", "Every device that was opened, by words, kind and what its cells still want."],
  ["/sums", "Bench sums", "Resistors, charging times, joining, wires: the arithmetic of the bench."],
  ["/instruments", "Meters and testers", "Their last digits, their corrections, and whether two agree."],
  ["/parts", "Good parts", "Boards, holders and switches that were kept."],
  ["/match", "Match", "Cells that belong together."],
  ["/recell", "A device gets another cell", "What of the shelf fits a good device with a poor cell."],
  ["/recalls", "Where used, recalls", "Which packs have such cells, and calling them back."],
  ["/out-box", "For the recycler", "What waits, and handing it over."],
  ["/brought", "What it brought", "What an evening rescued, and which donors are worth opening."],
  ["/practice", "Judge one yourself", "Made-up cells for newcomers, held against the judge."],
  ["/catalogue", "Catalogue", "Kinds of devices, sizes, chemistries, cell models, trays."],
  ["/rules", "House rules", "Which school your cafe follows, and why."],
] as const;

/** Everything that is not needed every minute. */
export default function MorePage() {
  return (
    <Page title="More">
      <Rooms>
        {ROOMS.map(([to, name, what]) => (
          <li key={to}>
            <Link to={to}>
              <strong>{name}</strong>
              <span>{what}</span>
            </Link>
          </li>
        ))}
      </Rooms>
      <Languages />
      <NarrowOnly>
        <PersonControls />
      </NarrowOnly>
    </Page>
  );
}

// On a wide screen they stand in the bar above.
const NarrowOnly = styled.div`
  display: none;
  ${({ theme }) => theme.narrow} { display: flex; align-items: center; margin-top: var(--block); }
`;
const Rooms = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(18rem, 1fr));
  gap: var(--apart);
  a {
    display: grid;
    align-content: start;
    gap: var(--thread);
    height: 100%;
    padding: var(--step) 1.125rem;
    border: 2px solid ${({ theme }) => theme.color.ink};
    background: ${({ theme }) => theme.color.paper};
    text-decoration: none;
  }
  a:hover { background: ${({ theme }) => theme.color.askPaper}; }
  strong { font-size: ${({ theme }) => theme.size.lead}; }
  span { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
