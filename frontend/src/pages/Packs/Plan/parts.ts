import type { Catalogue, Pack, Schemas } from "../../../api/client";
import { CHOICE_WORDS } from "../../../words";

export type PartIn = Schemas["PartOfPlanIn"];
export type PartKind = PartIn["kind"];
export type Asked = Catalogue["parts_asked"][number];

/** Which kept parts of donors may be which part of a pack. */
const KEPT_AS: Partial<Record<PartKind, Schemas["PartOut"]["kind"]>> = {
  charger: "charger-board",
  board: "protection-board",
  holder: "holder",
  switch: "switch",
  converter: "converter",
  connector: "connector",
};
export const keptAs = (kind: PartKind, parts: readonly Schemas["PartOut"][]) =>
  parts.filter((part) => part.gone_at === null && part.kind === KEPT_AS[kind]);

/** What a form begins with. */
export const beginning = (asked: Asked): Record<string, string> =>
  Object.fromEntries(asked.needs.map((need) => [need.key, need.example ?? ""]));

/** What is known of a part in a line, in the words of its form. */
export function figuresSaid(asked: Asked, figures: Record<string, string>): string {
  return asked.needs
    .flatMap((need) => {
      const value = figures[need.key];
      if (!value || (need.key === "on_share" && value === "1")) return [];
      if (need.need === "choice") {
        const word = CHOICE_WORDS[value] ?? value;
        return [need.key.endsWith("kind") || need.key === "material" ? word : `${need.meaning}: ${word}`];
      }
      return [`${need.meaning} ${value}${need.unit && ` ${need.unit}`}`];
    })
    .join(", ");
}

/** The parts as they are sent back, one put in or taken out. */
export const sentBack = (pack: Pack): PartIn[] =>
  pack.parts.map(({ kind, name, figures, part_id }) => ({ kind, name, figures, part_id }));
