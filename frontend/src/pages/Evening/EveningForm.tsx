import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, serverNow } from "../../api/client";
import type { Evening } from "../../api/evening";
import { useSession } from "../../api/queries";
import { useTable } from "../../api/testers";
import { useWrite } from "../../api/writing";
import { AskForm } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field, Tick } from "../../components/Fields";
import { Sheet } from "../../components/Page";
import { atTime, firstOf, isPast, type Person } from "./times";

/** Who is here until when, which slots stand on the table, what was promised. */
export function EveningForm({ known, onDone }: { known: Evening | null; onDone: () => void }) {
  const session = useSession();
  const table = useTable();
  const slots = table.data?.slots ?? [];
  // What is typed was begun at this time, and on this evening, whatever comes meanwhile.
  const [first] = useState(() => firstOf(known, Date.parse(serverNow()), session.data?.person?.name ?? ""));
  const [ends, setEnds] = useState(first.ends);
  const [people, setPeople] = useState<Person[]>(first.people);
  const [promised, setPromised] = useState(known?.promised.join(" ") ?? "");
  const [away, setAway] = useState<ReadonlySet<string>>(
    () => new Set(known ? slots.filter((slot) => !known.slots.includes(slot.number)).map((slot) => slot.number) : []),
  );
  const [next, setNext] = useState(known?.later[0] ? "yes" : "");
  const [version] = useState(known?.version ?? 1);
  const now = new Date(serverNow());
  const endsAt = atTime(ends, now);
  const filled = people.filter((person) => person.name.trim());
  const here = slots.filter((slot) => !away.has(slot.number)).map((slot) => slot.number);
  const week = 7 * 86_400_000;
  const save = useWrite((_: null, key) => {
    const body = {
      ends_at: endsAt ?? "",
      people: filled.map((person) => ({ name: person.name, until: atTime(person.until, now) ?? endsAt ?? "" })),
      promised: promised.split(/[\s,;]+/).filter(Boolean),
      slots: here,
      later:
        next && endsAt
          ? [
              {
                starts_at: new Date(now.getTime() + week).toISOString(),
                ends_at: new Date(Date.parse(endsAt) + week).toISOString(),
              },
            ]
          : [],
    };
    return answer(() =>
      known
        ? api.PUT("/api/evening", { body: { ...body, version }, headers: once(key) })
        : api.POST("/api/evening", { body, headers: once(key) }),
    );
  }, onDone);
  const put = (at: number, change: Partial<Person>) =>
    setPeople((before) => before.map((person, n) => (n === at ? { ...person, ...change } : person)));
  const gone = filled.find((person) => isPast(person.until, now));
  const unread = filled.find((person) => person.until.trim() && !atTime(person.until, now));
  const waitsFor = !endsAt
    ? "Say until when"
    : filled.length === 0
      ? "Say who is here"
      : unread
        ? `Say until when ${unread.name.trim()} is here, as 21:30`
        : gone
          ? `${gone.name.trim()} left at ${gone.until.trim()}: take them off the list`
          : here.length === 0
            ? "Leave a slot on the table"
            : null;
  return (
    <Sheet aria-label="The evening">
      <Stack
        problem={save.error}
        standsAt={{ number: "promised" }}
        send={save.isPending ? "Planning" : known ? "Plan it anew" : "Plan it"}
        isSending={save.isPending}
        waitsFor={waitsFor}
        onSend={() => save.mutate(null)}
        aria-label="Who is here until when"
        besides={
          known && (
            <Button kind="quiet" onPress={onDone}>
              Leave it as it is
            </Button>
          )
        }
      >
        <Narrow>
          <Field
            label="Until when are people here?"
            name="ends_at"
            value={ends}
            onChange={setEnds}
            maxLength={8}
            hint="As 21:30"
          />
        </Narrow>
        <People>
          {people.map((person, at) => (
            <li key={at}>
              <Field label="Who" value={person.name} onChange={(name) => put(at, { name })} maxLength={40} />
              <Field label="until" value={person.until} onChange={(until) => put(at, { until })} maxLength={8} />
              {people.length > 1 && (
                <Button kind="quiet" onPress={() => setPeople((before) => before.filter((_, n) => n !== at))}>
                  Is not here
                </Button>
              )}
            </li>
          ))}
        </People>
        <Button onPress={() => setPeople((before) => [...before, { name: "", until: ends }])}>One more</Button>
        <Field
          label="Promised to a visitor for tonight"
          name="promised"
          value={promised}
          onChange={setPromised}
          maxLength={400}
          hint="Numbers of cells, spaces between them. They go before all others."
        />
        <fieldset>
          <legend>On the table</legend>
          <Ticks>
            {slots.map((slot) => (
              <Tick
                key={slot.number}
                isSelected={!away.has(slot.number)}
                onChange={(isHere) =>
                  setAway((before) => {
                    const after = new Set(before);
                    if (isHere) after.delete(slot.number);
                    else after.add(slot.number);
                    return after;
                  })
                }
              >
                {slot.name}
              </Tick>
            ))}
          </Ticks>
          {table.data && slots.length === 0 && <p>No slots yet: set up a tester or a charger first.</p>}
        </fieldset>
        <Tick isSelected={next !== ""} onChange={(is) => setNext(is ? "yes" : "")}>
          Plan for the same time next week as well
        </Tick>
      </Stack>
    </Sheet>
  );
}

const Stack = styled(AskForm)`
  display: grid;
  gap: var(--block);
  justify-items: start;
  fieldset { width: 100%; margin: 0; border: 0; padding: 0; }
  legend { margin-bottom: var(--near); padding: 0; font-weight: 700; }
`;
const Narrow = styled.div`width: 16rem;`;
const People = styled.ul`
  display: grid;
  gap: var(--near);
  width: min(36rem, 100%);
  li { display: grid; grid-template-columns: minmax(0, 1fr) 7rem auto; gap: var(--apart); align-items: end; }
`;
const Ticks = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr)); gap: var(--hair) var(--apart);`;
