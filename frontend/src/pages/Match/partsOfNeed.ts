import type { Schemas } from "../../api/client";
import { readNumber } from "../../words";

type Part = Schemas["PartOfPlanIn"];

/** What a need tells of the plan: what the pack feeds, through what, and what was promised. */
export function partsOf(need: Schemas["NeedIn"]): Part[] {
  const takes = { power: "power_w", current: "current_ma", resistor: "resistance_ohm" }[need.load_kind];
  const window = { least: plain(need.least_v), most: plain(need.most_v) };
  const isStraight = !need.converter && !need.replaced;
  const device: Part = {
    kind: "device",
    figures: {
      [takes]: plain(need.load),
      on_share: "1",
      ...(isStraight && { least_v: window.least, most_v: window.most }),
    },
  };
  const promise: Part = { kind: "promise", figures: { hours: plain(need.hours), leaves: "by-hand" } };
  if (!need.converter) return [device, promise];
  const between = { converter_kind: need.converter, out_v: plain(need.out_v) };
  return [
    device,
    promise,
    { kind: "converter", figures: { ...between, least_in_v: window.least, most_in_v: window.most } },
  ];
}

/** Without the unit that a hand may have typed behind it. */
const plain = (text: string | undefined) => String(readNumber((text ?? "").replace(/[^\d.,-]+$/, "")) ?? "");
