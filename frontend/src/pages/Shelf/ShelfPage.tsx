import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Cell, Grade } from "../../api/client";
import { type CellQuery, cellsQuery, shelfMapQuery } from "../../api/queries";
import { Button, ButtonLink } from "../../components/Button";
import { Choice, Switch, Tick } from "../../components/Fields";
import { Page, Quiet, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { FAMILY_WORDS, GRADE_WORDS, METHOD_WORDS } from "../../words";
import { BulkMove } from "./BulkMove";
import { endOf, NO_RANGES, type Ranges, ShelfMap } from "./ShelfMap";
import { ShelfTable } from "./ShelfTable";

type Sort = NonNullable<CellQuery["sort"]>;
type ResistanceMethod = NonNullable<CellQuery["resistance_method"]>;
const PAGE = 60;
const MOST_MOVED = PAGE;
const MOST_COMPARED = 8;
const SORTS: [Sort, string][] = [
  ["capacity", "Strongest first"],
  ["resistance", "Least resistance first"],
  ["voltage", "Highest voltage first"],
  ["due", "Due first"],
  ["number", "By number"],
];
const FALLING: readonly Sort[] = ["capacity", "voltage"];
type View = "map" | "list";
const VIEWS: [View, string][] = [
  ["map", "Drawn"],
  ["list", "As a list"],
];
type GradeChoice = Grade | "any";
const GRADES: [GradeChoice, string][] = [
  ["any", "Any grade"],
  ["A", GRADE_WORDS.A],
  ["B", GRADE_WORDS.B],
  ["C", GRADE_WORDS.C],
  ["not-yet", GRADE_WORDS["not-yet"]],
  ["out", GRADE_WORDS.out],
];

/** What there is. The filters stand in the address, so a view can be kept and passed on. */
export default function ShelfPage() {
  const [search, setSearch] = useSearchParams();
  const sort = (search.get("sort") as Sort | null) ?? "capacity";
  const grade = (search.get("grade") as GradeChoice | null) ?? "any";
  const size = search.get("size") ?? "any";
  const family = search.get("family") ?? "any";
  const view: View = search.get("view") === "list" ? "list" : "map";
  const everywhere = search.get("where") === "everywhere";
  const page = Number(search.get("page") ?? 0);
  const put = (key: string, value: string, usual: string) =>
    setSearch((before) => {
      const next = new URLSearchParams(before);
      if (value === usual) next.delete(key);
      else next.set(key, value);
      if (key !== "page") next.delete("page");
      return next;
    });
  const putRanges = (next: Ranges) =>
    setSearch((before) => {
      const params = new URLSearchParams(before);
      const named = {
        "mah-from": next.capacityFrom,
        "mah-to": next.capacityTo,
        "mohm-from": next.resistanceFrom,
        "mohm-to": next.resistanceTo,
      };
      for (const [key, value] of Object.entries(named)) value ? params.set(key, value) : params.delete(key);
      params.delete("page");
      return params;
    });
  const method = (search.get("method") as CellQuery["resistance_method"]) ?? null;
  const ranges: Ranges = {
    capacityFrom: search.get("mah-from") ?? "",
    capacityTo: search.get("mah-to") ?? "",
    resistanceFrom: search.get("mohm-from") ?? "",
    resistanceTo: search.get("mohm-to") ?? "",
  };
  const filter: CellQuery = {
    on_shelf: !everywhere,
    grade: grade === "any" ? undefined : [grade],
    size_code: size === "any" ? undefined : size,
    family: family === "any" ? undefined : (family as Cell["family"]),
    resistance_method: method,
  };
  const map = useQuery({ ...shelfMapQuery(filter), placeholderData: keepPreviousData });
  const hasRanges = Object.values(ranges).some((each) => endOf(each) !== null);
  const hasResistance = endOf(ranges.resistanceFrom) !== null || endOf(ranges.resistanceTo) !== null;
  const shelf = cellsQuery({
    ...filter,
    // Resistances are only held against those of the method that is drawn.
    resistance_method: hasResistance ? (map.data?.method ?? method) : method,
    capacity_from: endOf(ranges.capacityFrom),
    capacity_to: endOf(ranges.capacityTo),
    resistance_from: endOf(ranges.resistanceFrom),
    resistance_to: endOf(ranges.resistanceTo),
    sort,
    falling: FALLING.includes(sort),
    offset: page * PAGE,
    most: PAGE,
  });
  const cells = useQuery({ ...shelf, queryKey: ["shelf", ...shelf.queryKey], placeholderData: keepPreviousData });
  return (
    <Page
      title="Shelf"
      wide
      lead={
        cells.data &&
        `${cells.data.total} ${cells.data.total === 1 ? "cell" : "cells"} ${everywhere ? "in the house" : "in shelf boxes"}`
      }
      actions={
        <>
          <ButtonLink to="/out-box" $kind="plain">
            Out-box
          </ButtonLink>
          <ButtonLink to="/match" $kind="main">
            Match some
          </ButtonLink>
        </>
      }
    >
      <Filters aria-label="Filters">
        <Top>
          <Choice label="Grade" value={grade} onChange={(next) => put("grade", next, "any")} options={GRADES} />
          <Switch
            label="Drawn or as a list"
            value={view}
            onChange={(next) => put("view", next, "map")}
            options={VIEWS}
          />
        </Top>
        <Picks>
          <Pick
            label="Size"
            value={size}
            onChange={(next) => put("size", next, "any")}
            options={[["any", "Any size"], ...(cells.data?.sizes ?? []).map((code) => [code, code] as const)]}
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
      </Filters>
      {view === "map" && map.data && map.data.numbers.length > 1 && (
        <Drawn>
          {Object.keys(map.data.methods).length > 1 && (
            <Choice
              label="Resistance"
              value={map.data.method ?? "ac-1khz"}
              onChange={(next) => put("method", next, "")}
              options={Object.entries(map.data.methods).map(
                ([code, count]) => [code, `${METHOD_WORDS[code] ?? code} (${count})`] as [ResistanceMethod, string],
              )}
            />
          )}
          <ShelfMap points={map.data} ranges={ranges} onChange={putRanges} />
          {hasRanges && (
            <Buttons>
              <Button onPress={() => putRanges(NO_RANGES)}>Show all again</Button>
              {cells.data && cells.data.total > 1 && cells.data.total <= MOST_COMPARED && (
                <ButtonLink
                  to={`/compare?cells=${cells.data.cells.map((cell) => cell.number).join(",")}`}
                  $kind="plain"
                >
                  Side by side
                </ButtonLink>
              )}
              {cells.data && cells.data.total > 0 && cells.data.total <= MOST_MOVED && (
                <BulkMove numbers={cells.data.cells.map((cell) => cell.number)} />
              )}
            </Buttons>
          )}
        </Drawn>
      )}
      {!cells.data ? (
        <Waiting query={cells} what="the shelf" />
      ) : cells.data.total === 0 ? (
        <Quiet>
          <h2>No cell fits.</h2>
          <p>
            {search.size > 0 ? "Loosen a filter." : "Cells come here once they are judged and put into a shelf box."}
          </p>
          <ButtonLink to={search.size > 0 ? "/shelf" : "/"} $kind="main">
            {search.size > 0 ? "Show the whole shelf" : "See what is next"}
          </ButtonLink>
        </Quiet>
      ) : (
        <>
          <ShelfTable cells={cells.data.cells} />
          {cells.data.total > PAGE && (
            <Pager aria-label="Pages">
              <Button isDisabled={page === 0} onPress={() => put("page", String(page - 1), "0")}>
                Before
              </Button>
              <span>
                {page * PAGE + 1} to {Math.min((page + 1) * PAGE, cells.data.total)} of {cells.data.total}
              </span>
              <Button
                isDisabled={(page + 1) * PAGE >= cells.data.total}
                onPress={() => put("page", String(page + 1), "0")}
              >
                After
              </Button>
            </Pager>
          )}
        </>
      )}
    </Page>
  );
}

const Drawn = styled.section`display: grid; grid-template-columns: minmax(0, 1fr); gap: var(--apart); margin-bottom: var(--block); padding: var(--block) var(--sheet); border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink}; background: ${({ theme }) => theme.color.paper};`;
const Buttons = styled.div`display: flex; flex-wrap: wrap; align-items: start; gap: var(--hair) var(--room);`;
const Filters = styled.section`display: grid; gap: var(--apart); margin-bottom: var(--block);`;
const Top = styled.div`display: flex; flex-wrap: wrap; align-items: end; justify-content: space-between; gap: var(--apart) var(--room);`;
const Picks = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
  gap: var(--apart);
  align-items: end;
`;
const Pager = styled.nav`display: flex; align-items: center; justify-content: center; gap: var(--block); margin-top: var(--block);`;
