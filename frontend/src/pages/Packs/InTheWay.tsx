import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../api/client";
import { drawPack, useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button, ButtonLink } from "../../components/Button";
import { Field } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Tape } from "../../components/Tape";

const HEADS: Partial<Record<Pack["state"], string>> = {
  planned: "Before it is joined",
  built: "Before it is given out",
  back: "Before it is given out again",
};

/** What stands between a pack and its next state: each with what to do. */
export function InTheWay({ pack, stops }: { pack: Pack; stops: readonly Schemas["CheckOut"][] }) {
  if (pack.refused.length + stops.length === 0) return null;
  return (
    <Slip aria-label={HEADS[pack.state] ?? "Not yet"}>
      <h2>{HEADS[pack.state] ?? "Not yet"}</h2>
      <ol>
        {pack.refused.map((refusal) => (
          <li key={refusal.code}>
            <p>
              <strong>{refusal.to_do}</strong> {refusal.text}
            </p>
            {refusal.cells.length > 0 && (
              <Cells>
                {refusal.cells.slice(0, SHOWN).map((number) => (
                  <Tape key={number} size="small" to={`/bench/${number}`}>
                    {number}
                  </Tape>
                ))}
                {refusal.cells.length > SHOWN && <span>and {refusal.cells.length - SHOWN} more</span>}
              </Cells>
            )}
            {MEASURED.includes(refusal.code) && (
              <ButtonLink to={`/packs/${pack.number}/measure`} $kind="plain">
                Measure all before joining
              </ButtonLink>
            )}
            {refusal.code === "marked" && <SayYes pack={pack} cells={refusal.cells} />}
          </li>
        ))}
        {stops.length > 0 && (
          <li>
            <p>
              <strong>
                Mend what <a href="#checks">its checks</a> say.
              </strong>{" "}
              {stops.length === 1 ? "One stops it" : `${stops.length} stop it`}:{" "}
              {stops.map((line) => line.name).join(", ")}.
            </p>
          </li>
        )}
      </ol>
    </Slip>
  );
}

const SHOWN = 12;
/** What one reading a cell puts right. */
const MEASURED = ["no-voltage", "voltage-old"];

/** A coordinator's yes to marked cells, for this pack only. */
function SayYes({ pack, cells }: { pack: Pack; cells: readonly string[] }) {
  const session = useSession();
  const [why, setWhy] = useState("");
  const allow = useWrite(
    (body: Schemas["MarkIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/marks", { params: { path: { number: pack.number } }, headers: once(key), body }),
      ),
    drawPack,
  );
  if (session.data?.person?.role !== "coordinator") return null;
  return (
    <Yes>
      <Field label="Why it may stand in this pack" value={why} onChange={setWhy} maxLength={300} />
      <ProblemNotice problem={allow.error} />
      {cells.map((cell) => (
        <Button key={cell} isDisabled={allow.isPending} onPress={() => allow.mutate({ cell, why })}>
          {`Yes to ${cell}, for this pack`}
        </Button>
      ))}
    </Yes>
  );
}

const Slip = styled.section`
  display: grid;
  gap: var(--near);
  padding: var(--block) var(--sheet);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
  ol { display: grid; gap: var(--gap); padding-left: var(--room); list-style: decimal; }
`;
const Cells = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--slit); padding-top: var(--hair);`;
const Yes = styled.div`display: grid; gap: var(--near); justify-items: start; max-width: 34rem; padding-top: var(--near);`;
