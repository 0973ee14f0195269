import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, type Catalogue, once, Problem, type Schemas } from "../../api/client";
import { DONOR_KINDS } from "../../api/codes";
import { useWrite } from "../../api/writing";
import { named } from "../../catalogue";
import { Button } from "../../components/Button";
import { Field, LinesField, Tick } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Pick } from "../../components/Pick";
import { DRAIN_WORDS, FAMILY_WORDS, PROTECTION_OF_KIND_WORDS, readNumber } from "../../words";

const JUDGED_WORDS = named("judged-as", DONOR_KINDS);

export type Part = "models" | "formats" | "chemistries" | "donor-kinds" | "tray-sizes";
type Row = Record<string, unknown> & { version: number; is_active: boolean };
type FieldKind = "text" | "number" | "lines" | "family" | "drain" | "protection" | "judged";
type FieldOf = { key: string; label: string; kind: FieldKind; unit?: string; hint?: string; isOptional?: boolean };

const CHOICES: Partial<Record<FieldKind, readonly (readonly [string, string])[]>> = {
  drain: Object.entries(DRAIN_WORDS),
  protection: Object.entries(PROTECTION_OF_KIND_WORDS),
  judged: Object.entries(JUDGED_WORDS),
};
const NOT_KNOWN = "not-known";

/** What each part of the catalogue consists of, in the order it is asked. */
export const PARTS: Record<Part, { word: string; add: string; body: string; code: string | null; fields: FieldOf[] }> =
  {
    models: {
      word: "Cell models",
      add: "Add a cell model",
      body: "model",
      code: null,
      fields: [
        { key: "name", label: "Name on the print", kind: "text" },
        { key: "size_code", label: "Size", kind: "text", hint: "18650, 603048 …" },
        { key: "family", label: "Chemistry", kind: "family" },
        { key: "rated_capacity_mah", label: "Rated capacity", kind: "number", unit: "mAh" },
        { key: "full_v", label: "Full at", kind: "number", unit: "V", isOptional: true, hint: "Empty: as its family." },
        { key: "cut_off_v", label: "Empty at", kind: "number", unit: "V", isOptional: true },
        { key: "most_charge_ma", label: "Charge current at most", kind: "number", unit: "mA", isOptional: true },
        { key: "most_discharge_ma", label: "Discharge current at most", kind: "number", unit: "mA", isOptional: true },
        { key: "source", label: "Where the sheet came from", kind: "text" },
        { key: "sheet_date", label: "Date of the sheet", kind: "text", isOptional: true, hint: "2026-03-31" },
      ],
    },
    formats: {
      word: "Sizes",
      add: "Add a size",
      body: "format",
      code: "Code as it is printed",
      fields: [
        { key: "name", label: "What it is", kind: "text" },
        { key: "width_mm", label: "Width, or across", kind: "number", unit: "mm" },
        { key: "length_mm", label: "Length", kind: "number", unit: "mm" },
        {
          key: "thickness_mm",
          label: "Thickness",
          kind: "number",
          unit: "mm",
          isOptional: true,
          hint: "Empty if it is round.",
        },
        { key: "note", label: "Note", kind: "text", isOptional: true },
      ],
    },
    chemistries: {
      word: "Chemistries",
      add: "Add a chemistry",
      body: "chemistry",
      code: "Short name",
      fields: [
        { key: "name", label: "Name", kind: "text" },
        { key: "family", label: "Treated as", kind: "family" },
        { key: "full_v", label: "Full at", kind: "number", unit: "V", isOptional: true, hint: "Empty: as its family." },
        { key: "note", label: "Note", kind: "text", isOptional: true },
      ],
    },
    "donor-kinds": {
      word: "Kinds of devices",
      add: "Add a kind of device",
      body: "donor_kind",
      code: "Short name",
      fields: [
        { key: "name", label: "Name", kind: "text" },
        { key: "sizes", label: "Sizes you mostly find", kind: "text" },
        { key: "usual_size", label: "Usual size, filled in beforehand", kind: "text", isOptional: true },
        { key: "usual_family", label: "Usual chemistry", kind: "family", isOptional: true },
        { key: "cells_least", label: "Cells, at least", kind: "number" },
        { key: "cells_most", label: "Cells, at most", kind: "number" },
        { key: "drain", label: "Made for", kind: "drain" },
        { key: "protection", label: "Protection", kind: "protection" },
        { key: "judged_as", label: "Its cells are judged like", kind: "judged" },
        { key: "cautions", label: "Cautions for opening it, one a line", kind: "lines" },
        { key: "traps", label: "What people fall for, one a line", kind: "lines" },
      ],
    },
    "tray-sizes": {
      word: "Tray sizes",
      add: "Add a tray size",
      body: "tray_size",
      code: null,
      fields: [
        { key: "name", label: "Name", kind: "text" },
        { key: "rows", label: "Rows", kind: "number" },
        { key: "columns", label: "Columns", kind: "number" },
      ],
    },
  };

