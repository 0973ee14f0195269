import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { answer, api, type Schemas } from "../../api/client";
import { useWishes } from "../../api/queries";
import { Button } from "../../components/Button";
import { Switch } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Page, Quiet, Sheet } from "../../components/Page";
import { Designs } from "./Designs";
import { Found } from "./Found";
import { NeedForm } from "./NeedForm";
import { partsOf } from "./partsOfNeed";
import { Refused } from "./Refused";
import { RequestForm } from "./RequestForm";
import { type Asked, asked, inForm, type Request, USUAL } from "./request";
import { MOST_PACKS, Several } from "./Several";

type From = "shape" | "need" | "several";
const FROM: [From, string][] = [
  ["shape", "S and P"],
  ["need", "What it is for"],
  ["several", "Several packs"],
];

/** Groups as even as the shelf allows, with the proof of it; kept as a pack, the cells are reserved. */
export default function MatchPage() {
  const [from, setFrom] = useState<From>("shape");
  const [request, setRequest] = useState<Request>(USUAL);
  const [several, setSeveral] = useState<Asked[]>([]);
  const match = useMutation({ mutationFn: (body: Asked) => answer(() => api.POST("/api/matches", { body })) });
  const look = useMutation({
    mutationFn: (body: Schemas["NeedIn"]) => answer(() => api.POST("/api/designs", { body })),
    onSuccess: () => match.reset(),
  });
  const wish = useWishFromAddress();
  const startMatch = match.mutate;
  useEffect(() => {
    if (!wish) return;
    setRequest(inForm(wish.request));
    startMatch(wish.request);
  }, [wish, startMatch]);
  const result = useRef<HTMLDivElement>(null);
  const found = match.data ?? match.error ?? look.data;
  useEffect(() => {
    // The answer stands below what was asked.
    const top = result.current?.getBoundingClientRect().top ?? 0;
    if (found && top > window.innerHeight / 2) result.current?.scrollIntoView();
  }, [found]);
  const ask = (wanted: Request) => {
    setRequest(wanted);
    startMatch(asked(wanted));
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
            <Switch label="Start from" value={from} onChange={setFrom} options={FROM} />
          </Start>
          {from === "need" ? (
            <NeedForm onLook={look.mutate} isLooking={look.isPending} problem={look.error} />
          ) : (
            <RequestForm
              request={request}
              onChange={setRequest}
              isMatching={match.isPending}
              {...(from === "several"
                ? {
                    verb: "Add",
                    isFull: several.length >= MOST_PACKS,
                    onMatch: () => setSeveral((before) => [...before, asked(request)]),
                  }
                : { verb: "Match", onMatch: () => ask(request) })}
            />
          )}
        </Sheet>
        <Result ref={result}>
          {from === "several" ? (
            <Several requests={several} onChange={setSeveral} />
          ) : match.error ? (
            <Refused problem={match.error} request={request} onRelax={ask} />
          ) : match.data && match.variables ? (
            <>
              {wish && <Notice kind="kept">The wish “{wish.purpose}” can be met now.</Notice>}
              <Found
                key={match.submittedAt}
                proposal={match.data}
                request={match.variables}
                purpose={wish?.purpose}
                wishId={wish?.id}
                parts={from === "need" && look.variables ? partsOf(look.variables) : []}
                onAgain={() => match.variables && startMatch(match.variables)}
                onStrongest={() => ask({ ...request, target: "" })}
              />
              {several.length < MOST_PACKS && (
                <p>
                  <Button
                    kind="quiet"
                    onPress={() => {
                      setSeveral((before) => [...before, asked(request)]);
                      setFrom("several");
                    }}
                  >
                    Another pack from the same shelf
                  </Button>
                </p>
              )}
            </>
          ) : from === "need" ? (
            <Answered
              look={look.data}
              onChoose={({ series, parallel, family, size_code, cell_a, enough_mah }) =>
                ask({
                  ...request,
                  series,
                  parallel,
                  family,
                  size: size_code,
                  load: (cell_a * parallel).toFixed(2),
                  target: String(Math.ceil(enough_mah)),
                })
              }
            />
          ) : (
            <p>
              Pull the pack by its edges: volts come from the groups in series, hours from the cells side by side.
              Nothing is reserved until you keep it.
            </p>
          )}
        </Result>
      </Columns>
    </Page>
  );
}

/** The wish that the address names, once it is known. */
function useWishFromAddress(): Schemas["WishOut"] | null {
  const [address] = useSearchParams();
  const id = Number(address.get("wish"));
  const wishes = useWishes(id > 0);
  const found = useRef<Schemas["WishOut"] | null>(null);
  // Looked up once: the list is fetched again now and then, and what stands in the form is the builder's by then.
  found.current ??= wishes.data?.wishes.find((each) => each.id === id) ?? null;
  return found.current;
}

interface AnsweredProps {
  look: Schemas["DesignsOut"] | undefined;
  onChoose: (design: Schemas["DesignOut"]) => void;
}

function Answered({ look, onChoose }: AnsweredProps) {
  if (look) return <Designs found={look} onChoose={onChoose} />;
  return (
    <Quiet>
      <h2>What is it for?</h2>
      <p>Say what the device runs on, what it takes and for how long. Packs that would do come from what lies free.</p>
    </Quiet>
  );
}

const Columns = styled.div`display: grid; grid-template-columns: minmax(0, 1fr); gap: var(--sheet);`;
const Start = styled.div`margin-bottom: var(--block);`;
const Result = styled.div`display: grid; gap: var(--block); min-width: 0;`;
