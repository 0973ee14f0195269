import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Pack, Problem, type Schemas } from "../../../api/client";
import { checksQuery, layoutQuery, packQuery } from "../../../api/queries";
import { useToldOfOthers, useWrite } from "../../../api/writing";
import { Button, ButtonLink } from "../../../components/Button";
import { Tick } from "../../../components/Fields";
import { FileButton } from "../../../components/FileButton";
import { Notice, ProblemNotice } from "../../../components/Notice";
import { Page, Sheet, Waiting } from "../../../components/Page";
import { figure } from "../../../words";
import { CheckMark } from "../Plan/CheckMark";
import { CaseForm } from "./CaseForm";
import { Faces } from "./Faces";
import { type Body, type LaidOut, type Layout, sentOf } from "./layout";
import { Thumbnail } from "./Thumbnail";

/** Where each cell of a pack stands: proposed, moved by hand, checked while it is moved, kept and printed. */
export default function LayoutPage() {
  const { number = "" } = useParams();
  const pack = useQuery(packQuery(number));
  const kept = useQuery(layoutQuery(number));
  if (!pack.data || !kept.data)
    return (
      <Page title={`Layout of ${number}`}>
        <Waiting query={pack.data ? kept : pack} what="the layout" />
      </Page>
    );
  const back = (
    <ButtonLink to={`/packs/${number}`} $kind="plain">
      Back to the pack
    </ButtonLink>
  );
  return (
    <Page
      title="Where each cell stands"
      lead={`Pack ${number}, ${pack.data.purpose}, ${pack.data.series}S${pack.data.parallel}P`}
      wide
      actions={back}
    >
      {kept.data.body ? (
        <Drawing pack={pack.data} body={kept.data.body} kept={kept.data.laid_out} version={kept.data.version} />
      ) : (
        <Notice kind="ask">{kept.data.why_not}</Notice>
      )}
    </Page>
  );
}

type DrawingProps = { pack: Pack; body: Body; kept: LaidOut | null; version: number };

