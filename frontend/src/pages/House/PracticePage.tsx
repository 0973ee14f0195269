import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Grade } from "../../api/client";
import { Button } from "../../components/Button";
import { GradeMark } from "../../components/GradeMark";
import { ProblemNotice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Scale } from "../../components/Scale";
import { GRADE_MEANING, GRADE_WORDS, STEP_WORDS, SURE_WORDS } from "../../words";

const CHOICES: readonly Grade[] = ["A", "B", "C", "out", "not-yet"];
const another = () => Math.floor(Math.random() * 2_000_000_000);

/** A newcomer judges made-up cells, and sees what the judge says and why. */
export default function PracticePage() {
  const [seed, setSeed] = useState(another);
  const [score, setScore] = useState({ right: 0, all: 0 });
  const cell = useQuery({
    queryKey: ["practice", seed],
    queryFn: () => answer(() => api.GET("/api/practice/{seed}", { params: { path: { seed } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const judged = useMutation({
    mutationFn: (grade: Grade) =>
      answer(() => api.POST("/api/practice/{seed}", { params: { path: { seed } }, body: { grade } })),
    onSuccess: (found) =>
      setScore((before) => ({ right: before.right + (found.is_right ? 1 : 0), all: before.all + 1 })),
  });
  if (!cell.data) return <Waiting query={cell} what="a cell" />;
  return (
    <Page
      title="Judge one yourself"
      lead="Made-up cells, judged by the rules of this house. Nothing of it is kept."
      actions={
        score.all > 0 && (
          <Score>
            {score.right} of {score.all} as the judge
          </Score>
        )
      }
    >
      <TwoColumns>
        <Sheet>
          <h2>What is known of it</h2>
          <Told>
            {cell.data.told.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </Told>
        </Sheet>
        <Sheet>
          {judged.data ? (
            <>
              <Verdict role="status">{judged.data.text}</Verdict>
              <Head>
                <GradeMark grade={judged.data.grade} size="large" /> {judged.data.sure && SURE_WORDS[judged.data.sure]}
              </Head>
              <ul>
                {judged.data.reasons.map((reason) => (
                  <li key={reason.code}>
                    {reason.text}
                    <Scale reason={reason} />
                  </li>
                ))}
              </ul>
              <p>
                <strong>{STEP_WORDS[judged.data.step]}.</strong> {judged.data.step_text}
              </p>
              <Button
                kind="main"
                autoFocus
                onPress={() => {
                  judged.reset();
                  setSeed(another());
                }}
              >
                Another one
              </Button>
            </>
          ) : (
            <>
              <h2>What is it?</h2>
              <Choices>
                {CHOICES.map((grade) => (
                  <Button key={grade} isDisabled={judged.isPending} onPress={() => judged.mutate(grade)}>
                    {`${GRADE_WORDS[grade]}: ${GRADE_MEANING[grade]}`}
                  </Button>
                ))}
              </Choices>
              <ProblemNotice problem={judged.error} />
            </>
          )}
        </Sheet>
      </TwoColumns>
    </Page>
  );
}

const Score = styled.strong`font: 700 1.25rem ${({ theme }) => theme.font.figure};`;
const Told = styled.ul`font-size: ${({ theme }) => theme.size.lead}; li { padding: var(--slit) 0; border-top: 1px solid ${({ theme }) => theme.color.paperLine}; } li:first-child { border-top: 0; }`;
const Verdict = styled.p`font-size: ${({ theme }) => theme.size.title}; font-weight: 800;`;
const Head = styled.div`display: flex; align-items: baseline; gap: var(--apart); margin: var(--near) 0;`;
const Choices = styled.div`display: grid; gap: var(--gap); margin-top: var(--apart);`;
