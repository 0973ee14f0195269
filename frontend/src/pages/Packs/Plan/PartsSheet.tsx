import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../../api/client";
import { drawPack, useCatalogue } from "../../../api/queries";
import { useToldOfOthers, useWrite } from "../../../api/writing";
import { Button } from "../../../components/Button";
import { ProblemNotice } from "../../../components/Notice";
import { Waiting } from "../../../components/Page";
import { PART_OF_PACK_WORDS } from "../../../words";
import { PartForm } from "./PartForm";
import { figuresSaid, type PartIn, type PartKind, sentBack } from "./parts";

const CHANGED_IN: readonly Pack["state"][] = ["planned", "built", "back"];
/** What every plan wants, in the order in which people know it. */
const WANTED: readonly PartKind[] = ["device", "promise", "charger", "board", "fuse", "cell-fuses"];

/** What the pack is built from and for, each part on a line; what is missing stands there too, to be put in. */
export function PartsSheet({ pack }: { pack: Pack }) {
  const catalogue = useCatalogue();
  const [editing, setEditing] = useState<{ kind: PartKind; at: number | null } | null>(null);
  const [isAdding, setAdding] = useState(false);
  const keep = useWrite(
    (body: Schemas["PartsIn"], key) =>
      answer(() =>
        api.PUT("/api/packs/{number}/parts", { params: { path: { number: pack.number } }, headers: once(key), body }),
      ),
    (kept) => {
      // What comes next is held against this version, however long the page takes to be fetched again.
      drawPack(kept);
      setEditing(null);
    },
  );
  // With theirs on the page, what was typed can be kept beside it.
  useToldOfOthers(keep.error);
  if (!catalogue.data) return <Waiting query={catalogue} what="the catalogue" />;
  const asked = new Map(catalogue.data.parts_asked.map((each) => [each.kind, each]));
  const mayChange = CHANGED_IN.includes(pack.state);
  const send = (parts: PartIn[]) => keep.mutate({ seen_version: pack.version, parts });
  const missing = WANTED.filter(
    (kind) => !pack.parts.some((part) => part.kind === kind) && (kind !== "cell-fuses" || pack.parallel > 1),
  );
  const others = catalogue.data.parts_asked.filter(
    ({ kind, several }) => !missing.includes(kind) && (several || !pack.parts.some((part) => part.kind === kind)),
  );
  const begin = (kind: PartKind, at: number | null) => {
    keep.reset();
    setAdding(false);
    setEditing({ kind, at });
  };
  const formOf = (kind: PartKind, at: number | null) => {
    const what = asked.get(kind);
    if (!what || editing?.kind !== kind || editing.at !== at) return null;
    const before = sentBack(pack);
    return (
      <PartForm
        catalogue={catalogue.data}
        asked={what}
        part={at === null ? null : (before[at] ?? null)}
        send={at === null ? "Put it in" : "Keep it"}
        isSending={keep.isPending}
        problem={keep.error}
        onKeep={(part) =>
          send(at === null ? [...before, part] : before.map((each, index) => (index === at ? part : each)))
        }
        onLeave={() => setEditing(null)}
      />
    );
  };
  return (
    <section aria-label="What it is built from">
      <h2>What it is for, and built from</h2>
      {editing === null && <ProblemNotice problem={keep.error} />}
      <Lines>
        {pack.parts.map((part, index) => {
          const what = asked.get(part.kind);
          const word = PART_OF_PACK_WORDS[part.kind];
          const form = formOf(part.kind, index);
          return (
            <Line key={`${part.kind}-${index}`}>
              <Kind>{word}</Kind>
              {form ?? (
                <>
                  <span>
                    {part.name && <strong>{part.name}. </strong>}
                    <Small>{what && figuresSaid(what, part.figures)}</Small>
                  </span>
                  {mayChange && (
                    <Actions>
                      <Button kind="quiet" aria-label={`Change: ${word}`} onPress={() => begin(part.kind, index)}>
                        Change
                      </Button>
                      <Button
                        kind="quiet"
                        aria-label={`Take out: ${word}`}
                        isDisabled={keep.isPending}
                        onPress={() => send(sentBack(pack).filter((_, at) => at !== index))}
                      >
                        Take out
                      </Button>
                    </Actions>
                  )}
                </>
              )}
            </Line>
          );
        })}
        {mayChange &&
          missing.map((kind) => (
            <Line key={kind} $missing>
              <Kind>{PART_OF_PACK_WORDS[kind]}</Kind>
              {formOf(kind, null) ?? (
                <>
                  <Small>Nobody said.</Small>
                  <Button aria-label={`Say it: ${PART_OF_PACK_WORDS[kind]}`} onPress={() => begin(kind, null)}>
                    Say it
                  </Button>
                </>
              )}
            </Line>
          ))}
        {editing?.at === null && !missing.includes(editing.kind) && (
          <Line>
            <Kind>{PART_OF_PACK_WORDS[editing.kind]}</Kind>
            {formOf(editing.kind, null)}
          </Line>
        )}
      </Lines>
      {mayChange &&
        (isAdding ? (
          <Choices>
            {others.map(({ kind, name }) => (
              <Button key={kind} onPress={() => begin(kind, null)}>
                {name}
              </Button>
            ))}
            <Button kind="quiet" onPress={() => setAdding(false)}>
              Leave it
            </Button>
          </Choices>
        ) : (
          <Button kind="quiet" onPress={() => setAdding(true)}>
            Another part
          </Button>
        ))}
    </section>
  );
}

const Lines = styled.ul`display: grid;`;
const Line = styled.li<{ $missing?: boolean }>`
  display: grid;
  grid-template-columns: 11rem minmax(0, 1fr) auto;
  gap: var(--hair) var(--block);
  align-items: center;
  min-height: 52px;
  padding: var(--slit) 0;
  border-top: 1px ${({ $missing }) => ($missing ? "dashed" : "solid")} ${({ theme, $missing }) => ($missing ? theme.color.inkSoft : theme.color.paperLine)};
  > div:nth-child(2) { grid-column: 2 / -1; }
  ${({ theme }) => theme.narrow} {
    grid-template-columns: minmax(0, 1fr);
    > * { justify-self: start; }
    > div:nth-child(2) { grid-column: 1; justify-self: stretch; }
  }
`;
const Kind = styled.strong`align-self: start; padding: var(--gap) 0; &::first-letter { text-transform: uppercase; }`;
const Small = styled.span`color: ${({ theme }) => theme.color.inkSoft};`;
const Actions = styled.span`display: flex; flex-wrap: wrap; justify-content: end;`;
const Choices = styled.div`display: flex; flex-wrap: wrap; gap: var(--near); padding-top: var(--near);`;