/** One row of the catalogue, new or changed. */
export function RowForm({
  catalogue,
  part,
  rowKey,
  onDone,
}: {
  catalogue: Catalogue;
  part: Part;
  rowKey: string | null;
  onDone: () => void;
}) {
  const { fields, body, code } = PARTS[part];
  const row = rowKey === null ? null : rowOf(catalogue, part, rowKey);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [newCode, setNewCode] = useState("");
  const [isActive, setActive] = useState(row?.is_active ?? true);
  const keep = useWrite(
    (sent: Schemas["RowIn"], key) =>
      answer(() =>
        rowKey === null
          ? api.POST("/api/catalogue/{part}", { params: { path: { part } }, headers: once(key), body: sent })
          : api.PUT("/api/catalogue/{part}/{key}", {
              params: { path: { part, key: rowKey } },
              headers: once(key),
              body: sent,
            }),
      ),
    () => {
      setTyped({});
      setNewCode("");
      onDone();
    },
  );
  const problem = keep.error instanceof Problem ? keep.error : null;
  const asked = problem?.code === "odd-input" ? keep.variables?.model?.rated_capacity_mah : null;
  const fieldOfProblem = problem?.field?.split(".").at(-1) ?? null;
  const textOf = (field: FieldOf) => typed[field.key] ?? asText(row?.[field.key], field);
  const isAsked = asked != null && asked === readNumber(typed.rated_capacity_mah ?? String(row?.rated_capacity_mah));
  const isMissing = fields.some((field) => !field.isOptional && field.kind !== "lines" && textOf(field).trim() === "");
  const isWrong = fields.some(
    (field) => field.kind === "number" && textOf(field).trim() !== "" && readNumber(textOf(field)) === null,
  );
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        const values = Object.fromEntries(fields.map((field) => [field.key, asValue(textOf(field), field)]));
        keep.mutate({
          code: row === null && code ? newCode.trim() : null,
          seen_version: row?.version ?? null,
          confirmed: isAsked,
          [body]: { ...values, is_active: isActive },
        } as Schemas["RowIn"]);
      }}
    >
      {row === null && code && (
        <Field
          label={code}
          value={newCode}
          onChange={setNewCode}
          maxLength={40}
          error={fieldOfProblem === "code" ? (problem?.message ?? null) : null}
        />
      )}
      {fields.map((field) => {
        const error = fieldOfProblem === field.key ? (problem?.message ?? null) : null;
        const put = (text: string) => setTyped((before) => ({ ...before, [field.key]: text }));
        const choices = field.kind === "family" ? familiesOf(part, field) : CHOICES[field.kind];
        if (choices)
          return (
            <Pick
              key={field.key}
              label={field.label}
              value={textOf(field) || (field.isOptional ? NOT_KNOWN : (choices[0]?.[0] ?? ""))}
              onChange={put}
              options={choices}
            />
          );
        if (field.kind === "lines")
          return <LinesField key={field.key} label={field.label} value={textOf(field)} onChange={put} error={error} />;
        return (
          <Field
            key={field.key}
            label={field.label}
            unit={field.unit}
            numeric={field.kind === "number"}
            value={textOf(field)}
            onChange={put}
            hint={field.hint}
            maxLength={240}
            error={error}
          />
        );
      })}
      {row !== null && (
        <Tick isSelected={isActive} onChange={setActive}>
          Still used
        </Tick>
      )}
      {isWrong && <p role="status">Plain numbers, e.g. 2600 or 18.3.</p>}
      {problem && !fields.some((field) => field.key === fieldOfProblem) && fieldOfProblem !== "code" && (
        <ProblemNotice problem={problem} />
      )}
      {keep.isSuccess && rowKey === null && <p role="status">Added.</p>}
      <Buttons>
        <Button
          kind="main"
          type="submit"
          isDisabled={
            keep.isPending || isMissing || isWrong || (row === null && code !== null && newCode.trim() === "")
          }
        >
          {isAsked ? "The sheet says so: keep it" : rowKey === null ? "Add it" : "Keep it"}
        </Button>
        {rowKey !== null && (
          <Button kind="quiet" onPress={onDone}>
            Leave it
          </Button>
        )}
      </Buttons>
    </Stack>
  );
}

function rowOf(catalogue: Catalogue, part: Part, key: string): Row | null {
  const rows = {
    models: catalogue.models,
    formats: catalogue.formats,
    chemistries: catalogue.chemistries,
    "donor-kinds": catalogue.donor_kinds,
    "tray-sizes": catalogue.tray_sizes,
  }[part] as readonly (Row & { id?: number; code?: string })[];
  return rows.find((row) => String(row.id ?? row.code) === key) ?? null;
}

function familiesOf(part: Part, field: FieldOf): (readonly [string, string])[] {
  const families = Object.entries(FAMILY_WORDS).filter(([key]) => part !== "models" || key !== "primary");
  return field.isOptional ? [[NOT_KNOWN, "Not known"], ...families] : families;
}

function asText(value: unknown, field: FieldOf): string {
  if (field.kind === "lines") return Array.isArray(value) ? value.join("\n") : "";
  if (value === null || value === undefined) return field.isOptional ? "" : firstChoice(field);
  return String(value);
}

function firstChoice(field: FieldOf): string {
  return field.kind === "family" ? "layered-oxide" : (CHOICES[field.kind]?.[0]?.[0] ?? "");
}

function asValue(text: string, field: FieldOf): unknown {
  const trimmed = text.trim();
  if (field.kind === "lines")
    return trimmed
      .split("\n")
      .map((line) => line.trim())
      .filter(Boolean);
  if (trimmed === "" || trimmed === NOT_KNOWN) return field.key === "note" ? "" : null;
  return field.kind === "number" ? readNumber(trimmed) : trimmed;
}

const Stack = styled(Form)`display: grid; gap: var(--apart); width: 100%; margin-top: var(--near);`;
const Buttons = styled.div`display: flex; gap: var(--gap);`;
