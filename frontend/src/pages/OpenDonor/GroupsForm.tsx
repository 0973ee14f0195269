import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Donor, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Field, Switch } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { dayAndTime, figure } from "../../words";

/** A pack whose cells are still joined: the voltage over each group, before anything is cut. */
export function GroupsForm({ donor }: { donor: Donor }) {
  // Once cells were measured one by one they are apart.
  const isApart = donor.cells.some((cell) => cell.resting_voltage_v !== null);
  if (donor.cells.length < 2 || (isApart && !donor.groups)) return null;
  return (
    <Sheet aria-label="Groups of the joined pack">
      <Stack>
        <h2>{isApart ? "While they were joined" : "Still joined? Measure over each group first"}</h2>
        {donor.groups && <Bars groups={donor.groups} donor={donor} />}
        {!isApart && <VoltagesForm donor={donor} />}
      </Stack>
    </Sheet>
  );
}

function VoltagesForm({ donor }: { donor: Donor }) {
  const count = donor.cells.length;
  const divisors = Array.from({ length: count }, (_, index) => index + 1).filter((each) => count % each === 0);
  const byModel = donor.cells.filter((cell) => cell.group_number === 1).length;
  const [parallel, setParallel] = useState(String(donor.groups?.parallel ?? (byModel || 1)));
  const typed = useTyped(Object.fromEntries(donor.cells.map((_, index) => [`voltages.${index}`, ""])));
  const names = Array.from({ length: count / Number(parallel) }, (_, index) => `voltages.${index}`);
  const voltages = names.map((name) => typed.values[name] ?? "");
  const keep = useWrite(
    (body: Schemas["GroupsIn"], key) =>
      answer(() =>
        api.POST("/api/donors/{number}/groups", {
          params: { path: { number: donor.number } },
          headers: once(key),
          body,
        }),
      ),
    typed.clear,
  );
  return (
    <Groups
      problem={keep.error}
      onSend={() => keep.mutate({ parallel: Number(parallel), voltages })}
      send={`Keep these ${names.length} voltages`}
      kind="plain"
      isSending={keep.isPending}
      waitsFor={voltages.some((text) => text.trim() === "") ? "First the voltage of every group." : null}
    >
      {divisors.length > 2 && (
        <div>
          <p>Cells side by side in a group</p>
          <Switch
            label="Cells side by side in a group"
            value={parallel}
            onChange={(next) => {
              setParallel(next);
              typed.clear();
            }}
            options={divisors.filter((each) => each < count).map((each) => [String(each), String(each)] as const)}
          />
        </div>
      )}
      <p>
        Each group has its numbers below it. Tape them on in this order, from minus to plus, before anything is cut.
      </p>
      <Fields>
        {names.map((name, index) => (
          <Field
            key={name}
            label={`Group ${index + 1}${index === 0 ? ", at minus" : index === names.length - 1 ? ", at plus" : ""}`}
            unit="V"
            numeric
            {...typed.field(name)}
            value={voltages[index] ?? ""}
            maxLength={12}
            hint={numbersOf(donor, index, Number(parallel)).join(", ")}
          />
        ))}
      </Fields>
    </Groups>
  );
}

/** The numbers of one group, counted from minus. */
const numbersOf = (donor: Donor, group: number, parallel: number): string[] =>
  donor.cells.slice(group * parallel, (group + 1) * parallel).map((cell) => cell.number);

function Bars({ groups, donor }: { groups: Schemas["GroupsOut"]; donor: Donor }) {
  const most = Math.max(...groups.groups.map((group) => group.value_v));
  return (
    <figure>
      <Columns>
        {groups.groups.map((group) => (
          <li key={group.number}>
            <Value $odd={group.gap_v !== null}>{figure(group.value_v, 2)} V</Value>
            <Bar $odd={group.gap_v !== null} style={{ height: `${(90 * group.value_v) / most}px` }} />
            <span>{group.number}</span>
            {numbersOf(donor, group.number - 1, groups.parallel).map((number) => (
              <small key={number}>{number}</small>
            ))}
          </li>
        ))}
      </Columns>
      <Notice kind={groups.groups.some((group) => group.gap_v !== null) ? "ask" : "kept"}>{groups.said}</Notice>
      <figcaption>
        {figure(groups.total_v, 2)} V over all, {groups.by}, {dayAndTime(groups.at)}
      </figcaption>
    </figure>
  );
}

const Stack = styled.div`display: grid; gap: var(--step); figure { width: 100%; }`;
const Groups = styled(AskForm)`display: grid; gap: var(--step); justify-items: start;`;
const Fields = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(8.5rem, 1fr)); gap: var(--apart); align-items: end; width: 100%;`;
const Columns = styled.ul`
  display: flex;
  align-items: end;
  gap: var(--apart);
  margin-bottom: var(--near);
  li { display: grid; justify-items: center; gap: var(--thread); }
`;
const Value = styled.span<{
  $odd: boolean;
}>`font: ${({ $odd }) => ($odd ? 800 : 500)} 1rem ${({ theme }) => theme.font.figure};`;
const Bar = styled.i<{ $odd: boolean }>`
  width: 44px;
  border: 2px solid ${({ theme }) => theme.color.ink};
  background: ${({ theme, $odd }) => ($odd ? theme.color.tape : theme.color.pencil)};
`;
