import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { StepMark } from "../../components/StepMark";
import { STEP_WORDS } from "../../words";
import { ALL } from "./order";

/** The same evening by place: each tray on the bench with what its cells need. */
export function TrayStrip({ trays }: { trays: Schemas["TrayStepsOut"][] }) {
  if (trays.length === 0) return null;
  return (
    <Strip aria-labelledby="by-tray">
      <h2 id="by-tray">By tray</h2>
      <ul>
        {trays.map((tray) => (
          <li key={tray.number}>
            <Name to={`/trays/${tray.number}`}>{tray.name}</Name>
            <Steps>
              {tray.steps
                .toSorted((a, b) => ALL.indexOf(a.step) - ALL.indexOf(b.step))
                .map(({ step, count }) => (
                  <Step key={step}>
                    <strong>{count}</strong>
                    <StepMark step={step} size={20} />
                    {STEP_WORDS[step]}
                  </Step>
                ))}
            </Steps>
          </li>
        ))}
      </ul>
    </Strip>
  );
}

const Strip = styled.section`
  margin-top: var(--sheet);
  li {
    display: grid;
    grid-template-columns: minmax(7rem, 11rem) 1fr;
    align-items: center;
    gap: var(--hair) var(--block);
    padding: var(--slit) 0;
    border-top: 1px solid ${({ theme }) => theme.color.paperLine};
    ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
  }
`;
const Name = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  font-weight: 750;
  color: ${({ theme }) => theme.color.ink};
`;
const Steps = styled.div`display: flex; flex-wrap: wrap; gap: var(--slit) var(--sheet);`;
const Step = styled.span`
  display: inline-flex;
  align-items: center;
  gap: var(--slit);
  svg { flex: none; }
  strong { font-family: ${({ theme }) => theme.font.figure}; }
`;
