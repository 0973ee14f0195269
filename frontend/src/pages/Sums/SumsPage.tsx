import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { NavLink, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { sumQuery, useSums } from "../../api/measuring";
import { Grounds } from "../../components/Grounds";
import { NeedFields } from "../../components/NeedFields";
import { Notice } from "../../components/Notice";
import { Page, Sheet, Waiting } from "../../components/Page";
import { SumPicture } from "../../components/SumPicture";
import { useSettled } from "../../components/useSettled";
import { figure, LIMIT_KIND_WORDS, seconds } from "../../words";

type Sum = Schemas["SumOut"];

/** The small calculations of a bench, also without a cell; the address carries what was put in. */
export default function SumsPage() {
  const { name } = useParams();
  const sums = useSums();
  const sum = sums.data?.sums.find((each) => each.name === name) ?? sums.data?.sums[0];
  return (
    <Page title="Bench sums" wide lead="What people do on paper: put the numbers in, the answer stands there at once.">
      {!sums.data ? (
        <Waiting query={sums} what="the sums" />
      ) : (
        <Columns>
          <nav aria-label="Sums">
            <Names>
              {sums.data.sums.map((each) => (
                <li key={each.name}>
                  <NavLink to={`/sums/${each.name}`} className={each.name === sum?.name ? "active" : ""}>
                    {each.title}
                  </NavLink>
                </li>
              ))}
            </Names>
          </nav>
          {sum && <SumSheet key={sum.name} sum={sum} />}
        </Columns>
      )}
    </Page>
  );
}

function SumSheet({ sum }: { sum: Sum }) {
  const [search, setSearch] = useSearchParams();
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(sum.inputs.map((need) => [need.key, search.get(need.key) ?? need.example ?? ""])),
  );
  const settled = useSettled(values);
  const filled = Object.fromEntries(Object.entries(settled).filter(([, value]) => value.trim() !== ""));
  const result = useQuery({ ...sumQuery(sum.name, filled), placeholderData: (before) => before });
  const problem = result.error instanceof Problem ? result.error : null;
  const change = (key: string, value: string) => {
    const next = { ...values, [key]: value };
    setValues(next);
    setSearch(next, { replace: true });
  };
  const [first, ...others] = sum.outputs;
  const outputs = problem ? null : result.data?.outputs;
  return (
    <Sheet aria-label={sum.title}>
      <Stack>
        <div>
          <h2>{sum.title}</h2>
          <p>{sum.purpose}</p>
        </div>
        <Answer aria-live="polite">
          {outputs && first ? (
            <>
              <Label>{first.meaning}</Label>
              <Big>{show(outputs[first.key], first)}</Big>
              <Others>
                {others.map((output) => (
                  <div key={output.key}>
                    <dt>{output.meaning}</dt>
                    <dd>{show(outputs[output.key], output)}</dd>
                  </div>
                ))}
              </Others>
            </>
          ) : (
            <Label>{problem ? "No answer yet" : "One moment …"}</Label>
          )}
        </Answer>
        {problem && !sum.inputs.some((need) => need.key === problem.field && need.need !== "choice") && (
          <Notice kind="error">{problem.message}</Notice>
        )}
        {!problem &&
          result.data?.red_lines.map((red) => (
            <Notice key={red.code} kind="error">
              {red.text} ({LIMIT_KIND_WORDS[red.kind]})
            </Notice>
          ))}
        {!problem &&
          result.data?.cautions.map((caution) => (
            <Notice key={caution} kind="ask">
              {caution}
            </Notice>
          ))}
        <NeedFields
          needs={sum.inputs}
          values={values}
          onChange={change}
          wrong={problem && { field: problem.field, text: problem.message }}
        />
        {!problem && result.data && <Worked>{result.data.worked}</Worked>}
        {!problem && result.data?.picture && <SumPicture picture={result.data.picture} title={sum.title} />}
        <Grounds formula={sum.formula} grounds={sum.grounds} />
      </Stack>
    </Sheet>
  );
}

function show(value: number | boolean | string | null | undefined, output: Schemas["ResultKeyOut"]): string {
  if (value === null || value === undefined) return "–";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "string") return value;
  const amount = `${figure(value, output.digits)} ${output.unit}`;
  return output.unit === "min" && value >= 120 ? `${amount} (${seconds(60 * value)})` : amount;
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: 15rem minmax(0, 1fr);
  gap: 1.25rem;
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Names = styled.ul`
  display: grid;
  background: ${({ theme }) => theme.color.paper};
  a { display: flex; align-items: center; min-height: 44px; padding: 0.25rem 0.875rem; border-left: 6px solid transparent; text-decoration: none; }
  a.active { border-left-color: ${({ theme }) => theme.color.tape}; font-weight: 750; }
  a:hover { background: ${({ theme }) => theme.color.askPaper}; }
  ${({ theme }) => theme.narrow} { display: flex; overflow-x: auto; a { white-space: nowrap; border-left: 0; border-bottom: 5px solid transparent; } a.active { border-bottom-color: ${({ theme }) => theme.color.tape}; } }
`;
const Stack = styled.div`display: grid; gap: 1rem; > * { min-width: 0; }`;
const Answer = styled.div`min-height: 7rem;`;
const Label = styled.p`font-weight: 700; &::first-letter { text-transform: uppercase; }`;
const Big = styled.p`
  font: 700 ${({ theme }) => theme.size.key}/1.15 ${({ theme }) => theme.font.figure};
  overflow-wrap: anywhere;
  ${({ theme }) => theme.narrow} { font-size: 2.75rem; }
`;
const Others = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: 0.25rem 2rem;
  dt { font-size: ${({ theme }) => theme.size.note}; }
  dd { font: 700 1.375rem ${({ theme }) => theme.font.figure}; }
`;
const Worked = styled.p`font-family: ${({ theme }) => theme.font.figure}; overflow-wrap: anywhere;`;
