import { keepPreviousData, useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { cellsQuery, shelfMapQuery } from "../../api/queries";
import { Button, ButtonLink } from "../../components/Button";
import { Page, Quiet, Waiting } from "../../components/Page";
import { Drawn } from "./Drawn";
import { FilterBar } from "./FilterBar";
import { type Sort, useFilters } from "./filters";
import { endOf } from "./ShelfMap";
import { ShelfTable } from "./ShelfTable";

const PAGE = 60;
const FALLING: readonly Sort[] = ["capacity", "voltage"];

/** What there is. The filters stand in the address, so a view can be kept and passed on. */
export default function ShelfPage() {
  const filters = useFilters();
  const { sort, view, everywhere, page, beyond, method, ranges, filter, turnTo } = filters;
  const map = useQuery({ ...shelfMapQuery(filter), placeholderData: keepPreviousData });
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
    ...beyond,
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
      <FilterBar filters={filters} sizes={cells.data?.sizes ?? []} />
      {view === "map" && map.data && map.data.counts.length > 1 && (
        <Drawn map={map.data} found={cells.data} filters={filters} />
      )}
      {!cells.data ? (
        <Waiting query={cells} what="the shelf" />
      ) : cells.data.total === 0 ? (
        <Quiet>
          <h2>No cell fits.</h2>
          <p>
            {!filters.isAny ? "Loosen a filter." : "Cells come here once they are judged and put into a shelf box."}
          </p>
          <ButtonLink to={!filters.isAny ? "/shelf" : "/"} $kind="main">
            {!filters.isAny ? "Show the whole shelf" : "See what is next"}
          </ButtonLink>
        </Quiet>
      ) : (
        <>
          <ShelfTable cells={cells.data.cells} />
          {cells.data.total > PAGE && (
            <Pager aria-label="Pages">
              <Button
                isDisabled={page === 0 || cells.isPlaceholderData}
                onPress={() => turnTo(page - 1, "before", cells.data)}
              >
                Before
              </Button>
              <span>
                {page * PAGE + 1} to {Math.min((page + 1) * PAGE, cells.data.total)} of {cells.data.total}
              </span>
              <Button
                isDisabled={(page + 1) * PAGE >= cells.data.total || cells.isPlaceholderData}
                onPress={() => turnTo(page + 1, "after", cells.data)}
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

const Pager = styled.nav`display: flex; align-items: center; justify-content: center; gap: var(--block); margin-top: var(--block);`;
