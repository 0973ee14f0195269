import { DONOR_KINDS } from "../../api/codes";
import { named } from "../../catalogue";
import { DRAIN_WORDS, PROTECTION_OF_KIND_WORDS } from "../../words";

const JUDGED_WORDS = named("judged-as", DONOR_KINDS);

export type Part = "models" | "formats" | "chemistries" | "donor-kinds" | "tray-sizes" | "pack-parts";
export type FieldKind = "text" | "number" | "lines" | "family" | "drain" | "protection" | "judged";
export type FieldOf = {
  key: string;
  label: string;
  kind: FieldKind;
  unit?: string;
  hint?: string;
  isOptional?: boolean;
};

export const CHOICES: Partial<Record<FieldKind, readonly (readonly [string, string])[]>> = {
  drain: Object.entries(DRAIN_WORDS),
  protection: Object.entries(PROTECTION_OF_KIND_WORDS),
  judged: Object.entries(JUDGED_WORDS),
};
export const NOT_KNOWN = "not-known";

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
    // What else is asked depends on its kind: it has a form of its own.
    "pack-parts": { word: "Parts of packs", add: "Add a part of packs", body: "pack_part", code: null, fields: [] },
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
