import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../../api/client";
import { SEEN_ON_PACK } from "../../../api/codes";
import { drawPack } from "../../../api/queries";
import { useWrite } from "../../../api/writing";
import { RoomyForm, useTyped } from "../../../components/AskForm";
import { Button } from "../../../components/Button";
import { Field, LinesField, Tick } from "../../../components/Fields";
import { ProblemNotice } from "../../../components/Notice";
import { Pick } from "../../../components/Pick";
import { Tape } from "../../../components/Tape";
import { figure, RETURN_DECISION_WORDS, SEEN_WORDS } from "../../../words";

type Told = Schemas["OutsideOut"];

/** What is wrong with it, how it looks, what its groups read; then what is done. */
export function CameBack({ pack, told, onTold }: { pack: Pack; told: Told; onTold: (told: Told) => void }) {
  const last = told.reports.findLast((report) => report.kind === "back");
  const since = pack.happenings.findLast((happening) => happening.what === "pack-back")?.at ?? "";
  // Looked at once more: until there is another answer than this one.
  const [again, setAgain] = useState<string | null>(null);
  const isNew = last !== undefined && last.at >= since;
  return (
    <Slip aria-label="It came back">
      <h2>It came back</h2>
      {isNew && last && again !== last.at ? (
        <Found
          pack={pack}
          report={last}
          before={told.proved_before}
          onTold={onTold}
          onAgain={() => setAgain(last.at)}
        />
      ) : (
        <Look pack={pack} onTold={onTold} />
      )}
    </Slip>
  );
}

function Look({ pack, onTold }: { pack: Pack; onTold: (told: Told) => void }) {
  const { values, field } = useTyped({ words: "" });
  const [seen, setSeen] = useState<Schemas["ReturnIn"]["seen"]>([]);
  const [volts, setVolts] = useState<string[]>(() => Array(pack.series).fill(""));
  const look = useWrite(
    (body: Schemas["ReturnIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/returns", {
          params: { path: { number: pack.number } },
          headers: once(key),
          body,
        }),
      ),
    onTold,
  );
  return (
    <RoomyForm
      problem={look.error}
      isSending={look.isPending}
      send="What does that say?"
      onSend={() =>
        look.mutate({ words: values.words, seen, group_volts: volts.some((each) => each.trim()) ? volts : [] })
      }
    >
      <LinesField label="What is wrong, in the visitor's words" {...field("words")} maxLength={500} />
      <Ticks>
        {SEEN_ON_PACK.map((each) => (
          <Tick
            key={each}
            danger={DANGEROUS.includes(each)}
            isSelected={seen?.includes(each) ?? false}
            onChange={(is) =>
              setSeen((before) => (is ? [...(before ?? []), each] : (before ?? []).filter((other) => other !== each)))
            }
          >
            {SEEN_WORDS[each]}
          </Tick>
        ))}
      </Ticks>
      <p>Measure each group at its taps, from minus on. What is swollen, hot or leaking is not measured.</p>
      <Groups>
        {volts.map((typed, index) => (
          <Field
            key={index}
            label={`Group ${index + 1}`}
            unit="V"
            numeric
            value={typed}
            onChange={(next) => setVolts((before) => before.map((each, at) => (at === index ? next : each)))}
            maxLength={12}
            autoComplete="off"
          />
        ))}
      </Groups>
    </RoomyForm>
  );
}

function Found({
  pack,
  report,
  before,
  onTold,
  onAgain,
}: {
  pack: Pack;
  report: Told["reports"][number];
  before: Told["proved_before"];
  onTold: (told: Told) => void;
  onAgain: () => void;
}) {
  const decide = useWrite(
    (body: Schemas["DecideIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/decisions", {
          params: { path: { number: pack.number } },
          headers: once(key),
          body,
        }),
      ),
    onTold,
  );
  return (
    <Stack>
      {report.words && <p>“{report.words}”</p>}
      {report.found.map((each) => (
        <div key={each.said}>
          <Said>{each.said}</Said>
          <p>{each.then}</p>
        </div>
      ))}
      {report.group_volts.length > 0 && (
        <p>
          Groups now: <strong>{inVolts(report.group_volts)}</strong>
        </p>
      )}
      {before && (
        <p>
          When it was proved: groups {inVolts(before.group_volts)}
          {before.full_volts.length > 0 && `, full ${inVolts(before.full_volts)}`}
          {before.hours !== null && `; ran ${figure(before.hours, 1)} h`}
          {before.energy_wh !== null && `, gave ${figure(before.energy_wh, 1)} Wh`}.
        </p>
      )}
      {report.decision ? (
        <p>
          Decided: <strong>{RETURN_DECISION_WORDS[report.decision]}</strong>. {NEXT[report.decision]}
        </p>
      ) : (
        <Row>
          {(["mend", "replace", "retire", "again"] as const).map((decision) => (
            <Button key={decision} isDisabled={decide.isPending} onPress={() => decide.mutate({ decision })}>
              {RETURN_DECISION_WORDS[decision]}
            </Button>
          ))}
        </Row>
      )}
      <ProblemNotice problem={decide.error} />
      <Button kind="quiet" onPress={onAgain}>
        Look and measure once more
      </Button>
      {report.decision === "replace" && (
        <Exchange pack={pack} odd={report.found.find((each) => each.group !== null)?.group ?? null} />
      )}
    </Stack>
  );
}

