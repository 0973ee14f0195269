import { Link } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../../api/client";
import { drawPack, useSession } from "../../../api/queries";
import { useWrite } from "../../../api/writing";
import { AskForm, useTyped } from "../../../components/AskForm";
import { Field } from "../../../components/Fields";
import { Fold } from "../../../components/Fold";
import { day, figure, LIMIT_KIND_WORDS } from "../../../words";
import { CheckMark } from "./CheckMark";

type Line = Schemas["CheckOut"];
type Checks = Schemas["ChecksOut"];

export const isOpenStop = (line: Line) => line.state === "stop" && line.waiver === null;

/** The lines of a plan: what stops it and what wants a look first, what holds folded away. */
export function CheckList({ pack, checks }: { pack: Pack; checks: Checks }) {
  const open = checks.lines.filter((line) => line.state !== "holds");
  const holding = checks.lines.filter((line) => line.state === "holds");
  const stops = open.filter(isOpenStop).length;
  return (
    <section aria-label="Checks" id="checks">
      <Head>
        {stops === 0
          ? open.length === 0
            ? "All checks hold."
            : "Nothing stops it."
          : `${stops} ${stops === 1 ? "check stops" : "checks stop"} it.`}
      </Head>
      <Lines>
        {open.map((line) => (
          <CheckLine key={line.id} pack={pack} line={line} />
        ))}
      </Lines>
      {holding.length > 0 && (
        <Fold
          title={`${holding.length} ${holding.length === 1 ? "line holds" : "lines hold"}`}
          isOpen={open.length === 0}
        >
          <Lines>
            {holding.map((line) => (
              <CheckLine key={line.id} pack={pack} line={line} />
            ))}
          </Lines>
        </Fold>
      )}
      {checks.lapsed.length > 0 && (
        <Fold title={`${checks.lapsed.length} earlier waivers hold no more`}>
          {checks.lapsed.map((waiver) => (
            <p key={waiver.at}>
              {waiver.name}: “{waiver.finding}” was let pass by {waiver.by}, {day(waiver.at)}: “{waiver.why}”
            </p>
          ))}
        </Fold>
      )}
    </section>
  );
}

function CheckLine({ pack, line }: { pack: Pack; line: Line }) {
  const waived = line.waiver;
  return (
    <Item $stops={isOpenStop(line)} aria-label={line.name}>
      <Title>
        <CheckMark state={line.state} isWaived={waived !== null} />
        <strong>{line.name}</strong>
        {line.value && (
          <Value>
            {told(line.value)}
            {line.limit && (
              <small>
                {" "}
                against {told(line.limit)}, {line.kind ? LIMIT_KIND_WORDS[line.kind] : "as it was said"}
              </small>
            )}
          </Value>
        )}
      </Title>
      <p>{line.worked}</p>
      {line.mend && (
        <p>
          <strong>{line.mend}</strong>
        </p>
      )}
      <Why>
        {line.why}
        {line.sum_name && (
          <>
            {" "}
            <Link to={`/sums/${line.sum_name}?${new URLSearchParams(line.sum_values)}`}>
              Work it out as a bench sum
            </Link>
          </>
        )}
      </Why>
      {waived && (
        <p>
          Let pass by {waived.by}, {day(waived.at)}: “{waived.why}”
        </p>
      )}
      {isOpenStop(line) && (line.may_be_waived ? <Waive pack={pack} line={line} /> : <Why>Nobody lets this pass.</Why>)}
    </Item>
  );
}

const told = (amount: Schemas["TellingOut"]) => `${figure(amount.value, amount.digits)}\u00a0${amount.unit}`.trim();

/** A coordinator lets a line pass, with a reason that stays on the papers; others are told who may. */
function Waive({ pack, line }: { pack: Pack; line: Line }) {
  const session = useSession();
  const { values, field } = useTyped({ why: "" });
  const waive = useWrite(
    (body: Schemas["WaiveIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/waivers", {
          params: { path: { number: pack.number } },
          headers: once(key),
          body,
        }),
      ),
    drawPack,
  );
  if (session.data?.person?.role !== "coordinator")
    return <Why>A coordinator may let it pass, with a reason that stays on the papers.</Why>;
  return (
    <Fold title="Let it pass, with a reason">
      <AskForm
        problem={waive.error}
        onSend={() => waive.mutate({ check: line.id, why: values.why })}
        send="Let it pass"
        kind="plain"
        isSending={waive.isPending}
        waitsFor={values.why.trim().length < 3 ? "First why; it stays on the papers." : null}
      >
        <Field label={`Why may it pass: ${line.name}`} {...field("why")} maxLength={300} />
      </AskForm>
    </Fold>
  );
}

const Head = styled.h2`margin-bottom: var(--near);`;
const Lines = styled.ul`display: grid; width: 100%;`;
const Item = styled.li<{ $stops: boolean }>`
  display: grid;
  gap: var(--thread);
  padding: var(--gap) 0 var(--gap) var(--step);
  border-top: 1px solid ${({ theme }) => theme.color.paperLine};
  border-left: 6px solid ${({ theme, $stops }) => ($stops ? theme.color.danger : "transparent")};
`;
const Title = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: var(--thread) var(--gap);
  > span:first-child { align-self: center; }
`;
const Value = styled.span`
  font: 700 1.25rem ${({ theme }) => theme.font.figure};
  small { font: 500 ${({ theme }) => theme.size.note} ${({ theme }) => theme.font.text}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
const Why = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
