import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Cell, type Grade, once, Problem, type Schemas } from "../../api/client";
import { useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Fold } from "../../components/Fold";
import { GradeMark } from "../../components/GradeMark";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Pick } from "../../components/Pick";
import { useSettled } from "../../components/useSettled";
import { GRADE_WORDS, METHOD_WORDS, STEP_WORDS } from "../../words";

type WhatIf = Schemas["WhatIfIn"];
const AS_IT_IS = "as-it-is";
const NOTHING: WhatIf = { voltage_school: null, grade_school: null, quantity: null, value: "", method: null };
const METHODS: Record<"capacity" | "resistance", NonNullable<WhatIf["method"]>[]> = {
  capacity: ["tester", "trace", "resistor-log", "resistor-clock", "charge-counted", "usb-linear", "usb-step-up"],
  resistance: ["ac-1khz", "dc-10s", "dc-1s", "tester"],
};

const useJudged = (number: string, body: WhatIf) =>
  useQuery({
    queryKey: ["story", number, "judged", body],
    queryFn: () => answer(() => api.POST("/api/cells/{number}/what-if", { params: { path: { number } }, body })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** What follows from a judgement: what the cell suits, what would settle a doubt, what if, and a coordinator's no. */
export function Verdict({ cell }: { cell: Cell }) {
  const judged = useJudged(cell.number, NOTHING);
  const session = useSession();
  if (!judged.data) return null;
  const { good_for, settled_by, weaker, of_its_kind, may_be_overruled } = judged.data;
  return (
    <Box>
      {good_for && (
        <p>
          <strong>Good for.</strong> {good_for}
        </p>
      )}
      {settled_by && (
        <p>
          <strong>What would settle it.</strong> {settled_by}
        </p>
      )}
      {of_its_kind !== null && of_its_kind > 0 && (
        <p>
          <strong>Among its kind.</strong> Stronger than {weaker} of {of_its_kind} on the shelf.
        </p>
      )}
      <Fold title="What if?">
        <WhatIfForm cell={cell} />
      </Fold>
      {may_be_overruled && session.data?.person?.role === "coordinator" && (
        <Fold title="I judge otherwise">
          <OverruleForm cell={cell} />
        </Fold>
      )}
      <a href={`/api/cells/${cell.number}/story.json`} download>
        Take its story along (JSON)
      </a>
    </Box>
  );
}

/** Other schools, or one more reading: the judgement that would follow. Nothing is kept. */
function WhatIfForm({ cell }: { cell: Cell }) {
  const [supposed, setSupposed] = useState<WhatIf>(NOTHING);
  const settled = useSettled(supposed);
  const found = useJudged(cell.number, settled);
  const change = (part: Partial<WhatIf>) => setSupposed({ ...supposed, ...part });
  const methods =
    supposed.quantity === "capacity" || supposed.quantity === "resistance" ? METHODS[supposed.quantity] : [];
  const problem = found.error instanceof Problem ? found.error : null;
  return (
    <>
      <Row>
        <Pick
          label="First voltage"
          value={supposed.voltage_school ?? AS_IT_IS}
          onChange={(school) => change({ voltage_school: school === AS_IT_IS ? null : school })}
          options={[
            [AS_IT_IS, "As it is here"],
            ["strict", "Strict"],
            ["usual", "Usual"],
            ["thrifty", "Thrifty"],
          ]}
        />
        <Pick
          label="Grades"
          value={supposed.grade_school ?? AS_IT_IS}
          onChange={(school) => change({ grade_school: school === AS_IT_IS ? null : school })}
          options={[
            [AS_IT_IS, "As it is here"],
            ["health", "By health"],
            ["bins", "By volume"],
            ["fitness", "By fitness"],
          ]}
        />
        <Pick
          label="One more reading"
          value={supposed.quantity ?? AS_IT_IS}
          onChange={(quantity) =>
            change(
              quantity === AS_IT_IS
                ? { quantity: null, method: null }
                : { quantity, method: quantity === "voltage" ? null : (METHODS[quantity][0] ?? null) },
            )
          }
          options={[
            [AS_IT_IS, "None"],
            ["voltage", "Voltage"],
            ["capacity", "Capacity"],
            ["resistance", "Resistance"],
          ]}
        />
        {supposed.quantity && (
          <Field
            label="It reads"
            unit={{ voltage: "V", capacity: "mAh", resistance: "mΩ" }[supposed.quantity]}
            numeric
            value={supposed.value ?? ""}
            onChange={(value) => change({ value })}
            maxLength={20}
            error={problem?.field === "value" ? problem.message : null}
          />
        )}
        {methods.length > 0 && (
          <Pick
            label="Measured by"
            value={supposed.method ?? methods[0] ?? "tester"}
            onChange={(method) => change({ method })}
            options={methods.map((method) => [method, METHOD_WORDS[method] ?? method] as const)}
          />
        )}
      </Row>
      {problem && problem.field !== "value" && <ProblemNotice problem={problem} />}
      {found.data && !problem && (
        <Answer role="status">
          <GradeMark grade={found.data.grade} />
          <span>
            {found.data.reasons[0]?.text} Then: {STEP_WORDS[found.data.step]}.
          </span>
        </Answer>
      )}
    </>
  );
}

type Overruled = Exclude<Grade, "not-yet">;

/** A coordinator's own grade, with its ground; for ever in the story. */
function OverruleForm({ cell }: { cell: Cell }) {
  const isOverruled = cell.reasons.some((reason) => reason.code === "overruled");
  const [grade, setGrade] = useState<Overruled>("C");
  const [why, setWhy] = useState("");
  const send = useWrite(
    (body: Schemas["OverruleIn"], key) =>
      answer(() =>
        api.POST("/api/cells/{number}/overrules", {
          params: { path: { number: cell.number } },
          headers: once(key),
          body,
        }),
      ),
    () => setWhy(""),
  );
  return (
    <>
      <Notice kind="ask">It stays in its story for ever, and stands on its label.</Notice>
      <Pick
        label="It is"
        value={grade}
        onChange={setGrade}
        options={(["A", "B", "C", "out"] as const).map((each) => [each, GRADE_WORDS[each]] as const)}
      />
      <Field label="Because" value={why} onChange={setWhy} maxLength={300} />
      <ProblemNotice problem={send.error} />
      <Row>
        <Button
          waitsFor={why.trim().length < 3 ? "First say why." : null}
          isDisabled={send.isPending}
          onPress={() => send.mutate({ grade, why })}
        >
          Judge it so
        </Button>
        {isOverruled && (
          <Button
            isDisabled={send.isPending || why.trim().length < 3}
            onPress={() => send.mutate({ grade: null, why })}
          >
            Take my judgement back
          </Button>
        )}
      </Row>
    </>
  );
}

const Box = styled.div`
  display: grid;
  gap: var(--slit);
  margin-top: var(--apart);
  padding-top: var(--apart);
  border-top: 1px solid ${({ theme }) => theme.color.paperLine};
  a { padding: var(--gap) 0; }
`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: end; gap: var(--apart) var(--block);`;
const Answer = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--slit) var(--apart); padding: var(--gap) var(--step); border-left: 6px solid ${({ theme }) => theme.color.tape}; background: ${({ theme }) => theme.color.askPaper};`;
