import { useMutation } from "@tanstack/react-query";
import { useMemo, useReducer, useState } from "react";
import styled from "styled-components";
import { answer, api, type Proposal, type Schemas } from "../../api/client";
import { Button } from "../../components/Button";
import { Choice } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { useUndoKey } from "../../components/useUndoKey";
import { figure } from "../../words";
import { Board } from "./Board";
import { act, figuresOf, type Laid, laidOut, pinsNow } from "./board";
import { Compare } from "./Compare";
import { Keep } from "./Keep";
import { LongerSearch } from "./LongerSearch";
import { LongestRun } from "./LongestRun";
import { Proof } from "./Proof";
import { TOLERANCE_WORDS } from "./request";

interface FoundProps {
  proposal: Proposal;
  request: Schemas["MatchIn"];
  purpose?: string;
  wishId?: number | null;
  parts?: Schemas["PartOfPlanIn"][];
  onAgain: () => void;
  onKept?: (pack: Schemas["PackOut"]) => void;
  isOneOfSeveral?: boolean;
  /** Matches anew for as much as can be, where so far only enough was asked for. */
  onStrongest?: () => void;
}

/** A proposal in the builder's hands: its proof, its choices, the board to change it on, and the way to keep it. */
export function Found({
  proposal,
  request,
  purpose,
  wishId,
  parts,
  onAgain,
  onKept,
  isOneOfSeveral = false,
  onStrongest,
}: FoundProps) {
  const { now, before, cells, here, figures, pins, asked, again, change } = useLaid(proposal, request);
  const [held, setHeld] = useState<Laid | null>(null);
  // Where several lie on one page the key would undo in all of them.
  useUndoKey(() => isOneOfSeveral || change({ do: "undo" }));
  const isPinned = Object.keys(pins).length > 0;
  const ban = (number: string) => {
    const { [number]: _, ...others } = pins;
    again.mutate({ pins: others, banned: [...now.banned, number] });
  };
  const canBeBetter = proposal.target_mah === null && now.proposal.bound_mah - figures.weakest > 1e-3;
  return (
    <Stack>
      <Proof laid={now} figures={figures} />
      {now.proposal.choices.length > 1 && (
        <Choice
          label="For a little of the weakest group: largest over smallest resistance inside a group, and groups apart"
          value={now.byHand ? "" : String(now.chosen)}
          onChange={(next) => change({ do: "choose", chosen: Number(next) })}
          options={now.proposal.choices.map((each, index) => [String(index), choiceInWords(each)])}
        />
      )}
      <Tools>
        <Button onPress={() => change({ do: "undo" })} isDisabled={before.length === 0}>
          Undo
        </Button>
        {(isPinned || now.byHand) && (
          <Button onPress={() => again.mutate({ pins, banned: now.banned })} isDisabled={again.isPending}>
            {isPinned ? "Match around the pins" : "Match again"}
          </Button>
        )}
        {now.banned.length > 0 && (
          <Button onPress={() => again.mutate({ pins, banned: [] })} isDisabled={again.isPending}>
            Let {now.banned.join(", ")} take part again
          </Button>
        )}
        {!held && <Button onPress={() => setHeld(now)}>Hold this to compare</Button>}
        {proposal.target_mah !== null && onStrongest && (
          <Button onPress={onStrongest}>As strong as can be instead</Button>
        )}
      </Tools>
      {again.isError && <ProblemNotice problem={again.error} />}
      {/* Each of several would be made from the cells of the others too. */}
      {!isOneOfSeveral && (
        <LongestRun
          request={asked}
          laid={now.groups}
          onLay={(groups) => change({ do: "lay", laid: { ...now, groups, byHand: true } })}
        />
      )}
      {held && (
        <Compare
          held={held}
          now={now}
          cells={cells}
          onTake={() => change({ do: "lay", laid: held })}
          onDrop={() => setHeld(null)}
        />
      )}
      <Board
        groups={now.groups}
        cells={here}
        figures={figures}
        bound={now.proposal.bound_mah}
        pins={pins}
        leftOver={now.proposal.left_over}
        onSwap={(one, other) => change({ do: "swap", one, other })}
        onPin={(number) => change({ do: "pin", number })}
        onBan={ban}
      />
      {canBeBetter && (
        <LongerSearch
          request={asked}
          weakest={figures.weakest}
          onFound={(found) => change({ do: "match", proposal: found, pins, banned: now.banned })}
        />
      )}
      <InWords
        proposal={proposal}
        now={now}
        weakest={figures.weakest}
        cells={cells}
        hasTolerance={!!request.tolerance}
      />
      <Keep
        groups={now.groups.map((group) => [...group])}
        request={asked}
        purpose={purpose}
        wishId={wishId}
        parts={parts}
        onAgain={onAgain}
        onKept={onKept}
      />
    </Stack>
  );
}

