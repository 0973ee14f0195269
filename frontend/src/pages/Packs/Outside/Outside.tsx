import { useQuery, useQueryClient } from "@tanstack/react-query";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../../api/client";
import { drawPack, outsideQuery, packQuery } from "../../../api/queries";
import { useWrite } from "../../../api/writing";
import { RoomyForm, useTyped } from "../../../components/AskForm";
import { Button } from "../../../components/Button";
import { Field, LinesField } from "../../../components/Fields";
import { Fold } from "../../../components/Fold";
import { Notice, ProblemNotice } from "../../../components/Notice";
import { Sheet } from "../../../components/Page";
import { day, figure, RETURN_DECISION_WORDS, SEEN_WORDS } from "../../../words";
import { CameBack } from "./CameBack";

type Told = Schemas["OutsideOut"];

/** A pack outside: who has it, what is told of it, what it is called back for, its page, and what is wrong when it is back. */
export function Outside({ pack }: { pack: Pack }) {
  const told = useQuery(outsideQuery(pack.number));
  const queryClient = useQueryClient();
  const onTold = (now: Told) => {
    queryClient.setQueryData(outsideQuery(pack.number).queryKey, now);
    void queryClient.invalidateQueries({ queryKey: packQuery(pack.number).queryKey });
  };
  if (!told.data) return null;
  const { reports, recalls } = told.data;
  return (
    <>
      {recalls.map((recall) => (
        <Notice kind="error" key={recall.id}>
          <p>
            <strong>It is called back: {recall.why}</strong>
          </p>
          <p>{recall.tell}</p>
        </Notice>
      ))}
      {pack.state === "back" && !pack.stopped_why && <CameBack pack={pack} told={told.data} onTold={onTold} />}
      {(pack.state !== "built" || told.data.page) && (
        <Sheet>
          <Stack>
            <h2>Out there</h2>
            {pack.state !== "built" && <Holder pack={pack} />}
            {reports.length > 0 && (
              <ol>
                {reports.map((report) => (
                  <li key={report.at}>
                    <strong>{day(report.at)}</strong>, {report.by}:{" "}
                    {[
                      report.words && `“${report.words}”`,
                      report.hours !== null &&
                        `ran ${figure(report.hours, 1)} h${report.worked_out_h ? ` of ${figure(report.worked_out_h, 1)} h worked out` : ""}`,
                      report.weeks !== null && `after ${figure(report.weeks)} weeks`,
                      report.seen.map((each) => SEEN_WORDS[each]).join(", "),
                      report.group_volts.length > 0 &&
                        `groups ${report.group_volts.map((volts) => figure(volts, 2)).join(", ")} V`,
                      report.decision && RETURN_DECISION_WORDS[report.decision],
                    ]
                      .filter(Boolean)
                      .join("; ")}
                  </li>
                ))}
              </ol>
            )}
            {pack.state !== "built" && <Report pack={pack} onTold={onTold} />}
          </Stack>
        </Sheet>
      )}
      <PublicAddress pack={pack} page={told.data.page} onTold={onTold} />
    </>
  );
}

function Holder({ pack }: { pack: Pack }) {
  const forget = useWrite(
    (_: null, key) =>
      answer(() =>
        api.DELETE("/api/packs/{number}/holder", { params: { path: { number: pack.number } }, headers: once(key) }),
      ),
    drawPack,
  );
  return (
    <>
      {pack.job && (
        <p>
          It does there: <strong>{pack.job}</strong>
        </p>
      )}
      {pack.given_to && (
        <p>
          {pack.state === "given-out" ? "It is with" : "It was with"} <strong>{pack.given_to}</strong>.{" "}
          <Button kind="quiet" isDisabled={forget.isPending} onPress={() => forget.mutate(null)}>
            Forget who has it
          </Button>{" "}
          <a href={`/api/packs/${pack.number}/holder.json`}>What is kept about them</a>
        </p>
      )}
      <ProblemNotice problem={forget.error} />
    </>
  );
}

/** What somebody tells of a pack, beside what was worked out for it. */
function Report({ pack, onTold }: { pack: Pack; onTold: (told: Told) => void }) {
  const { values, field, clear } = useTyped({ words: "", hours: "", weeks: "" });
  const report = useWrite(
    (body: Schemas["ReportIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/reports", {
          params: { path: { number: pack.number } },
          headers: once(key),
          body,
        }),
      ),
    (now) => {
      clear();
      onTold(now);
    },
  );
  return (
    <Fold title="Somebody tells how it does">
      <RoomyForm
        problem={report.error}
        isSending={report.isPending}
        kind="plain"
        send="Write it down"
        waitsFor={values.words.trim() || values.hours.trim() ? null : "A few words, or the hours it ran."}
        onSend={() => report.mutate(values)}
      >
        <LinesField label="In their words" {...field("words")} maxLength={500} />
        <Two>
          <Field label="It ran for" unit="h" numeric {...field("hours")} maxLength={12} />
          <Field label="After" unit="weeks" numeric {...field("weeks")} maxLength={12} />
        </Two>
      </RoomyForm>
    </Fold>
  );
}

function PublicAddress({ pack, page, onTold }: { pack: Pack; page: string | null; onTold: (told: Told) => void }) {
  const params = { path: { number: pack.number } };
  const open = useWrite(
    (_: null, key) => answer(() => api.POST("/api/packs/{number}/page", { params, headers: once(key) })),
    onTold,
  );
  const withdraw = useWrite(
    (_: null, key) => answer(() => api.DELETE("/api/packs/{number}/page", { params, headers: once(key) })),
    onTold,
  );
  if (pack.stopped_why && !page) return null;
  return (
    <Fold
      key={page ?? "none"}
      title={page ? "Its page, read without signing in" : "A page for whoever has it"}
      isOpen={page !== null}
    >
      <Stack>
        {page ? (
          <>
            <p>
              <a href={page} target="_blank" rel="noreferrer">
                {page}
              </a>
            </p>
            <p>Its code stands on the visitor's card. No person is named there; recalls are.</p>
            <Button kind="plain" isDisabled={withdraw.isPending} onPress={() => withdraw.mutate(null)}>
              Take the page back
            </Button>
          </>
        ) : (
          <>
            <p>
              What the card says, its story in short, and recalls, at an address that nobody guesses. It shows what the
              pack is for: no name should stand in that.
            </p>
            <Button kind="plain" isDisabled={open.isPending} onPress={() => open.mutate(null)}>
              Open its page
            </Button>
          </>
        )}
        <ProblemNotice problem={open.error ?? withdraw.error} />
      </Stack>
    </Fold>
  );
}

const Stack = styled.div`display: grid; gap: var(--near); justify-items: start; ol { display: grid; gap: var(--hair); padding-left: var(--room); list-style: decimal; }`;
const Two = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr)); gap: var(--apart); width: 100%;`;
