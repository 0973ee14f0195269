import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import type { Cell } from "../../api/client";
import { cellsQuery } from "../../api/queries";
import { Tray } from "../../components/Tray";

/** The tray the cell at hand lies in, so that the eye finds it. */
export function PassTray({ cell }: { cell: Cell }) {
  const place = cell.place;
  const inTray = useQuery({ ...cellsQuery({ place_id: place?.id ?? 0, most: 200 }), enabled: place?.kind === "tray" });
  if (place?.kind !== "tray" || !inTray.data) return null;
  return (
    <WideOnly>
      <Tray
        name={place.name}
        rows={place.rows ?? 1}
        columns={place.columns ?? 1}
        cells={inTray.data.cells}
        here={cell.number}
      />
    </WideOnly>
  );
}

const WideOnly = styled.div`${({ theme }) => theme.narrow} { display: none; }`;
