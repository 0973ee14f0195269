import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api } from "../../../api/client";
import { Button } from "../../../components/Button";
import { Waiting } from "../../../components/Page";

const troubleQuery = {
  queryKey: ["trouble"],
  queryFn: () => answer(() => api.GET("/api/trouble")),
  staleTime: Number.POSITIVE_INFINITY,
};

/** Nothing comes out of it: one question at a time, each with a reading. */
export function Trouble() {
  const found = useQuery(troubleQuery);
  const [answers, setAnswers] = useState<number[]>([]);
  if (!found.data) return <Waiting query={found} what="the questions" />;
  const { forks } = found.data;
  const asked: { ask: string; answered: string }[] = [];
  let here = forks[0];
  let todo: string | null = null;
  for (const index of answers) {
    const way = here?.ways[index];
    if (!here || !way) break;
    asked.push({ ask: here.ask, answered: way.answer });
    todo = way.do;
    here = way.to ? forks.find((fork) => fork.key === way.to) : undefined;
  }
  return (
    <Box>
      <ol>
        {asked.map((each) => (
          <li key={each.ask}>
            {each.ask} <strong>{each.answered}.</strong>
          </li>
        ))}
      </ol>
      <div aria-live="polite">
        {here && <Ask>{here.ask}</Ask>}
        {todo && <Ask>{todo}</Ask>}
      </div>
      <Row>
        {here?.ways.map((way, index) => (
          <Button key={way.answer} onPress={() => setAnswers([...answers, index])}>
            {way.answer}
          </Button>
        ))}
        {answers.length > 0 && (
          <Button kind="quiet" onPress={() => setAnswers(answers.slice(0, -1))}>
            One back
          </Button>
        )}
      </Row>
    </Box>
  );
}

const Box = styled.div`display: grid; gap: var(--apart); ol { padding-left: var(--room); list-style: decimal; }`;
const Ask = styled.p`font-size: ${({ theme }) => theme.size.lead}; font-weight: 700;`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near) var(--apart);`;
