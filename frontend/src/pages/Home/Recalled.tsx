import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { RoomyForm } from "../../components/AskForm";
import { ButtonLink } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Fold } from "../../components/Fold";
import { PACK_WORDS } from "../../words";

/** Packs that are called back, each until somebody says what became of it. */
export function Recalled({ packs }: { packs: readonly Schemas["RecalledOut"][] }) {
  if (packs.length === 0) return null;
  return (
    <Box aria-label="Called back">
      <h2>{packs.length === 1 ? "A pack is" : `${packs.length} packs are`} called back</h2>
      <ul>
        {packs.map((pack) => (
          <li key={pack.id}>
            <p>
              <strong>{pack.purpose}</strong>, pack {pack.number}, {PACK_WORDS[pack.state].toLowerCase()}. {pack.why}
            </p>
            {pack.state === "given-out" && (
              <p>
                <strong>{pack.given_to ?? "Nobody wrote down who has it: ask around."}</strong> Tell them: {pack.tell}
              </p>
            )}
            <Row>
              <ButtonLink to={`/packs/${pack.number}`} $kind="plain">
                Open the pack
              </ButtonLink>
              <a href={`/api/recalled/${pack.id}/letter.pdf`} target="_blank" rel="noreferrer">
                Letter (PDF)
              </a>
              <Settle recalled={pack} />
            </Row>
          </li>
        ))}
      </ul>
    </Box>
  );
}

function Settle({ recalled }: { recalled: Schemas["RecalledOut"] }) {
  const [how, setHow] = useState("");
  const settle = useWrite((body: Schemas["SettleIn"], key) =>
    answer(() =>
      api.POST("/api/recalled/{recalled}/settlements", {
        params: { path: { recalled: recalled.id } },
        headers: once(key),
        body,
      }),
    ),
  );
  return (
    <Fold title="It is settled">
      <RoomyForm
        problem={settle.error}
        isSending={settle.isPending}
        kind="plain"
        send="Settled"
        waitsFor={how.trim().length < 3 ? "Say what became of it." : null}
        onSend={() => settle.mutate({ how })}
      >
        <Field label={`What became of ${recalled.number}`} name="how" value={how} onChange={setHow} maxLength={500} />
      </RoomyForm>
    </Fold>
  );
}

const Box = styled.section`
  display: grid;
  gap: var(--near);
  margin-bottom: var(--block);
  padding: var(--block) var(--sheet);
  border-left: 14px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
  ul { display: grid; gap: var(--apart); }
  li { display: grid; gap: var(--near); }
`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--near) var(--sheet);`;
