import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { isGoingOn, type Slot, useTable } from "../../api/testers";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { ButtonLink } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Page, Quiet, Sheet, Waiting } from "../../components/Page";
import { Here } from "./Here";
import { SlotSheet } from "./SlotSheet";

/** The testers and chargers as they stand on the table, live. */
export default function TablePage() {
  const table = useTable();
  const slots = table.data?.slots ?? [];
  const running = slots.filter((slot) => slot.run && isGoingOn(slot.run)).length;
  const free = slots.filter((slot) => slot.cell === null).length;
  return (
    <Page
      title="On the testers"
      wide
      lead={
        table.data
          ? slots.length
            ? `${running} running, ${free} free. Nobody leaves a charge alone, and nothing charges over night.`
            : undefined
          : undefined
      }
      actions={
        <>
          <ButtonLink to="/evening" $kind="plain">
            Plan the evening
          </ButtonLink>
          <ButtonLink to="/testers" $kind="quiet">
            Set up testers
          </ButtonLink>
          <ButtonLink to="/wall" $kind="quiet">
            Wall view
          </ButtonLink>
        </>
      }
    >
      {!table.data ? (
        <Waiting query={table} what="the table" />
      ) : slots.length === 0 ? (
        <Quiet>
          <h2>Nothing stands on the table yet.</h2>
          <p>
            A tester that answers over a wire runs whole programs by itself; a charger without one gets the same clocks.
          </p>
          <ButtonLink to="/testers" $kind="main">
            Set up the first one
          </ButtonLink>
        </Quiet>
      ) : (
        <>
          <Strip>
            <Here told={table.data} />
            <PutIn />
          </Strip>
          <Rows slots={slots} />
        </>
      )}
    </Page>
  );
}

/** Slots of one tester lie side by side, as on the table; chargers without a wire follow. */
function Rows({ slots }: { slots: readonly Slot[] }) {
  const testers = [...new Set(slots.map((slot) => slot.tester_id))];
  return testers.map((tester) => {
    const here = slots.filter((slot) => slot.tester_id === tester);
    return (
      <section key={tester ?? "chargers"} aria-label={tester === null ? "Chargers without a wire" : `Tester ${tester}`}>
        {tester === null && <Heading>Chargers without a wire</Heading>}
        <Slots>
          {here.map((slot) => (
            <SlotSheet key={slot.id} slot={slot} />
          ))}
        </Slots>
      </section>
    );
  });
}

/** A cell goes into a slot: both are scanned, whichever first. */
function PutIn() {
  const navigate = useNavigate();
  const typed = useTyped({ slot: "", cell: "" });
  const second = useRef<HTMLInputElement>(null);
  const [asked, setAsked] = useState(false);
  const put = useWrite(
    ({ slot, cell }: { slot: string; cell: string }, key) =>
      answer<Schemas["ChoicesOut"]>(() =>
        api.POST("/api/slots/{number}/cell", {
          params: { path: { number: slot } },
          body: { cell },
          headers: once(key),
        }),
      ),
    (done) => navigate(`/table/${done.slot.number}`),
  );
  const send = () => {
    const [one, other] = [typed.values.slot.trim(), typed.values.cell.trim()];
    if (!one || !other) {
      setAsked(true);
      second.current?.focus();
      return;
    }
    // Scanned the other way round: a slot's number begins with its letter.
    const [slot, cell] = /^k/i.test(other) ? [other, one] : [one, other];
    put.mutate({ slot, cell });
  };
  return (
    <Sheet aria-label="Put a cell in">
      <InRow
        problem={put.error}
        standsAt={{ number: "slot" }}
        send="Put in"
        isSending={put.isPending}
        onSend={send}
        aria-label="Put a cell in a slot"
      >
        <Field label="Scan the slot" {...typed.field("slot")} maxLength={20} />
        <Field
          label="and the cell"
          {...typed.field("cell")}
          maxLength={20}
          inputRef={second}
          hint={asked ? "Both, please" : undefined}
        />
      </InRow>
    </Sheet>
  );
}

const Strip = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr);
  gap: var(--apart);
  margin-bottom: var(--block);
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const InRow = styled(AskForm)`
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: var(--apart);
  align-items: center;
  ${({ theme }) => theme.narrow} { grid-template-columns: 1fr 1fr; }
`;
const Heading = styled.h2`margin: var(--block) 0 var(--near);`;
const Slots = styled.ul`
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: var(--apart);
  @media (max-width: 1150px) { grid-template-columns: repeat(2, minmax(0, 1fr)); }
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
