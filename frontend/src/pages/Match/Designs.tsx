import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { Fold } from "../../components/Fold";
import { Notice } from "../../components/Notice";
import { FAMILY_WORDS, figure } from "../../words";

type Design = Schemas["DesignOut"];

/** One to three packs that would do, each with what it comes to; and why other cells were left out. */
export function Designs({ found, onChoose }: { found: Schemas["DesignsOut"]; onChoose: (design: Design) => void }) {
  return (
    <div role="status">
      {found.designs.length === 0 && (
        <Notice kind="ask">
          {found.not_proposed.length > 0
            ? "Nothing on the shelf does it. Below stands what is in the way of each kind of cell."
            : "No graded cells lie free on the shelf yet. Cells of grade Fair and better can be built with."}
        </Notice>
      )}
      {found.designs.map((design) => (
        <One key={`${design.size_code} ${design.family}`}>
          <h2>
            {design.series}S{design.parallel}P <span>of {design.size_code}</span>
          </h2>
          <p>
            {FAMILY_WORDS[design.family]}, {figure(design.full_v, 1)} V full, {figure(design.empty_v, 1)} V empty. About{" "}
            <strong>{figure(design.hours, 1)} h</strong>, {figure(design.energy_wh)} Wh, {figure(design.cell_a, 2)} A
            from each cell; the device can use {figure(design.used_pct)} % of it.
            {design.fits !== null &&
              (design.fits ? " It fits the room." : " It does not fit the room in straight rows.")}
          </p>
          {design.remarks.map((remark) => (
            <p key={remark}>{remark}</p>
          ))}
          <Button kind={design.fits === false ? "plain" : "main"} onPress={() => onChoose(design)}>
            Match {design.series * design.parallel} of {design.on_shelf}
          </Button>
        </One>
      ))}
      {found.not_proposed.length > 0 && (
        <Fold title={`Why not others (${found.not_proposed.length})`} isOpen={found.designs.length === 0}>
          <ul>
            {found.not_proposed.map((each) => (
              <li key={`${each.size_code} ${each.family}`}>
                <strong>{each.size_code}</strong>, {FAMILY_WORDS[each.family]}: {each.why}
              </li>
            ))}
          </ul>
        </Fold>
      )}
    </div>
  );
}

const One = styled.section`
  display: grid;
  gap: var(--slit);
  justify-items: start;
  max-width: 46rem;
  padding: var(--block) var(--sheet);
  margin-bottom: var(--apart);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  h2 { font: 800 2.5rem/1.1 ${({ theme }) => theme.font.figure}; }
  h2 span { font: 600 ${({ theme }) => theme.size.lead} ${({ theme }) => theme.font.text}; }
`;