function Drawing({ pack, body, kept, version }: DrawingProps) {
  /** The pack as it was when the draft began: what somebody else kept meanwhile is not written over unseen. */
  const [seen, setSeen] = useState<number | null>(version);
  const [draft, setDraft] = useState<Layout | null>(kept?.layout ?? null);
  const [proposals, setProposals] = useState<Schemas["LayoutProposalOut"][] | null>(null);
  const queryClient = useQueryClient();
  const propose = useMutation({
    mutationFn: (asked: Schemas["LayoutProposalsIn"]) =>
      answer(() =>
        api.POST("/api/packs/{number}/layout/proposals", { params: { path: { number: pack.number } }, body: asked }),
      ),
    onSuccess: (found) => {
      setProposals(found.proposals);
      const first = found.proposals[0];
      if (first) setDraft(first.layout);
    },
  });
  const read = useMutation({
    mutationFn: (content: string) =>
      answer(() =>
        api.POST("/api/packs/{number}/layout/file", { params: { path: { number: pack.number } }, body: { content } }),
      ),
    onSuccess: setDraft,
  });
  const sent = draft ? sentOf(draft) : null;
  const checked = useQuery({
    queryKey: ["pack", pack.number, "layout-checks", pack.version, sent],
    queryFn: ({ signal }) =>
      answer(() =>
        api.POST("/api/packs/{number}/layout/checks", {
          params: { path: { number: pack.number } },
          body: sent as Schemas["LayoutIn"],
          signal,
        }),
      ),
    enabled: sent !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const keep = useWrite(
    (body: Schemas["KeepLayoutIn"], key) =>
      answer(() =>
        api.PUT("/api/packs/{number}/layout", {
          params: { path: { number: pack.number } },
          headers: once(key),
          body,
        }),
      ),
    (now) => {
      setSeen(now.version);
      queryClient.setQueryData(layoutQuery(pack.number).queryKey, now);
      void queryClient.invalidateQueries({ queryKey: packQuery(pack.number).queryKey });
      void queryClient.invalidateQueries({ queryKey: checksQuery(pack.number).queryKey });
    },
  );
  useToldOfOthers(keep.error, () => setSeen(null));
  const isKept = kept !== null && draft !== null && same(draft, kept.layout);
  // What the last layout was worked out as is not drawn over another one.
  const found = checked.data && draft && same(checked.data.layout, draft) ? checked.data : null;
  // Who comes for the first time sees what could be, without asking.
  const ask = useRef(kept === null ? propose.mutate : null);
  useEffect(() => {
    ask.current?.({ case: null });
    ask.current = null;
  }, []);
  const problem = checked.error instanceof Problem ? checked.error : null;
  return (
    <Columns>
      <Stack>
        {draft && (
          <Faces
            body={body}
            layout={draft}
            found={found}
            hasBoard={pack.parts.some((part) => part.kind === "board")}
            onChange={setDraft}
          />
        )}
        {draft && (
          <Sizes>
            <span>
              <strong>
                {body.thick_mm === null ? `Ø ${figure(body.across_mm, 1)} mm` : `${figure(body.thick_mm, 1)} mm thick`}
              </strong>
              , {figure(body.height_mm, 1)} mm high
            </span>
            {checked.data && (
              <>
                <span>
                  pitch <strong>{figure(checked.data.pitch_x_mm, 1)} mm</strong>
                </span>
                <span>
                  outline{" "}
                  <strong>
                    {figure(checked.data.length_mm, 1)} × {figure(checked.data.width_mm, 1)} mm
                  </strong>
                </span>
              </>
            )}
          </Sizes>
        )}
      </Stack>
      <Stack>
        <Sheet>
          <Stack>
            <h2 aria-live="polite">{problem ? "It could not be looked at." : verdict(found)}</h2>
            <Lines>
              {(checked.data ?? kept)?.lines.map((line) => (
                <li key={line.id} aria-label={line.name}>
                  <Named>
                    <CheckMark state={line.state} isWaived={false} /> <strong>{line.name}</strong>
                  </Named>
                  <p>{line.worked}</p>
                  {line.mend && (
                    <p>
                      <strong>{line.mend}</strong>
                    </p>
                  )}
                </li>
              ))}
            </Lines>
            {problem && <Notice kind="error">{problem.message}</Notice>}
            {draft && (
              <Tick isSelected={draft.has_spacers} onChange={(has_spacers) => setDraft({ ...draft, has_spacers })}>
                Fish paper or a spacer lies between groups, a ring under each plus
              </Tick>
            )}
            <ProblemNotice problem={keep.error} />
            <Row>
              <Button
                kind="main"
                isDisabled={!draft || isKept || keep.isPending}
                onPress={() => draft && keep.mutate({ layout: sentOf(draft), seen_version: seen ?? version })}
              >
                {isKept ? "This layout is kept" : "Keep this layout"}
              </Button>
              {kept && !isKept && (
                <Button kind="quiet" onPress={() => setDraft(kept.layout)}>
                  Back to the one that is kept
                </Button>
              )}
            </Row>
          </Stack>
        </Sheet>
        <Sheet>
          <Stack>
            <h2>Proposals</h2>
            <CaseForm
              layout={draft}
              isSending={propose.isPending}
              problem={propose.error}
              onAsk={(asked) => propose.mutate({ case: asked })}
            />
            {proposals?.length === 0 && (
              <Notice kind="ask">Nothing fits into this case in any arrangement. A larger case, or fewer cells.</Notice>
            )}
            <Choices>
              {(proposals ?? []).map((each) => (
                <li key={JSON.stringify(each.layout.places[0]) + each.length_mm + each.layout.arrangement}>
                  <Button kind="plain" onPress={() => setDraft(each.layout)}>
                    <Thumbnail layout={each.layout} body={body} />
                    <span>
                      {ARRANGED[each.layout.arrangement]}
                      <br />
                      {figure(each.length_mm, 0)} × {figure(each.width_mm, 0)} mm
                    </span>
                  </Button>
                </li>
              ))}
            </Choices>
          </Stack>
        </Sheet>
        <Sheet>
          <Stack>
            <h2>On paper and as files</h2>
            {isKept ? (
              <Files>
                <a href={`/api/packs/${pack.number}/layout.pdf`} target="_blank" rel="noreferrer">
                  Both faces, true size (PDF)
                </a>
                <a href={`/api/packs/${pack.number}/layout.dxf`}>Holder plate (DXF)</a>
                <a href={`/api/packs/${pack.number}/layout.svg`}>Holder plate (SVG)</a>
                <a href={`/api/packs/${pack.number}/layout.json`}>Layout (JSON)</a>
              </Files>
            ) : (
              <p>Keep the layout first; then it can be printed and cut.</p>
            )}
            <FileButton accept=".json" onFile={async (file) => read.mutate(await file.text())}>
              Read a layout from a file
            </FileButton>
            <ProblemNotice problem={read.error} />
          </Stack>
        </Sheet>
      </Stack>
    </Columns>
  );
}

function verdict(found: LaidOut | null) {
  if (!found) return "Working it out …";
  const stops = found.lines.filter((line) => line.state === "stop").length;
  return stops === 0 ? "It can be built like this." : `${stops} ${stops === 1 ? "line stops" : "lines stop"} it.`;
}

const same = (one: Layout, other: Layout) => JSON.stringify(sentOf(one)) === JSON.stringify(sentOf(other));
const ARRANGED: Record<Layout["arrangement"], string> = {
  rows: "In rows",
  honeycomb: "Honeycomb",
  holder: "In holders",
  stack: "In a stack",
};

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(19rem, 1fr);
  gap: var(--sheet);
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Stack = styled.div`display: grid; gap: var(--apart); min-width: 0;`;
const Sizes = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: var(--hair) var(--sheet);
  strong { font-family: ${({ theme }) => theme.font.figure}; }
`;
const Lines = styled.ul`
  display: grid;
  gap: var(--near);
  li { padding-bottom: var(--near); border-bottom: 1px solid ${({ theme }) => theme.color.paperLine}; }
`;
const Named = styled.div`display: flex; align-items: center; gap: var(--near);`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near) var(--apart);`;
const Choices = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(9rem, 1fr));
  gap: var(--near);
  button { display: grid; width: 100%; height: 100%; }
`;
const Files = styled.nav`display: grid; a { display: inline-flex; align-items: center; min-height: 44px; }`;
