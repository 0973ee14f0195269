import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Form } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, once, Problem, type Proposal, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Choice, CountField, Field, Pick, Switch } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { PackDrawing } from "../../components/PackDrawing";
import { Page, Quiet, Sheet } from "../../components/Page";
import { FAMILY_WORDS, figure, GRADE_WORDS } from "../../words";
import { Designs } from "./Designs";
import { NEED_FIELDS, NeedForm } from "./NeedForm";
import { Proof } from "./Proof";

type Request = Schemas["MatchIn"];
type Family = Request["family"];
type LeastGrade = NonNullable<Request["least_grade"]>;
const FAMILIES = (Object.entries(FAMILY_WORDS) as [Family, string][]).filter(([key]) => (key as string) !== "primary");
const LEAST: [LeastGrade, string][] = [
  ["A", `${GRADE_WORDS.A} only`],
  ["B", `${GRADE_WORDS.B} and better`],
  ["C", `${GRADE_WORDS.C} too`],
];

/** Groups as even as the shelf allows, with the proof of it; kept as a pack, the cells are reserved. */
export default function MatchPage() {
  const [from, setFrom] = useState<"shape" | "need">("shape");
  const [series, setSeries] = useState(2);
  const [parallel, setParallel] = useState(2);
  const [family, setFamily] = useState<Family>("layered-oxide");
  const [size, setSize] = useState("18650");
  const [least, setLeast] = useState<LeastGrade>("B");
  const match = useMutation({ mutationFn: (body: Request) => answer(() => api.POST("/api/matches", { body })) });
  const look = useMutation({
    mutationFn: (body: Schemas["NeedIn"]) => answer(() => api.POST("/api/designs", { body })),
    onSuccess: () => match.reset(),
  });
  const result = useRef<HTMLDivElement>(null);
  const found = match.data ?? match.error ?? look.data;
  useEffect(() => {
    // On a phone the answer stands below the form.
    const top = result.current?.getBoundingClientRect().top ?? 0;
    if (found && top > window.innerHeight / 2) result.current?.scrollIntoView();
  }, [found]);
  const lookProblem = look.error instanceof Problem ? look.error : null;
  const choose = (design: Schemas["DesignOut"]) => {
    setSeries(design.series);
    setParallel(design.parallel);
    setFamily(design.family);
    setSize(design.size_code);
    const { series, parallel, family, size_code } = design;
    match.mutate({ series, parallel, family, size_code, least_grade: least });
  };
  return (
    <Page
      title="Match"
      wide
      lead="A series pack ends with its weakest group. Zembric makes that group as strong as the shelf allows, then the others as even as it can."
    >
      <Columns>
        <Sheet>
          <Start>
            <Switch
              label="Start from"
              value={from}
              onChange={setFrom}
              options={[
                ["shape", "S and P"],
                ["need", "What it is for"],
              ]}
            />
          </Start>
          {from === "need" && <NeedForm onLook={look.mutate} isLooking={look.isPending} problem={lookProblem} />}
          {from === "shape" && (
            <Stack
              onSubmit={(event) => {
                event.preventDefault();
                match.mutate({ series, parallel, family, size_code: size.trim(), least_grade: least });
              }}
            >
              <CountField label="Groups in series (S)" value={series} onChange={setSeries} least={1} most={40} />
              <CountField label="Cells in parallel (P)" value={parallel} onChange={setParallel} least={1} most={40} />
              <Field label="Size" numeric value={size} onChange={setSize} maxLength={20} />
              <Pick label="Chemistry" value={family} onChange={setFamily} options={FAMILIES} />
              <Choice label="Cells that may take part" value={least} onChange={setLeast} options={LEAST} />
              <Button kind="main" type="submit" isDisabled={match.isPending || size.trim() === ""}>
                Match {series}S{parallel}P: {series * parallel} cells
              </Button>
            </Stack>
          )}
        </Sheet>
        <Result ref={result}>
          {match.error ? (
            <ProblemNotice problem={match.error} />
          ) : match.data ? (
            <Found
              key={match.submittedAt}
              proposal={match.data}
              request={match.variables}
              onAgain={() => match.variables && match.mutate(match.variables)}
            />
          ) : from === "need" ? (
            <Answered look={look.data} problem={lookProblem} onChoose={choose} />
          ) : (
            <Quiet>
              <h2>How many in series, how many in parallel?</h2>
              <p>
                Volts come from the series: 2 in series are 8.4 V full. Hours come from the parallel. Nothing is
                reserved until you keep it.
              </p>
            </Quiet>
          )}
        </Result>
      </Columns>
    </Page>
  );
}

