import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { DRAIN_WORDS, FAMILIES_SAID, PROTECTION_OF_KIND_WORDS } from "../../words";

type Kind = Schemas["DonorKindOut"];

/** What to expect inside a kind of device, and how to open it without harm. */
export function KindCard({ kind }: { kind: Kind }) {
  const cells =
    kind.cells_least === kind.cells_most ? `${kind.cells_least}` : `${kind.cells_least} to ${kind.cells_most}`;
  return (
    <Card aria-label={`About: ${kind.name}`}>
      <Cautions kind={kind} />
      <h2>Inside you mostly find</h2>
      <p>
        {cells} {kind.cells_most === 1 ? "cell" : "cells"}, {kind.sizes}; {DRAIN_WORDS[kind.drain]};{" "}
        {PROTECTION_OF_KIND_WORDS[kind.protection]}
        {kind.usual_family && `; ${FAMILIES_SAID[kind.usual_family]}`}.
      </p>
      {kind.traps.length > 0 && (
        <>
          <h2>What people fall for</h2>
          <List>
            {kind.traps.map((trap) => (
              <li key={trap}>{trap}</li>
            ))}
          </List>
        </>
      )}
    </Card>
  );
}

export function Cautions({ kind }: { kind: Pick<Kind, "cautions"> }) {
  if (kind.cautions.length === 0) return null;
  return (
    <Warned>
      <h2>While you open it</h2>
      <List>
        {kind.cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </List>
    </Warned>
  );
}

const Card = styled.section`
  display: grid;
  gap: var(--near);
  padding: var(--block) var(--sheet);
  background: ${({ theme }) => theme.color.paper};
  h2 { margin-top: var(--hair); font-size: inherit; }
`;
const Warned = styled.div`
  h2 { font-size: inherit; }
  padding: var(--gap) var(--step);
  border-left: 8px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
`;
const List = styled.ul`padding-left: 1.1rem; list-style: square;`;
