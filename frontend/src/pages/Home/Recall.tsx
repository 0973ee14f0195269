import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { ButtonLink } from "../../components/Button";
import { dayAndTime } from "../../words";

/** Packs that are stopped: who has each, and what to tell them. It stands first until they are taken apart. */
export function Recall({ packs }: { packs: readonly Schemas["RecallOut"][] }) {
  if (packs.length === 0) return null;
  const out = packs.filter((pack) => pack.state === "given-out");
  return (
    <Box role="alert" aria-label="Stopped packs">
      <h2>{out.length > 0 ? "Call them now: a pack that is out was stopped." : "A pack was stopped."}</h2>
      <ul>
        {packs.map((pack) => (
          <li key={pack.number}>
            <div>
              <strong>{pack.purpose}</strong>, pack {pack.number}, stopped {dayAndTime(pack.stopped_at)}. {pack.why}
            </div>
            {pack.state === "given-out" ? (
              <Who>{pack.given_to ?? "Nobody wrote down who has it: ask around now."}</Who>
            ) : (
              <div>It is here. Nobody uses or charges it; take it apart.</div>
            )}
            <ButtonLink to={`/packs/${pack.number}`} $kind="plain">
              Open the pack
            </ButtonLink>
          </li>
        ))}
      </ul>
      {out[0] && (
        <Tell>
          <strong>Tell them:</strong> {out[0].tell}
        </Tell>
      )}
    </Box>
  );
}

const Box = styled.section`
  display: grid;
  gap: var(--apart);
  margin-bottom: var(--block);
  padding: var(--block) var(--sheet);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.danger};
  border-left-width: 14px;
  background: ${({ theme }) => theme.color.dangerPaper};
  h2 { color: ${({ theme }) => theme.color.danger}; }
  li { display: flex; flex-wrap: wrap; align-items: center; gap: var(--slit) var(--sheet); }
  ul { display: grid; gap: var(--apart); }
`;
const Who = styled.div`font-size: ${({ theme }) => theme.size.lead}; font-weight: 700;`;
const Tell = styled.p`max-width: 60rem;`;
