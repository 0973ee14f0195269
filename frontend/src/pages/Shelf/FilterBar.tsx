import styled from "styled-components";
import { Choice, Switch, Tick } from "../../components/Fields";
import { Pick } from "../../components/Pick";
import { FAMILY_WORDS, GRADE_WORDS } from "../../words";
import type { Filters, GradeChoice, Sort, View } from "./filters";

const SORTS: [Sort, string][] = [
  ["capacity", "Strongest first"],
  ["resistance", "Least resistance first"],
  ["voltage", "Highest voltage first"],
  ["due", "Due first"],
  ["number", "By number"],
];
const VIEWS: [View, string][] = [
  ["map", "Drawn"],
  ["list", "As a list"],
];
const GRADES: [GradeChoice, string][] = [
  ["any", "Any grade"],
  ["A", GRADE_WORDS.A],
  ["B", GRADE_WORDS.B],
  ["C", GRADE_WORDS.C],
  ["not-yet", GRADE_WORDS["not-yet"]],
  ["out", GRADE_WORDS.out],
];

/** What of the shelf is shown, and in which order. */
export function FilterBar({ filters, sizes }: { filters: Filters; sizes: string[] }) {
  const { grade, view, size, family, sort, everywhere, put } = filters;
  return (
    <Bar aria-label="Filters">
      <Top>
        <Choice label="Grade" value={grade} onChange={(next) => put("grade", next, "any")} options={GRADES} />
        <Switch label="Drawn or as a list" value={view} onChange={(next) => put("view", next, "map")} options={VIEWS} />
      </Top>
      <Picks>
        <Pick
          label="Size"
          value={size}
          onChange={(next) => put("size", next, "any")}
          options={[["any", "Any size"], ...sizes.map((code) => [code, code] as const)]}
        />
        <Pick
          label="Chemistry"
          value={family}
          onChange={(next) => put("family", next, "any")}
          options={[["any", "Any chemistry"], ...Object.entries(FAMILY_WORDS)]}
        />
        <Pick label="Order" value={sort} onChange={(next) => put("sort", next, "capacity")} options={SORTS} />
        <Tick isSelected={everywhere} onChange={(is) => put("where", is ? "everywhere" : "shelf", "shelf")}>
          Also trays and packs
        </Tick>
      </Picks>
    </Bar>
  );
}

const Bar = styled.section`display: grid; gap: var(--apart); margin-bottom: var(--block);`;
const Top = styled.div`display: flex; flex-wrap: wrap; align-items: end; justify-content: space-between; gap: var(--apart) var(--room);`;
const Picks = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
  gap: var(--apart);
  align-items: end;
`;
