import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Place, type Schemas } from "../../api/client";
import { useCatalogue, usePlaces } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Choice, Field } from "../../components/Fields";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { Tape } from "../../components/Tape";
import { PLACE_WORDS, pageOf, readNumber } from "../../words";

type Kind = Place["kind"];
const KINDS = Object.entries(PLACE_WORDS) as [Kind, string][];

/** Every tray and box, what lies in it, and making another. */
export default function PlacesPage() {
  const places = usePlaces();
  return (
    <Page
      title="Trays and boxes"
      wide
      lead="Each has a number and a label: scan a cell, scan a place, and the cell is there."
    >
      {!places.data ? (
        <Waiting query={places} what="the places" />
      ) : (
        <TwoColumns $left={1.4}>
          <Rows>
            {KINDS.map(([kind, word]) => (
              <Kinds key={kind} word={word} lines={places.data.places.filter(({ place }) => place.kind === kind)} />
            ))}
          </Rows>
          <MakePlace />
        </TwoColumns>
      )}
    </Page>
  );
}

function Kinds({ word, lines }: { word: string; lines: Schemas["PlaceLineOut"][] }) {
  if (lines.length === 0) return null;
  return (
    <Sheet aria-label={word}>
      <h2>{word}</h2>
      <List>
        {lines.map(({ place, cells }) => (
          <li key={place.number}>
            <Tape size="small">{place.number}</Tape>
            <Link to={pageOf(place.kind === "tray" ? "tray" : "box", place.number)}>{place.name}</Link>
            <Fill cells={cells} of={place.rows ? place.rows * (place.columns ?? 0) : place.capacity} />
          </li>
        ))}
      </List>
    </Sheet>
  );
}

function Fill({ cells, of }: { cells: number; of: number | null }) {
  return (
    <FillBox>
      <span>
        {cells}
        {of ? ` of ${of}` : ""} {cells === 1 && !of ? "cell" : "cells"}
      </span>
      {of !== null && (
        <Bar aria-hidden="true">
          <i style={{ width: `${Math.min(100, (100 * cells) / of)}%` }} />
        </Bar>
      )}
    </FillBox>
  );
}

function MakePlace() {
  const navigate = useNavigate();
  const catalogue = useCatalogue();
  const sizes = catalogue.data?.tray_sizes.filter((size) => size.is_active) ?? [];
  const [kind, setKind] = useState<Kind>("tray");
  const typed = useTyped({ name: "", capacity: "" });
  const [sizeId, setSizeId] = useState<string | null>(null);
  const size = sizes.find((each) => String(each.id) === sizeId) ?? sizes[0];
  const make = useWrite(
    (body: Schemas["PlaceIn"], key) => answer(() => api.POST("/api/places", { body, headers: once(key) })),
    (place) => navigate(pageOf(place.kind === "tray" ? "tray" : "box", place.number)),
  );
  return (
    <Sheet aria-label="Make a place">
      <Stack
        problem={make.error}
        send="Make it"
        isSending={make.isPending || typed.values.name.trim() === ""}
        onSend={() =>
          make.mutate({
            kind,
            name: typed.values.name,
            rows: kind === "tray" ? (size?.rows ?? null) : null,
            columns: kind === "tray" ? (size?.columns ?? null) : null,
            capacity: kind === "tray" ? null : readNumber(typed.values.capacity),
          })
        }
      >
        <h2>Another one</h2>
        <Choice label="What is it?" value={kind} onChange={setKind} options={KINDS} />
        <Field label="Name" {...typed.field("name")} maxLength={60} hint="As it stands on it, e.g. Tray 4, Blue box." />
        {kind === "tray" ? (
          <Pick
            label="Size"
            value={String(size?.id ?? "")}
            onChange={setSizeId}
            options={sizes.map((each) => [String(each.id), each.name] as const)}
          />
        ) : (
          <Field label="Takes how many cells" {...typed.field("capacity")} numeric hint="Empty: nobody counted." />
        )}
      </Stack>
    </Sheet>
  );
}

const Rows = styled.div`display: grid; gap: var(--apart);`;
const List = styled.ul`
  li { display: grid; grid-template-columns: 6rem minmax(0, 1fr) 11rem; align-items: center; gap: var(--apart); min-height: 48px; border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
  li:first-child { border-top: 0; }
  li > span:first-child { justify-self: start; }
  a { display: inline-flex; align-items: center; min-height: 44px; font-weight: 700; }
  ${({ theme }) => theme.narrow} { li { grid-template-columns: 5rem minmax(0, 1fr) 6.5rem; gap: var(--near); } }
`;
const FillBox = styled.span`font-size: ${({ theme }) => theme.size.note};`;
const Bar = styled.span`
  display: block;
  height: 8px;
  border: 1px solid ${({ theme }) => theme.color.ink};
  i { display: block; height: 100%; background: ${({ theme }) => theme.color.pencil}; }
`;
const Stack = styled(AskForm)`display: grid; gap: var(--step);`;
