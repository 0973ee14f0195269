import { useQueries } from "@tanstack/react-query";
import { useRef, useState } from "react";
import styled from "styled-components";
import { curveQuery, type Log, useLogs } from "../../api/measuring";
import { Field, Switch, Tick } from "../../components/Fields";
import { layOver, type Over } from "../../components/layOver";
import { Waiting } from "../../components/Page";
import { Plot } from "../../components/Plot";
import { useSettled } from "../../components/useSettled";

type One = { log: number; test: number; name: string };
const MOST_OTHERS = 5;
const MOST_CHOICES = 24;
const sameRun = (one: One, other: One) => one.log === other.log && one.test === other.test;

/** A run as people tell it from others. */
const nameOf = (log: { cell: string | null; file_name: string }, test: number, tests: number) =>
  `${log.cell ? `cell ${log.cell}, ` : ""}${log.file_name}${tests > 1 ? `, test ${test + 1}` : ""}`;

/** Voltage over time or over charge; other runs of the cell, and other cells, laid over it. */
export function Curves({ log, test }: { log: Log; test: number }) {
  const [over, setOver] = useState<Over>("time");
  const [range, setRange] = useState<[number, number] | null>(null);
  const [others, setOthers] = useState<One[]>([]);
  const [sought, setSought] = useState("");
  const [isOpen, setOpen] = useState(false);
  const settled = useSettled(sought);
  const found = useLogs({ text: settled.trim(), is_read: true }, isOpen);
  const own: One = { log: log.id, test, name: nameOf(log, test, log.tests.length) };
  const all = [own, ...others];
  const curves = useQueries({
    queries: all.map((each) => curveQuery(each.log, each.test, over === "time" ? range : null)),
  });
  const [first] = curves;
  const now = layOver(
    curves.map((curve) => curve.data ?? null),
    all.map((each) => each.name),
    over,
    over === "charge" ? range : null,
  );
  // While another stretch is on its way the one before stays on the screen, and the hand on it.
  const before = useRef<typeof now | null>(null);
  if (first?.data) before.current = now;
  const drawn = before.current;
  if (!drawn)
    return <Waiting query={first ?? { isPending: true, error: null, refetch: () => undefined }} what="the curve" />;
  const choices: One[] = (found.data?.logs ?? [])
    .flatMap((each) =>
      Array.from({ length: each.tests }, (_, at) => ({ log: each.id, test: at, name: nameOf(each, at, each.tests) })),
    )
    .filter((each) => each.log !== log.id || each.test !== test)
    .slice(0, MOST_CHOICES);
  const isLaid = (one: One) => others.some((other) => other.log === one.log && other.test === one.test);
  const lay = (one: One, is: boolean) =>
    setOthers(
      is
        ? [...others, one].slice(-MOST_OTHERS)
        : others.filter((other) => other.log !== one.log || other.test !== one.test),
    );
  return (
    <Stack>
      <Switch
        label="Over"
        value={over}
        onChange={(next) => {
          setRange(null);
          setOver(next);
        }}
        options={[
          ["time", "Over time"],
          ["charge", "Over charge"],
        ]}
      />
      <Plot
        key={over}
        label={`Voltage over ${over}`}
        xLabel={over === "time" ? "minutes" : "mAh given"}
        xDigits={over === "time" ? 1 : 0}
        x={drawn.x}
        lines={drawn.lines}
        height={340}
        fileName={`curve-${log.id}`}
        title={`Voltage over ${over}: ${all.map((each) => each.name).join(", ")}`}
        onZoom={(next) => setRange(next && over === "time" ? [next[0] * 60, next[1] * 60] : next)}
      />
      <details onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary>Lay another run over it</summary>
        <Field
          label="Of which cell or file?"
          value={sought}
          onChange={setSought}
          maxLength={60}
          autoComplete="off"
          hint="Empty: the newest. At most five lie over it."
        />
        {found.data && choices.length === 0 && <p>No run like that was read.</p>}
        <Ticks>
          {[...others.filter((one) => !choices.some((each) => sameRun(each, one))), ...choices].map((each) => (
            <Tick key={`${each.log} ${each.test}`} isSelected={isLaid(each)} onChange={(is) => lay(each, is)}>
              {each.name}
            </Tick>
          ))}
        </Ticks>
      </details>
    </Stack>
  );
}

const Stack = styled.div`display: grid; gap: var(--apart); min-width: 0; summary { min-height: 44px; padding-top: var(--gap); cursor: pointer; text-decoration: underline; }`;
const Ticks = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr)); gap: var(--near);`;