/** One cell at a time: the one that is bad, and what of the shelf does best in its place. */
function Exchange({ pack, odd }: { pack: Pack; odd: number | null }) {
  const cells = (odd ? [pack.groups[odd - 1]] : pack.groups).flatMap(
    (group) => group?.cells.map((cell) => cell.number) ?? [],
  );
  const [out, setOut] = useState<string>("");
  const ways = useQuery({
    queryKey: ["pack", pack.number, "mend-ways", out, pack.version],
    queryFn: () =>
      answer(() =>
        api.GET("/api/packs/{number}/mend-ways", { params: { path: { number: pack.number }, query: { out } } }),
      ),
    enabled: out !== "",
    retry: false,
  });
  const exchange = useWrite(
    (body: Schemas["ExchangeIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/exchanges", {
          params: { path: { number: pack.number } },
          headers: once(key),
          body,
        }),
      ),
    (now) => {
      drawPack(now);
      setOut("");
    },
  );
  return (
    <Stack>
      <Pick
        label={odd ? `The bad cell of group ${odd}` : "The bad cell"}
        value={out || NONE}
        onChange={(next) => setOut(next === NONE ? "" : next)}
        options={[[NONE, "not known yet: measure them one by one"], ...cells.map((cell) => [cell, cell] as const)]}
      />
      <ProblemNotice problem={ways.error ?? exchange.error} />
      {ways.data && (
        <>
          {ways.data.hours_now !== null && <p>On paper it runs {figure(ways.data.hours_now, 1)} h as it is.</p>}
          {ways.data.ways.length === 0 && <p>Nothing free on the shelf may come for it.</p>}
          <ul>
            {ways.data.ways.map((way) => (
              <Way key={way.number}>
                <Tape to={`/cells/${way.number}`}>{way.number}</Tape>
                <span>
                  {figure(way.capacity_mah)} mAh
                  {way.resistance_mohm !== null && `, ${figure(way.resistance_mohm)} mΩ`}
                  {way.resting_v !== null && `, rests at ${figure(way.resting_v, 2)} V`}
                  {way.place && `, ${way.place}`}
                  {way.hours !== null && (
                    <>
                      {" "}
                      runs <strong>{figure(way.hours, 1)} h</strong>
                    </>
                  )}
                </span>
                <Button isDisabled={exchange.isPending} onPress={() => exchange.mutate({ out, comes: way.number })}>
                  It comes for {out}
                </Button>
              </Way>
            ))}
          </ul>
          <p>It has to rest at the voltage of its group, as any cells that are joined; else it is told what to do.</p>
        </>
      )}
    </Stack>
  );
}

const inVolts = (values: number[]) => `${values.map((each) => figure(each, 2)).join(", ")}\u00a0V`;
const NONE = "none";
const DANGEROUS = ["swollen", "smells", "hot", "leaks"];
const NEXT: Record<Schemas["DecideIn"]["decision"], string> = {
  mend: "Mend it, then prove it again.",
  replace: "Exchange the fewest cells, then prove it again.",
  retire: "Take it apart below; every cell is looked at and measured.",
  again: "Prove it again; then it may go out.",
};

const Slip = styled.section`
  display: grid;
  gap: var(--apart);
  padding: var(--block) var(--sheet);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.paper};
`;
const Stack = styled.div`display: grid; gap: var(--near); justify-items: start; ul { display: grid; gap: var(--near); }`;
const Said = styled.p`font-size: ${({ theme }) => theme.size.lead}; font-weight: 700;`;
const Ticks = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr)); gap: var(--near); width: 100%; margin: var(--near) 0;`;
const Groups = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(8rem, 1fr)); gap: var(--apart); width: 100%; margin: var(--near) 0;`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near) var(--apart);`;
const Way = styled.li`display: flex; flex-wrap: wrap; align-items: center; gap: var(--near) var(--apart);`;
