import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, type Donor, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field, Switch } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { dayAndTime, figure } from "../../words";

/** A pack whose cells are still joined: the voltage over each group, before anything is cut. */
export function GroupsForm({ donor }: { donor: Donor }) {
  const count = donor.cells.length;
  const divisors = Array.from({ length: count }, (_, index) => index + 1).filter((each) => count % each === 0);
  const byModel = donor.cells.filter((cell) => cell.group_number === 1).length;
  const [parallel, setParallel] = useState(String(donor.groups?.parallel ?? (byModel || 1)));
  const [volts, setVolts] = useState<Record<number, string>>({});
  const groups = count / Number(parallel);
  const keep = useWrite(
    (body: Schemas["GroupsIn"], key) =>
      answer(() =>
        api.POST("/api/donors/{number}/groups", {
          params: { path: { number: donor.number } },
          headers: once(key),
          body,
        }),
      ),
    () => setVolts({}),
  );
  const problem = keep.error instanceof Problem ? keep.error : null;
  // Once cells were measured one by one they are apart.
  const isApart = donor.cells.some((cell) => cell.resting_voltage_v !== null);
  if (count < 2 || (isApart && !donor.groups)) return null;
  const typed = Array.from({ length: groups }, (_, index) => volts[index] ?? "");
  return (
    <Sheet aria-label="Groups of the joined pack">
      <Stack
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate({ parallel: Number(parallel), voltages: typed });
        }}
      >
        <h2>{isApart ? "While they were joined" : "Still joined? Measure over each group first"}</h2>
        {donor.groups && <Bars groups={donor.groups} donor={donor} />}
        {!isApart && (
          <>
            {divisors.length > 2 && (
              <div>
                <p>Cells side by side in a group</p>
                <Switch
                  label="Cells side by side in a group"
                  value={parallel}
                  onChange={(next) => {
                    setParallel(next);
                    setVolts({});
                  }}
                  options={divisors
                    .filter((each) => each < count || count === 1)
                    .map((each) => [String(each), String(each)] as const)}
                />
              </div>
            )}
            <p>
              Each group has its numbers below it. Tape them on in this order, from minus to plus, before anything is
              cut.
            </p>
            <Fields>
              {typed.map((text, index) => (
                <Field
                  key={index}
                  label={`Group ${index + 1}${index === 0 ? ", at minus" : index === groups - 1 ? ", at plus" : ""}`}
                  unit="V"
                  numeric
                  value={text}
                  onChange={(next) => setVolts((before) => ({ ...before, [index]: next }))}
                  maxLength={12}
                  hint={numbersOf(donor, index, Number(parallel)).join(", ")}
                  error={problem?.field === `voltages.${index}` ? problem.message : null}
                />
              ))}
            </Fields>
            {problem && !problem.field?.startsWith("voltages.") && <ProblemNotice problem={problem} />}
            <Button
              type="submit"
              waitsFor={typed.some((text) => text.trim() === "") ? "First the voltage of every group." : null}
              isDisabled={keep.isPending}
            >
              Keep these {groups} voltages
            </Button>
          </>
        )}
      </Stack>
    </Sheet>
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

const Stack = styled(Form)`display: grid; gap: var(--step); justify-items: start; figure { width: 100%; }`;
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