/** What lies on the board now and lay there before, its figures, and how it is matched anew around what was pinned. */
function useLaid(proposal: Proposal, request: Schemas["MatchIn"]) {
  const [{ now, before }, change] = useReducer(act, proposal, (first) => ({ now: laidOut(first), before: [] }));
  const cells = useMemo(() => {
    // Also those of proposals before: what is held to compare may have cells that are banned by now.
    const all = [...before, now].flatMap((laid) => laid.proposal.cells);
    return new Map(all.map((cell) => [cell.number, cell]));
  }, [before, now]);
  const here = useMemo(() => {
    const numbers = new Set([...now.groups.flat(), ...now.proposal.cells.map((cell) => cell.number)]);
    return new Map([...cells].filter(([number]) => numbers.has(number)));
  }, [cells, now]);
  const figures = useMemo(() => figuresOf(now.groups, cells), [now.groups, cells]);
  const again = useMutation({
    mutationFn: (wanted: { pins: Record<string, number>; banned: readonly string[] }) =>
      answer(() => api.POST("/api/matches", { body: { ...request, pins: wanted.pins, banned: [...wanted.banned] } })),
    onSuccess: (found, wanted) => change({ do: "match", proposal: found, pins: wanted.pins, banned: wanted.banned }),
  });
  const pins = pinsNow(now);
  return {
    now,
    before,
    cells,
    here,
    figures,
    pins,
    asked: { ...request, pins, banned: [...now.banned] },
    again,
    change,
  };
}

/** What the groups come to, who could take part and who was left out. */
function InWords({
  proposal,
  now,
  weakest,
  cells,
  hasTolerance,
}: {
  proposal: Proposal;
  now: Laid;
  weakest: number;
  cells: ReadonlyMap<string, Schemas["MatchCellOut"]>;
  hasTolerance: boolean;
}) {
  const { left_out, left_over_wh, tolerances } = now.proposal;
  return (
    <>
      <p>
        {figure(proposal.full_v, 1)} V full, {figure(proposal.nominal_v, 1)} V nominal,{" "}
        {figure((weakest / 1000) * proposal.nominal_v)} Wh. {proposal.candidates} cells could take part, of which{" "}
        {figure(left_over_wh)} Wh stay on the shelf
        {left_out.length > 0 && `; left out: ${left_out.map((left) => `${left.count} ${left.reason}`).join(", ")}`}.{" "}
        {voltageWords(now, cells)}
      </p>
      {!hasTolerance && (
        <p>
          {tolerances
            .map(
              (each) =>
                `${TOLERANCE_WORDS[each.key]} (${figure(each.capacity_pct)} %, ${figure(each.resistance_ratio, 1)} times) would let ${each.may_take_part} take part`,
            )
            .join("; ")}
          .
        </p>
      )}
    </>
  );
}

/** What a choice gives up, and how far the resistances inside a group then lie apart. */
function choiceInWords({ give_pct, ...choice }: Schemas["ChoiceOut"]): string {
  const given = give_pct === 0 ? "Strongest" : `${figure(give_pct, give_pct < 1 ? 1 : 0)} % given`;
  const { worst_resistance_ratio: ratio, group_resistance_spread_pct: apart } = choice;
  if (ratio === null || apart === null) return given;
  return `${given}: ${figure(ratio, 2)} times, ${figure(apart)} % apart`;
}

/** Whether the cells can be joined as they lie. */
function voltageWords({ groups, proposal }: Laid, cells: ReadonlyMap<string, Schemas["MatchCellOut"]>): string {
  const volts = groups.flat().flatMap((number) => cells.get(number)?.resting_voltage_v ?? []);
  if (volts.length < groups.flat().length) return "Some resting voltages are not known: measure all before joining.";
  const gap = Math.max(...volts) - Math.min(...volts);
  return gap > proposal.join_within_v + 1e-9
    ? `Resting voltages lie ${figure(gap, 2)} V apart: bring all to one voltage before joining.`
    : `Resting voltages lie ${gap < 0.005 ? "alike" : `within ${figure(gap, 2)} V`}: they can be joined as they are.`;
}

const Stack = styled.div`display: grid; gap: var(--block);`;
const Tools = styled.div`display: flex; flex-wrap: wrap; gap: var(--near);`;
