import type { ReactNode } from "react";
import styled from "styled-components";
import { Sheet } from "../../components/Page";
import { Tape } from "../../components/Tape";

/** The frame of the pages before one is signed in. */
export function Door({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Middle id="main">
      <Tape size="large">Zembric</Tape>
      <Narrow>
        <h1>{title}</h1>
        {children}
      </Narrow>
      <p>
        Numbers, measures, judges and remembers salvaged lithium cells. They burn: work with gloves, glasses and sand at
        hand, and never alone.
      </p>
    </Middle>
  );
}

const Middle = styled.main`
  display: grid;
  gap: var(--room);
  justify-items: start;
  max-width: 30rem;
  margin: 0 auto;
  padding: clamp(var(--room), 9vh, 6rem) var(--block);
`;
const Narrow = styled(Sheet)`display: grid; gap: var(--block); width: 100%;`;
