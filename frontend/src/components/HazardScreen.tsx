import { Heading } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./Button";
import { Takeover } from "./Takeover";
import { Tape } from "./Tape";

/** Takes over the screen when a cell was found dangerous, in words a frightened person can follow. */
export function HazardScreen({ number, text, onDone }: { number: string; text: string; onDone: () => void }) {
  return (
    <Takeover>
      <Body>
        <Top>
          <Heading slot="title">Put this cell into the fire-safe box now</Heading>
          <Tape size="large">{number}</Tape>
        </Top>
        <p>{text}</p>
        <Steps>
          <li>Hold it by the sides with the glove. Do not squeeze, cut or charge it.</li>
          <li>Walk it to the fire-safe box, bury it in the sand, close the lid.</li>
          <li>
            If it is hot, hisses or smokes: everybody out, breathe no smoke, call the fire service. Water in quantity
            cools.
          </li>
          <li>Wipe the place it lay on, and look once more at its siblings and at all that lay beside it.</li>
        </Steps>
        <Button kind="danger" onPress={onDone}>
          It lies in the fire-safe box
        </Button>
        <Small>
          It can only go to the recycler from there. A coordinator can tell you more; local rules come first.
        </Small>
      </Body>
    </Takeover>
  );
}

const Body = styled.div`
  display: grid;
  gap: 1.125rem;
  justify-items: start;
  max-width: 52rem;
  margin: 0 auto;
  padding: clamp(var(--block), 5vh, 3.5rem) var(--sheet);
  font-size: 1.3125rem;
`;
const Top = styled.div`
  display: grid;
  gap: var(--apart);
  justify-items: start;
  h2 { font-size: clamp(2rem, 5vw, 3.25rem); line-height: 1.08; font-weight: 800; color: ${({ theme }) => theme.color.danger}; }
`;
const Steps = styled.ol`
  display: grid;
  gap: var(--apart);
  counter-reset: step;
  li { counter-increment: step; display: flex; gap: var(--step); }
  li::before { content: counter(step); font: 800 1.75rem/1.1 ${({ theme }) => theme.font.figure}; color: ${({ theme }) => theme.color.danger}; }
`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.text};`;
