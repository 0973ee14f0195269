import styled from "styled-components";
import { Amount } from "./Amount";

type Item = { label: string; value: number | null; unit: string; digits?: number };

/** Labelled figures side by side. The first may be the one a person came for: then it is the largest thing on the screen. */
export function Figures({ items, leads }: { items: Item[]; leads?: boolean }) {
  return (
    <Row>
      {items.map(({ label, ...amount }, index) => (
        <div key={label}>
          <dt>{label}</dt>
          <dd>
            <Amount {...amount} size={leads && index === 0 ? "key" : "figure"} />
          </dd>
        </div>
      ))}
    </Row>
  );
}

const Row = styled.dl`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: var(--hair) var(--wide);
  dt { font-size: ${({ theme }) => theme.size.note}; font-weight: 700; }
`;
