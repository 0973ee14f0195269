import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "react-router";
import styled from "styled-components";
import type { Pack } from "../../../api/client";
import { packQuery, stepsQuery } from "../../../api/queries";
import { ButtonLink } from "../../../components/Button";
import { Fold } from "../../../components/Fold";
import { Notice } from "../../../components/Notice";
import { Page, Waiting } from "../../../components/Page";
import { CurrentStep } from "./CurrentStep";
import { StepList } from "./StepList";
import { Swap } from "./Swap";
import type { Stage, Work } from "./steps";
import { Trouble } from "./Trouble";

const WORDS = {
  build: {
    title: "Build it step by step",
    done: "Every step is done. Say on the pack's page that it is built, then prove it.",
  },
  prove: { title: "Prove it", done: "It is proved. It may be given out." },
} as const;

export const BuildPage = () => <StepsPage stage="build" />;
export const ProvePage = () => <StepsPage stage="prove" />;

/** One step at a time, large enough for a phone beside the iron; whoever goes on, goes on from here. */
function StepsPage({ stage }: { stage: Stage }) {
  const { number = "" } = useParams();
  const pack = useQuery(packQuery(number));
  const work = useQuery({ ...stepsQuery(number, stage), refetchInterval: 15_000 });
  const queryClient = useQueryClient();
  const words = WORDS[stage];
  const onWork = (now: Work) => {
    queryClient.setQueryData(stepsQuery(number, stage).queryKey, now);
    void queryClient.invalidateQueries({ queryKey: packQuery(number).queryKey });
  };
  return (
    <Page
      title={words.title}
      lead={pack.data && `Pack ${number}, ${pack.data.purpose}, ${pack.data.series}S${pack.data.parallel}P`}
      actions={
        <>
          {stage === "build" && (
            <a href={`/api/packs/${number}/build-sheet.pdf`} target="_blank" rel="noreferrer">
              The same on paper (PDF)
            </a>
          )}
          <ButtonLink to={`/packs/${number}`} $kind="plain">
            Back to the pack
          </ButtonLink>
        </>
      }
    >
      {pack.data && work.data ? (
        <Steps pack={pack.data} work={work.data} stage={stage} onWork={onWork} done={words.done} />
      ) : (
        <Waiting query={pack.data ? work : pack} what="the steps" />
      )}
    </Page>
  );
}

function Steps({
  pack,
  work,
  stage,
  onWork,
  done,
}: {
  pack: Pack;
  work: Work;
  stage: Stage;
  onWork: (work: Work) => void;
  done: string;
}) {
  const current = work.steps.find((step) => step.key === work.next_key);
  const stands = stage === "build" ? ["planned"] : ["built", "back"];
  return (
    <Columns>
      <Stack>
        {work.refused.length > 0 ? (
          <Notice kind="ask">
            <p>
              <strong>Nothing is joined yet.</strong>
            </p>
            {work.refused.map((refusal) => (
              <p key={refusal.code}>
                {refusal.text} <strong>{refusal.to_do}</strong>
              </p>
            ))}
          </Notice>
        ) : !stands.includes(pack.state) ? (
          <Notice kind="ask">This pack does not stand where that is done; its page says where it is.</Notice>
        ) : current ? (
          <CurrentStep
            key={current.key + (current.act?.at ?? "")}
            pack={pack}
            step={current}
            stage={stage}
            onWork={onWork}
          />
        ) : (
          <Notice kind="kept">
            <p>{done}</p>
            <ButtonLink to={`/packs/${pack.number}`} $kind="main">
              To the pack
            </ButtonLink>
          </Notice>
        )}
        {stage === "build" && work.refused.length === 0 && pack.state === "planned" && (
          <Swap pack={pack} onWork={onWork} />
        )}
        {stage === "prove" && (
          <Fold title="Nothing comes out of it">
            <Trouble />
          </Fold>
        )}
      </Stack>
      <StepList pack={pack} work={work} stage={stage} onWork={onWork} />
    </Columns>
  );
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(16rem, 1fr);
  gap: var(--sheet);
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Stack = styled.div`display: grid; gap: var(--apart); min-width: 0;`;
