import { useMutation } from "@tanstack/react-query";
import styled from "styled-components";
import { answer, api, type Pack, type Schemas } from "../../api/client";
import { AskForm, useTyped } from "../../components/AskForm";
import { Field, Switch } from "../../components/Fields";
import { Figures } from "../../components/Figures";
import { Notice } from "../../components/Notice";
import { Sheet } from "../../components/Page";
import { Plot, type PlotLine } from "../../components/Plot";
import { figure } from "../../words";

type Paper = Schemas["OnPaperOut"];
type Kind = Schemas["OnPaperIn"]["load_kind"];
type Start = NonNullable<Schemas["OnPaperIn"]["starts_from"]>;

const LOADS: [Kind, string][] = [
  ["current", "Current"],
  ["power", "Power"],
  ["resistor", "Resistor"],
];
const UNIT: Record<Kind, string> = { current: "mA", power: "W", resistor: "Ω" };
const STARTS: [Start, string][] = [
  ["full", "Charged to full"],
  ["as-they-lie", "As they lie"],
];

/** What the pack will really do under a load, worked out from its cells before anything is joined. */
export function OnPaper({ pack }: { pack: Pack }) {
  const { values, field } = useTyped({ load_kind: "power" as Kind, load: "", starts_from: "full" as Start });
  const run = useMutation({
    mutationFn: (body: Schemas["OnPaperIn"]) =>
      answer(() => api.POST("/api/packs/{number}/on-paper", { params: { path: { number: pack.number } }, body })),
  });
  return (
    <Sheet aria-label="On paper">
      <Stack>
        <div>
          <h2>On paper: what will it really do?</h2>
          <p>
            Every cell with its own charge and resistance, until the first group is empty. The load is that at the pack,
            not behind a converter.
          </p>
        </div>
        <Ask
          problem={run.error}
          onSend={() => run.mutate(values)}
          send="Run it on paper"
          isSending={run.isPending}
          waitsFor={values.load.trim() === "" ? "First what it has to carry." : null}
        >
          <Switch label="The load is known as" {...field("load_kind")} options={LOADS} />
          <Field
            label={`What it has to carry: ${LOADS.find(([kind]) => kind === values.load_kind)?.[1] ?? ""}`}
            unit={UNIT[values.load_kind]}
            numeric
            {...field("load")}
            maxLength={12}
          />
          <Switch label="It starts from" {...field("starts_from")} options={STARTS} />
        </Ask>
        {run.data && <Answer paper={run.data} />}
      </Stack>
    </Sheet>
  );
}

function Answer({ paper }: { paper: Paper }) {
  const tooMuch = paper.groups.flatMap((group) =>
    group.cells.filter((cell) => cell.carries_a !== null && cell.peak_a > cell.carries_a),
  );
  return (
    <>
      <div aria-live="polite">
        <Time>
          {hours(paper.hours)}
          <small>
            {hours(paper.shortest_h)} to {hours(paper.longest_h)} in nine of ten cases, by what the figures leave open
          </small>
        </Time>
        <p>{endWords(paper)}</p>
      </div>
      {tooMuch.length > 0 && (
        <Notice kind="error">
          <strong>{tooMuch.length === 1 ? "A cell carries" : `${tooMuch.length} cells carry`} more than it may.</strong>{" "}
          {tooMuch
            .map(
              (cell) =>
                `${cell.number}: up to ${figure(cell.peak_a, 1)} A, may give ${figure(cell.carries_a ?? 0, 1)} A`,
            )
            .join("; ")}
          . More cells side by side, or a smaller load.
        </Notice>
      )}
      <Figures
        items={[
          { label: "Energy it gives", value: paper.energy_wh, unit: "Wh", digits: 1 },
          { label: "In the mean", value: paper.mean_v, unit: "V", digits: 2 },
          { label: "Heat in the cells", value: paper.heat_wh, unit: "Wh", digits: 1 },
          { label: "Left in cells of stronger groups", value: paper.stranded_wh, unit: "Wh", digits: 1 },
        ]}
      />
      {paper.moments_h.length > 1 && (
        <Plot
          label="Voltage of the groups over the run"
          xLabel="Hours"
          xDigits={2}
          x={paper.moments_h}
          lines={linesOf(paper)}
          height={260}
          fileName="pack-on-paper"
        />
      )}
      <Remarks>
        {paper.remarks.map((remark) => (
          <li key={remark}>{remark}</li>
        ))}
      </Remarks>
    </>
  );
}

/** Minutes below two hours, else hours with one digit. */
const hours = (value: number) => (value < 2 ? `${figure(60 * value)} min` : `${figure(value, 1)} h`);

export function endWords(paper: Paper): string {
  const cutOff = `the house's cut-off of ${figure(paper.cutoff_v, 2)} V`;
  const isNothing = paper.hours === 0;
  if (paper.ended_by === "load_not_carried")
    return isNothing
      ? "It cannot carry this load, not even for a moment. A smaller load, or more cells side by side."
      : "The load takes more and more as the voltage falls, until the pack cannot carry it.";
  const group = `Group ${paper.ended_in ?? ""}`;
  return isNothing
    ? `${group} falls below ${cutOff} as soon as the load is on. A smaller load, or more cells side by side.`
    : `${group} comes to ${cutOff} first, and that ends the run.`;
}

/** Of few groups each; of many the one that ends the run and, as a band, all of them. */
export function linesOf({ group_v, ended_in }: Paper): PlotLine[] {
  const line = (name: string, y: number[]): PlotLine => ({ name, y, unit: "V", digits: 2 });
  const nameOf = (index: number) => `Group ${index + 1}${index + 1 === ended_in ? ", ends it" : ""}`;
  if (group_v.length <= MOST_LINES) return group_v.map((volts, index) => line(nameOf(index), volts));
  const at = (pick: (...volts: number[]) => number) =>
    (group_v[0] ?? []).map((_, moment) => pick(...group_v.map((volts) => volts[moment] ?? 0)));
  const mean = at((...volts) => volts.reduce((sum, each) => sum + each, 0) / volts.length);
  const all: PlotLine = { ...line("All groups, in the mean", mean), low: at(Math.min), high: at(Math.max) };
  const last = ended_in === null ? undefined : group_v[ended_in - 1];
  return last && ended_in ? [line(nameOf(ended_in - 1), last), all] : [all];
}
const MOST_LINES = 5;

const Stack = styled.div`display: grid; gap: var(--step);`;
const Ask = styled(AskForm)`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: var(--apart) var(--sheet);
  > [role="alert"] { flex: 1 0 100%; }
`;
const Time = styled.p`
  font: 800 ${({ theme }) => theme.size.key}/1.1 ${({ theme }) => theme.font.figure};
  small { display: block; font: 500 1rem/1.4 ${({ theme }) => theme.font.text}; }
`;
const Remarks = styled.ul`
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.inkSoft};
`;
