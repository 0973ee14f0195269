import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { Switch } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Quiet } from "../../components/Page";
import { requestInWords } from "../../components/requestInWords";
import { Found } from "./Found";
import type { Asked } from "./request";

type Way = Schemas["MatchesIn"]["way"];
const WAYS: [Way, string][] = [
  ["in-order", "The first comes first"],
  ["alike", "All alike"],
];
export const MOST_PACKS = 6;

interface SeveralProps {
  requests: Asked[];
  onChange: (requests: Asked[]) => void;
}

/** Several packs from one shelf, in their order or all alike; each is kept by itself. */
export function Several({ requests, onChange }: SeveralProps) {
  const [way, setWay] = useState<Way>("in-order");
  const match = useMutation({
    mutationFn: (body: Schemas["MatchesIn"]) => answer(() => api.POST("/api/matches/several", { body })),
  });
  const move = (from: number, by: number) => {
    const next = [...requests];
    const [one] = next.splice(from, 1);
    if (one) next.splice(from + by, 0, one);
    onChange(next);
  };
  if (requests.length === 0)
    return (
      <Quiet>
        <h2>Which packs tonight?</h2>
        <p>Set S, P and what has to hold on the left, and add it. Then the next one.</p>
      </Quiet>
    );
  return (
    <Stack>
      <List>
        {requests.map((request, index) => (
          <li key={index}>
            <strong>{index + 1}</strong>
            <span>{requestInWords(request)}</span>
            <span>
              <Button kind="quiet" isDisabled={index === 0} onPress={() => move(index, -1)}>
                Earlier
              </Button>
              <Button kind="quiet" onPress={() => onChange(requests.filter((_, place) => place !== index))}>
                Remove
              </Button>
            </span>
          </li>
        ))}
      </List>
      <Switch label="How the shelf is shared" value={way} onChange={setWay} options={WAYS} />
      <p>
        {way === "in-order"
          ? "Each takes the best of what those before it left."
          : "Each comes as near as the others to what it would be alone."}
      </p>
      <div>
        <Button kind="main" isDisabled={match.isPending} onPress={() => match.mutate({ requests, way })}>
          Match {requests.length === 1 ? "it" : `all ${requests.length}`}
        </Button>
      </div>
      <ProblemNotice problem={match.error} />
      {match.data?.packs.map((found, index) => {
        const request = match.variables?.requests[index];
        if (!request) return null;
        return (
          <One key={`${match.submittedAt} ${index}`} aria-label={`Pack ${index + 1}`}>
            <h2>
              {index + 1}. {requestInWords(request)}
            </h2>
            {found.proposal ? (
              <Kept proposal={found.proposal} request={request} onAgain={() => match.mutate({ requests, way })} />
            ) : (
              <Notice kind="error">{found.problem}</Notice>
            )}
          </One>
        );
      })}
    </Stack>
  );
}

/** One of several: once it is kept only its number is left of it, and the others stay. */
function Kept(props: { proposal: Schemas["ProposalOut"]; request: Asked; onAgain: () => void }) {
  const [pack, setPack] = useState<Schemas["PackOut"] | null>(null);
  if (pack)
    return (
      <Notice kind="kept">
        Kept as <a href={`/packs/${pack.number}`}>{pack.number}</a>, {pack.purpose}.
      </Notice>
    );
  return <Found {...props} onKept={setPack} isOneOfSeveral />;
}

const Stack = styled.div`display: grid; gap: var(--block);`;
const List = styled.ol`
  display: grid;
  gap: var(--hair);
  padding: var(--apart) var(--sheet);
  background: ${({ theme }) => theme.color.paper};
  li { display: flex; flex-wrap: wrap; align-items: center; gap: var(--hair) var(--block); }
  strong { font: 800 1.5rem ${({ theme }) => theme.font.figure}; }
  li > :last-child { margin-left: auto; }
`;
const One = styled.section`
  display: grid;
  gap: var(--apart);
  padding-top: var(--block);
  border-top: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
`;
