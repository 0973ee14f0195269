import styled from "styled-components";
import { figure } from "../words";

type Props = {
  siblings: { number: string; value_v: number }[];
  own: number | null;
  groupV?: number | null;
  /** False: they came out of other devices of its kind, and say nothing about this one. */
  isOnePack?: boolean;
};

/** The voltages of all siblings as dots on one ruler: whoever stands apart is seen before it is read. */
export function SiblingStrip({ siblings, own, groupV = null, isOnePack = true }: Props) {
  const all = [...siblings.map((sibling) => sibling.value_v), ...(own === null ? [] : [own])];
  if (siblings.length === 0 || all.length < 2) return null;
  const least = Math.min(...all) - 0.05;
  const span = Math.max(0.3, Math.max(...all) + 0.05 - least);
  const at = (value: number) => `${(100 * (value - least)) / span}%`;
  return (
    <figure aria-label={`Voltages of ${siblings.length} siblings`}>
      <Caption>
        {isOnePack ? "Siblings" : "Others of its kind, out of other devices:"}{" "}
        {figure(Math.min(...siblings.map((b) => b.value_v)), 2)} to{" "}
        {figure(Math.max(...siblings.map((b) => b.value_v)), 2)} V
        {!isOnePack && ". What they read says nothing about this one."}
        {groupV !== null && `; its group read ${figure(groupV, 2)} V`}
      </Caption>
      <Line>
        {siblings.map((sibling) => (
          <Dot
            key={sibling.number}
            style={{ left: at(sibling.value_v) }}
            title={`${sibling.number}: ${figure(sibling.value_v, 2)} V`}
          />
        ))}
        {own !== null && <Own style={{ left: at(own) }}>this one</Own>}
      </Line>
    </figure>
  );
}

const Caption = styled.figcaption`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Line = styled.div`
  position: relative;
  height: 40px;
  margin: 0 var(--room);
  border-bottom: 3px solid ${({ theme }) => theme.color.ink};
`;
const Dot = styled.i`
  position: absolute;
  bottom: -9px;
  width: 15px;
  height: 15px;
  margin-left: -7px;
  border: 2px solid ${({ theme }) => theme.color.ink};
  border-radius: 50%;
  background: ${({ theme }) => theme.color.paper};
`;
const Own = styled.span`
  position: absolute;
  bottom: 4px;
  padding: 0 0.4rem;
  transform: translateX(-50%);
  background: ${({ theme }) => theme.color.pencil};
  color: ${({ theme }) => theme.color.paper};
  font-size: 0.8125rem;
  font-weight: 700;
  white-space: nowrap;
  &::after { content: ""; position: absolute; left: calc(50% - 6px); top: 100%; border: 6px solid transparent; border-top-color: ${({ theme }) => theme.color.pencil}; }
`;
