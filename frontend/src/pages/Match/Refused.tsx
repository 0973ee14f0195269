import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button, ButtonLink } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { asked, type Request, relaxed } from "./request";

interface RefusedProps {
  problem: unknown;
  request: Request;
  onRelax: (request: Request) => void;
}

/** Why there is no match, what lifting one rule would bring, and the wish for when the cells are there. */
export function Refused({ problem, request, onRelax }: RefusedProps) {
  const ways = problem instanceof Problem ? problem.ways : [];
  const isShort = problem instanceof Problem && ["too-few-cells", "target-out-of-reach"].includes(problem.code);
  return (
    <>
      <ProblemNotice problem={problem} />
      {ways.length > 0 && (
        <Sheet aria-label="What would help">
          <h2>What would help</h2>
          <Ways>
            {ways.map((way) => {
              const next = relaxed(request, way.code);
              return (
                <li key={way.code}>
                  {next ? <Button onPress={() => onRelax(next)}>{way.text}</Button> : <span>{way.text}</span>}
                </li>
              );
            })}
          </Ways>
        </Sheet>
      )}
      {isShort && <WishForm request={asked(request)} />}
    </>
  );
}

function WishForm({ request }: { request: Schemas["MatchIn"] }) {
  const [purpose, setPurpose] = useState("");
  const wish = useWrite((body: Schemas["WishIn"], key) =>
    answer(() => api.POST("/api/wishes", { body, headers: once(key) })),
  );
  if (wish.isSuccess)
    return (
      <Notice kind="kept">
        It stands with the wishes now; the first page says when the cells are there.{" "}
        <ButtonLink to="/packs" $kind="quiet">
          See the wishes
        </ButtonLink>
      </Notice>
    );
  const problem = wish.error instanceof Problem ? wish.error : null;
  return (
    <Sheet aria-label="Collect for it">
      <h2>Collect for it</h2>
      <p>Zembric keeps it in mind, says which untested cells are likely to do, and tells when it can be built.</p>
      <Line
        onSubmit={(event) => {
          event.preventDefault();
          wish.mutate({ purpose, request });
        }}
      >
        <Field
          label="What is it for?"
          value={purpose}
          onChange={setPurpose}
          maxLength={120}
          error={problem?.field === "purpose" ? problem.message : null}
        />
        <Button type="submit" isDisabled={wish.isPending}>
          Keep as a wish
        </Button>
      </Line>
      {problem && problem.field !== "purpose" && <ProblemNotice problem={problem} />}
    </Sheet>
  );
}

const Ways = styled.ul`display: grid; gap: var(--near); margin-top: var(--near); justify-items: start;`;
const Line = styled(
  Form,
)`display: grid; gap: var(--apart); max-width: 32rem; margin-top: var(--near); justify-items: start; > :first-child { width: 100%; }`;
