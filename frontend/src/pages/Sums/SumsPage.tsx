import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { Problem, type Schemas } from "../../api/client";
import { sumQuery, useSums } from "../../api/measuring";
import { Grounds } from "../../components/Grounds";
import { NeedFields } from "../../components/NeedFields";
import { Notice } from "../../components/Notice";
import { Page, Sheet, Waiting } from "../../components/Page";
import { SumPicture } from "../../components/SumPicture";
import { useSettled } from "../../components/useSettled";
import { CHOICE_WORDS, figure, LIMIT_KIND_WORDS, seconds } from "../../words";
import { ThingPicture } from "./ThingPicture";

type Sum = Schemas["SumOut"];

/**
 * The small calculations of a bench, found by the thing that lies in front of somebody; the address carries what was
 * put in.
 */
export default function SumsPage() {
  const { name } = useParams();
  const [address] = useSearchParams();
  const sums = useSums();
  if (!sums.data)
    return (
      <Page title="Bench sums" wide>
        <Waiting query={sums} what="the sums" />
      </Page>
    );
  const { things } = sums.data;
  const titles = new Map(sums.data.sums.map((each) => [each.name, each.title]));
  const sum = sums.data.sums.find((each) => each.name === name);
  const thing =
    things.find((each) => each.code === address.get("of") && (!name || each.sums.includes(name))) ??
    things.find((each) => name !== undefined && each.sums.includes(name));
  return (
    <Page title="Bench sums" wide lead={sum ? undefined : "What lies in front of you? Each thing has its questions."}>
      <Bench aria-label="Things on the bench" $small={Boolean(sum)}>
        {things.map((each) => (
          <Lying key={each.code} $here={each === thing}>
            {sum ? (
              <Link to={`/sums/${each.sums[0]}?of=${each.code}`} aria-current={each === thing ? "true" : undefined}>
                <ThingPicture code={each.code} />
                <strong>{each.name}</strong>
              </Link>
            ) : (
              <>
                <ThingPicture code={each.code} />
                <strong>{each.name}</strong>
                <ul>
                  {each.sums.map((asked) => (
                    <li key={asked}>
                      <Link to={`/sums/${asked}?of=${each.code}`}>{titles.get(asked)}</Link>
                    </li>
                  ))}
                </ul>
              </>
            )}
          </Lying>
        ))}
      </Bench>
      {sum && thing && thing.sums.length > 1 && (
        <Questions aria-label={`Questions about: ${thing.name}`}>
          {thing.sums.map((asked) => (
            <Link
              key={asked}
              to={`/sums/${asked}?of=${thing.code}`}
              aria-current={asked === sum.name ? "page" : undefined}
            >
              {titles.get(asked)}
            </Link>
          ))}
        </Questions>
      )}
      {sum ? (
        <SumSheet key={sum.name} sum={sum} of={thing?.code ?? null} isAlone={(thing?.sums.length ?? 1) === 1} />
      ) : (
        name && <Notice kind="error">There is no sum of that name. Choose the thing that lies in front of you.</Notice>
      )}
    </Page>
  );
}

function SumSheet({ sum, of, isAlone }: { sum: Sum; of: string | null; isAlone: boolean }) {
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
    setSearch(of ? { of, ...next } : next, { replace: true });
  };
  const [first, ...others] = sum.outputs;
  const outputs = problem ? null : result.data?.outputs;
  return (
    <Sheet aria-label={sum.title}>
      <Stack>
        <div>
          {isAlone && <h2>{sum.title}</h2>}
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
  if (typeof value === "string") return CHOICE_WORDS[value] ?? value;
  const amount = `${figure(value, output.digits)} ${output.unit}`;
  return output.unit === "min" && value >= 120 ? `${amount} (${seconds(60 * value)})` : amount;
}

const Bench = styled.ul<{ $small: boolean }>`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${({ $small }) => ($small ? "7.5rem" : "17rem")}, 1fr));
  gap: ${({ $small }) => ($small ? "0 0.5rem" : "1.25rem 1.5rem")};
  ${({ $small, theme }) => $small && `border-bottom: ${theme.line.ink} solid ${theme.color.ink};`}
  ${({ theme }) => theme.narrow} { ${({ $small }) => $small && "display: flex; overflow-x: auto;"} }
`;
const Lying = styled.li<{ $here: boolean }>`
  position: relative;
  display: grid;
  gap: var(--hair);
  align-content: start;
  min-width: 6.5rem;
  > a { display: grid; justify-items: center; padding: var(--slit); text-align: center; text-decoration: none; line-height: 1.2; }
  > a:hover { background: ${({ theme }) => theme.color.askPaper}; }
  > a svg { max-width: 4.75rem; }
  > a strong { font-size: ${({ theme }) => theme.size.note}; font-weight: ${({ $here }) => ($here ? 800 : 500)}; }
  ${({ $here, theme }) => $here && `background: ${theme.color.paper}; box-shadow: inset 0 8px 0 ${theme.color.tape};`}
  > svg { max-width: 9.5rem; }
  > strong { font-size: 1.1875rem; }
  ul a { display: inline-flex; align-items: center; min-height: 40px; }
`;
const Questions = styled.nav`
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--room);
  padding: 0 var(--room);
  background: ${({ theme }) => theme.color.paper};
  a { display: inline-flex; align-items: center; min-height: 48px; border-bottom: 4px solid transparent; }
  a[aria-current] { border-bottom-color: ${({ theme }) => theme.color.ink}; font-weight: 750; text-decoration: none; }
`;
const Stack = styled.div`display: grid; gap: var(--block); > * { min-width: 0; }`;
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
  gap: var(--hair) var(--yard);
  dt { font-size: ${({ theme }) => theme.size.note}; }
  dd { font: 700 1.375rem ${({ theme }) => theme.font.figure}; }
`;
const Worked = styled.p`font-family: ${({ theme }) => theme.font.figure}; overflow-wrap: anywhere;`;