interface AnsweredProps {
  look: Schemas["DesignsOut"] | undefined;
  problem: Problem | null;
  onChoose: (design: Schemas["DesignOut"]) => void;
}

function Answered({ look, problem, onChoose }: AnsweredProps) {
  if (problem && !NEED_FIELDS.includes(problem.field ?? "")) return <ProblemNotice problem={problem} />;
  if (look) return <Designs found={look} onChoose={onChoose} />;
  return (
    <Quiet>
      <h2>What is it for?</h2>
      <p>Say what the device runs on, what it takes and for how long. Packs that would do come from what lies free.</p>
    </Quiet>
  );
}

interface FoundProps {
  proposal: Proposal;
  request: Request;
  onAgain: () => void;
}

function Found({ proposal, request, onAgain }: FoundProps) {
  const [chosen, setChosen] = useState("0");
  const choice = proposal.choices[Number(chosen)] ?? proposal.choices[0];
  if (!choice) return null;
  return (
    <>
      <Proof proposal={proposal} choice={choice} />
      {proposal.choices.length > 1 && (
        <Choice
          label="Evener resistance for a little of the weakest group"
          value={chosen}
          onChange={setChosen}
          options={proposal.choices.map((each, index) => [String(index), inWords(each)])}
        />
      )}
      <PackDrawing groups={choice.groups} />
      <p>
        {figure(proposal.full_v, 1)} V full, {figure(proposal.nominal_v, 1)} V nominal, {figure(choice.energy_wh)} Wh.{" "}
        {proposal.candidates} cells could take part
        {proposal.left_out.length > 0 &&
          `; left out: ${proposal.left_out.map((left) => `${left.count} ${left.reason}`).join(", ")}`}
        .
      </p>
      <Keep
        key={choice.groups[0]?.cells[0]?.number}
        groups={choice.groups.map((group) => group.cells.map((cell) => cell.number))}
        request={request}
        onAgain={onAgain}
      />
    </>
  );
}

/** What a choice gives up, and how far the resistances inside a group then lie apart. */
function inWords({ give_pct, worst_resistance_ratio }: Schemas["ChoiceOut"]): string {
  const given = give_pct === 0 ? "Nothing given up" : `Up to ${figure(give_pct, 1)} % weaker`;
  return worst_resistance_ratio === null ? given : `${given}: within ${figure(worst_resistance_ratio, 2)} times`;
}

function Keep({ groups, request, onAgain }: { groups: string[][]; request: Request; onAgain: () => void }) {
  const navigate = useNavigate();
  const [purpose, setPurpose] = useState("");
  const keep = useWrite(
    (body: Schemas["PackIn"], key) => answer(() => api.POST("/api/packs", { body, headers: once(key) })),
    (pack) => navigate(`/packs/${pack.number}`),
  );
  const problem = keep.error instanceof Problem ? keep.error : null;
  return (
    <Sheet>
      <KeepForm
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate({ purpose, request, groups });
        }}
      >
        <Field
          label="What is it for?"
          hint="e.g. weather logger for the allotment"
          value={purpose}
          onChange={setPurpose}
          maxLength={120}
          error={problem?.field === "purpose" ? problem.message : null}
        />
        {problem && problem.field !== "purpose" && <ProblemNotice problem={problem} />}
        {problem?.code === "cells-gone" && <Button onPress={onAgain}>Match again with what is left</Button>}
        <Button kind="main" type="submit" isDisabled={keep.isPending}>
          Keep it, reserve the cells
        </Button>
      </KeepForm>
    </Sheet>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 20rem) minmax(0, 1fr);
  gap: 1.25rem;
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Stack = styled(Form)`display: grid; gap: 1rem;`;
const Start = styled.div`margin-bottom: 1rem;`;
const Result = styled.div`display: grid; gap: 1rem;`;
const KeepForm = styled(
  Form,
)`display: grid; gap: 0.75rem; max-width: 32rem; justify-items: start; > :first-child { width: 100%; }`;
