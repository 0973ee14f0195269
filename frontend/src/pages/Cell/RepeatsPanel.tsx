import styled from "styled-components";
import type { Story } from "../../api/client";
import { Notice } from "../../components/Notice";
import { day, figure, METHOD_WORDS } from "../../words";

/** The capacity runs of a cell beside each other: which count, whether they agree, and what they would be at reference conditions. */
export function RepeatsPanel({ repeats }: { repeats: Story["repeats"] }) {
  const { runs, disagreement, reference_text } = repeats;
  if (runs.length < 2 && !reference_text) return null;
  const most = Math.max(...runs.map((run) => run.value_mah), 1);
  return (
    <Box>
      {disagreement && <Notice kind="ask">{disagreement}</Notice>}
      {runs.length > 1 && (
        <ol aria-label="Capacity runs">
          {runs.map((run) => (
            <li key={run.at}>
              <Bar
                $counts={run.left_out === null}
                style={{ width: `${(100 * run.value_mah) / most}%` }}
                aria-hidden="true"
              />
              <span>
                <strong>{figure(run.value_mah)} mAh</strong> {METHOD_WORDS[run.method]}, {day(run.at)}
                {run.left_out && `, ${run.left_out}`}
              </span>
            </li>
          ))}
        </ol>
      )}
      {reference_text && <p>{reference_text}</p>}
    </Box>
  );
}

const Box = styled.div`
  display: grid;
  gap: var(--near);
  margin: var(--near) 0;
  font-size: ${({ theme }) => theme.size.note};
  li { display: grid; padding: var(--thread) 0; }
`;
const Bar = styled.i<{ $counts: boolean }>`
  height: 6px;
  border: 1px solid ${({ theme }) => theme.color.pencil};
  background: ${({ theme, $counts }) => ($counts ? theme.color.pencil : "transparent")};
`;
