import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../../api/client";
import { RoomyForm, useTyped } from "../../../components/AskForm";
import { Button } from "../../../components/Button";
import { Field } from "../../../components/Fields";
import { Fold } from "../../../components/Fold";
import { readNumber } from "../../../words";
import type { Layout } from "./layout";

const RECT = { x_mm: "", y_mm: "", long_mm: "", wide_mm: "" };

/** The inside of a case, and what of it is taken; asked for nothing the cells lie free. */
export function CaseForm({
  layout,
  isSending,
  problem,
  onAsk,
}: {
  layout: Layout | null;
  isSending: boolean;
  problem: unknown;
  onAsk: (asked: Schemas["CaseIn"] | null) => void;
}) {
  const was = layout?.case;
  const { values, field } = useTyped({
    length_mm: was ? String(was.length_mm) : "",
    width_mm: was ? String(was.width_mm) : "",
    height_mm: was ? String(was.height_mm) : "",
    ...RECT,
  });
  const [keepOuts, setKeepOuts] = useState<Schemas["RectIn"][]>(was?.keep_outs ?? []);
  const sides = [values.length_mm, values.width_mm, values.height_mm].map(readNumber);
  const isEmpty = [values.length_mm, values.width_mm, values.height_mm].every((typed) => !typed.trim());
  const isWhole = sides.every((side) => side !== null && side > 0);
  const rect = [values.x_mm, values.y_mm, values.long_mm, values.wide_mm].map(readNumber);
  return (
    <RoomyForm
      problem={problem}
      isSending={isSending}
      send="Propose"
      kind="plain"
      waitsFor={isEmpty || isWhole ? null : "All three inner measures, or none."}
      onSend={() =>
        onAsk(
          isEmpty
            ? null
            : {
                length_mm: sides[0] ?? 0,
                width_mm: sides[1] ?? 0,
                height_mm: sides[2] ?? 0,
                keep_outs: keepOuts,
              },
        )
      }
    >
      <Three>
        <Field label="Case, inside: length" unit="mm" numeric maxLength={8} {...field("length_mm")} />
        <Field label="width" unit="mm" numeric maxLength={8} {...field("width_mm")} />
        <Field label="height" unit="mm" numeric maxLength={8} {...field("height_mm")} />
      </Three>
      <Fold
        title={
          keepOuts.length ? `${keepOuts.length} kept out: board, screws, lid` : "Something kept out: board, screw, lid"
        }
      >
        <Kept>
          {keepOuts.map((each, index) => (
            <li key={`${each.x_mm} ${each.y_mm} ${each.length_mm} ${each.width_mm}`}>
              {each.length_mm} × {each.width_mm} mm, {each.x_mm} mm from the left, {each.y_mm} mm from the back{" "}
              <Button kind="quiet" onPress={() => setKeepOuts(keepOuts.filter((_, at) => at !== index))}>
                Leave out
              </Button>
            </li>
          ))}
        </Kept>
        <Three>
          <Field label="From the left" unit="mm" numeric maxLength={8} {...field("x_mm")} />
          <Field label="From the back" unit="mm" numeric maxLength={8} {...field("y_mm")} />
          <Field label="Its length" unit="mm" numeric maxLength={8} {...field("long_mm")} />
          <Field label="Its width" unit="mm" numeric maxLength={8} {...field("wide_mm")} />
        </Three>
        <Button
          isDisabled={!rect.every((each) => each !== null && each >= 0) || !rect[2] || !rect[3]}
          onPress={() =>
            setKeepOuts([
              ...keepOuts,
              { x_mm: rect[0] ?? 0, y_mm: rect[1] ?? 0, length_mm: rect[2] ?? 0, width_mm: rect[3] ?? 0 },
            ])
          }
        >
          Keep this out
        </Button>
      </Fold>
    </RoomyForm>
  );
}

const Three = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(6.5rem, 1fr)); gap: var(--near); align-items: end; width: 100%; margin-bottom: var(--near);`;
const Kept = styled.ul`display: grid; margin-bottom: var(--near);`;
