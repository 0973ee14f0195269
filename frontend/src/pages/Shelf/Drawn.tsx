import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { CellQuery } from "../../api/queries";
import { Button, ButtonLink } from "../../components/Button";
import { Choice } from "../../components/Fields";
import { METHOD_WORDS } from "../../words";
import { BulkMove } from "./BulkMove";
import type { Filters } from "./filters";
import { endOf, NO_RANGES, ShelfMap } from "./ShelfMap";

type ResistanceMethod = NonNullable<CellQuery["resistance_method"]>;
const MOST_MOVED = 60;
const MOST_COMPARED = 8;

/** The shelf drawn by capacity and resistance; a stretch chosen on it is compared or moved together. */
export function Drawn({
  map,
  found,
  filters,
}: {
  map: Schemas["ShelfMapOut"];
  found: Schemas["CellPageOut"] | undefined;
  filters: Filters;
}) {
  const { ranges, put, putRanges } = filters;
  const hasRanges = Object.values(ranges).some((each) => endOf(each) !== null);
  return (
    <Box>
      {Object.keys(map.methods).length > 1 && (
        <Choice
          label="Resistance"
          value={map.method ?? "ac-1khz"}
          onChange={(next) => put("method", next, "")}
          options={Object.entries(map.methods).map(
            ([code, count]) => [code, `${METHOD_WORDS[code] ?? code} (${count})`] as [ResistanceMethod, string],
          )}
        />
      )}
      <ShelfMap points={map} ranges={ranges} onChange={putRanges} />
      {hasRanges && (
        <Buttons>
          <Button onPress={() => putRanges(NO_RANGES)}>Show all again</Button>
          {found && found.total > 1 && found.total <= MOST_COMPARED && (
            <ButtonLink to={`/compare?cells=${found.cells.map((cell) => cell.number).join(",")}`} $kind="plain">
              Side by side
            </ButtonLink>
          )}
          {found && found.total > 0 && found.total <= MOST_MOVED && (
            <BulkMove numbers={found.cells.map((cell) => cell.number)} />
          )}
        </Buttons>
      )}
    </Box>
  );
}

const Box = styled.section`display: grid; grid-template-columns: minmax(0, 1fr); gap: var(--apart); margin-bottom: var(--block); padding: var(--block) var(--sheet); border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink}; background: ${({ theme }) => theme.color.paper};`;
const Buttons = styled.div`display: flex; flex-wrap: wrap; align-items: start; gap: var(--hair) var(--room);`;
