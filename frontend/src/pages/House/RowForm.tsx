import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Catalogue, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field, LinesField, Tick } from "../../components/Fields";
import { Pick } from "../../components/Pick";
import { FAMILY_WORDS, readNumber } from "../../words";
import { CHOICES, type FieldOf, NOT_KNOWN, PARTS, type Part } from "./catalogueParts";

type Row = Record<string, unknown> & { version: number; is_active: boolean };

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
  const typed = useTyped({
    code: "",
    ...Object.fromEntries(fields.map((field) => [field.key, asText(row?.[field.key], field)])),
  } as Record<string, string>);
  // What somebody else kept meanwhile is not written over: the server says so.
  const [seenVersion] = useState(row?.version ?? null);
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
      typed.clear();
      onDone();
    },
  );
  const textOf = (key: string) => typed.values[key] ?? "";
  const isOdd = keep.error instanceof Problem && keep.error.code === "odd-input";
  const isAsked = isOdd && keep.variables?.model?.rated_capacity_mah === readNumber(textOf("rated_capacity_mah"));
  const isMissing =
    fields.some((field) => !field.isOptional && field.kind !== "lines" && textOf(field.key).trim() === "") ||
    (row === null && code !== null && textOf("code").trim() === "");
  const isWrong = fields.some(
    ({ key, kind }) => kind === "number" && textOf(key).trim() !== "" && readNumber(textOf(key)) === null,
  );
  const send = () =>
    keep.mutate({
      code: row === null && code ? textOf("code").trim() : null,
      seen_version: seenVersion,
      confirmed: isAsked,
      [body]: {
        ...Object.fromEntries(fields.map((field) => [field.key, asValue(textOf(field.key), field)])),
        is_active: isActive,
      },
    } as Schemas["RowIn"]);
  return (
    <Stack
      problem={keep.error}
      standsAt={Object.fromEntries(fields.map(({ key }) => [`${body}.${key}`, key]))}
      onSend={send}
      send={isAsked ? "The sheet says so: keep it" : rowKey === null ? "Add it" : "Keep it"}
      isSending={keep.isPending}
      isDisabled={isMissing || isWrong}
      besides={
        rowKey !== null && (
          <Button kind="quiet" onPress={onDone}>
            Leave it
          </Button>
        )
      }
    >
      {row === null && code && <Field label={code} {...typed.field("code")} value={textOf("code")} maxLength={40} />}
      {fields.map((field) => (
        <Asked
          key={field.key}
          field={field}
          choices={field.kind === "family" ? familiesOf(part, field) : CHOICES[field.kind]}
          {...typed.field(field.key)}
          value={textOf(field.key)}
        />
      ))}
      {row !== null && (
        <Tick isSelected={isActive} onChange={setActive}>
          Still used
        </Tick>
      )}
      {isWrong && <p role="status">Plain numbers, e.g. 2600 or 18.3.</p>}
      {keep.isSuccess && rowKey === null && <p role="status">Added.</p>}
    </Stack>
  );
}

/** One field of a row: a choice, some lines, a number or a line of text. */
function Asked({
  field,
  choices,
  ...typed
}: {
  field: FieldOf;
  choices: readonly (readonly [string, string])[] | undefined;
  name: string;
  value: string;
  onChange: (text: string) => void;
}) {
  if (choices)
    return (
      <Pick
        label={field.label}
        {...typed}
        value={typed.value || (field.isOptional ? NOT_KNOWN : (choices[0]?.[0] ?? ""))}
        options={choices}
      />
    );
  if (field.kind === "lines") return <LinesField label={field.label} {...typed} />;
  const isNumber = field.kind === "number";
  return (
    <Field label={field.label} unit={field.unit} numeric={isNumber} {...typed} hint={field.hint} maxLength={240} />
  );
}

function rowOf(catalogue: Catalogue, part: Part, key: string): Row | null {
  const rows = {
    models: catalogue.models,
    formats: catalogue.formats,
    chemistries: catalogue.chemistries,
    "donor-kinds": catalogue.donor_kinds,
    "tray-sizes": catalogue.tray_sizes,
    "pack-parts": catalogue.pack_parts,
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

const Stack = styled(
  AskForm,
)`display: grid; gap: var(--apart); width: 100%; margin-top: var(--near); > button { justify-self: start; }`;
