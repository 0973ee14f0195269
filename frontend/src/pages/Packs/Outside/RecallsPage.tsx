import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas, utcOffsetMin } from "../../../api/client";
import { RECALL_ABOUTS } from "../../../api/codes";
import { recallsQuery, useSession } from "../../../api/queries";
import { useWrite } from "../../../api/writing";
import { RoomyForm, useTyped } from "../../../components/AskForm";
import { Field, LinesField } from "../../../components/Fields";
import { Notice } from "../../../components/Notice";
import { Page, Sheet, TwoColumns } from "../../../components/Page";
import { Pick } from "../../../components/Pick";
import { Tape } from "../../../components/Tape";
import { day, PACK_WORDS, RECALL_ABOUT_WORDS } from "../../../words";

type About = Schemas["UsedIn"]["about"];
const DAYS: readonly About[] = ["made-on", "opened-on"];

/** Which packs have such cells or parts; a coordinator calls them back, and each stays on the first page until it is settled. */
export default function RecallsPage() {
  const session = useSession();
  const recalls = useQuery(recallsQuery);
  const [about, setAbout] = useState<About>("donor");
  const { values, field } = useTyped({ text: "", since: "", until: "", why: "", tell: USUAL_TELL });
  const asked: Schemas["UsedIn"] = {
    about,
    text: DAYS.includes(about) ? "" : values.text,
    since: DAYS.includes(about) && values.since ? values.since : null,
    until: DAYS.includes(about) && values.until ? values.until : null,
    utc_offset_min: utcOffsetMin(values.since),
  };
  const used = useMutation({ mutationFn: () => answer(() => api.POST("/api/used", { body: asked })) });
  const call = useWrite((body: Schemas["CallBackIn"], key) =>
    answer(() => api.POST("/api/recalls", { headers: once(key), body })),
  );
  return (
    <Page
      title="Where used, and recalls"
      lead="A cell, a model or a part turned out bad: which packs have it, and who is told."
    >
      <TwoColumns>
        <Sheet>
          <Stack>
            <RoomyForm problem={used.error} isSending={used.isPending} send="Look" onSend={() => used.mutate()}>
              <Pick
                label="By what"
                value={about}
                onChange={(next) => setAbout(next as About)}
                options={RECALL_ABOUTS.map((each) => [each, RECALL_ABOUT_WORDS[each]] as const)}
              />
              {DAYS.includes(about) ? (
                <Two>
                  <Field label="From (2026-11-30)" {...field("since")} maxLength={10} />
                  <Field label="Until, if later" {...field("until")} maxLength={10} />
                </Two>
              ) : (
                <Field label="What to look for" {...field("text")} maxLength={100} />
              )}
            </RoomyForm>
            {used.data && (
              <section aria-label="Packs found">
                <h2>
                  {used.data.packs.length === 0
                    ? "No pack falls under this."
                    : `${used.data.packs.length} ${used.data.packs.length === 1 ? "pack" : "packs"}`}
                </h2>
                <List>
                  {used.data.packs.map((pack) => (
                    <li key={pack.number}>
                      <Tape to={`/packs/${pack.number}`}>{pack.number}</Tape>
                      <span>
                        <strong>{pack.purpose}</strong>, {PACK_WORDS[pack.state].toLowerCase()}
                        {pack.state === "given-out" && `, ${pack.given_to ?? "nobody wrote down with whom"}`}
                        <small>Cells {pack.cells.join(", ")}</small>
                      </span>
                    </li>
                  ))}
                </List>
                {used.data.packs.length > 0 &&
                  (session.data?.person?.role === "coordinator" ? (
                    <RoomyForm
                      problem={call.error}
                      isSending={call.isPending}
                      kind="danger"
                      send="Call them back"
                      waitsFor={values.why.trim().length < 3 ? "First what is wrong." : null}
                      onSend={() => call.mutate({ ...asked, why: values.why, tell: values.tell })}
                    >
                      <LinesField label="What is wrong" {...field("why")} maxLength={500} />
                      <LinesField label="What to tell whoever has one" {...field("tell")} maxLength={500} />
                    </RoomyForm>
                  ) : (
                    <p>A coordinator may call them back.</p>
                  ))}
                {call.data && <Notice kind="kept">They stand on the first page until each is settled.</Notice>}
              </section>
            )}
          </Stack>
        </Sheet>
        <Sheet>
          <h2>Recalls</h2>
          {recalls.data?.recalls.length === 0 && <p>None so far.</p>}
          <List>
            {recalls.data?.recalls.map((recall) => (
              <li key={recall.id}>
                <span>
                  <strong>{recall.why}</strong> {day(recall.at)}, {recall.by}
                  {recall.packs.map((pack) => (
                    <small key={pack.id}>
                      <Tape to={`/packs/${pack.number}`}>{pack.number}</Tape> {pack.purpose}:{" "}
                      {pack.settled_at ? `settled ${day(pack.settled_at)}, “${pack.settled_how}”` : "open"}
                    </small>
                  ))}
                </span>
              </li>
            ))}
          </List>
        </Sheet>
      </TwoColumns>
    </Page>
  );
}

const USUAL_TELL = "Do not use or charge it. Bring it back by hand; you get another one.";
const Stack = styled.div`display: grid; gap: var(--sheet);`;
const Two = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: var(--apart); width: 100%;`;
const List = styled.ul`
  display: grid;
  gap: var(--near);
  margin: var(--near) 0;
  li { display: flex; gap: var(--apart); align-items: center; }
  small { display: block; font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
