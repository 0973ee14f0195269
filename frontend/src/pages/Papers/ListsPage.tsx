import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { LIST_COLUMNS } from "../../api/codes";
import { useWrite } from "../../api/writing";
import { named } from "../../catalogue";
import { Button, ButtonLink } from "../../components/Button";
import { FileButton } from "../../components/FileButton";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Page, Sheet } from "../../components/Page";
import { Table, type Column as TableColumn } from "../../components/Table";
import { figure } from "../../words";
import { StoryIn } from "./StoryIn";

const COLUMN_WORDS = named("column", LIST_COLUMNS);

type Preview = Schemas["ListPreviewOut"];
type Column = NonNullable<Preview["columns"][number]["column"]>;
type Chosen = { name: string; content: string };

const UNIT_WORDS: Record<string, string> = {
  v: "V",
  mv: "mV",
  ah: "Ah",
  mah: "mAh",
  ohm: "Ω",
  ω: "Ω",
  mohm: "mΩ",
  mω: "mΩ",
};
const LEFT_OUT = "left-out";
const SHOWN = 12;

/** A list that was kept elsewhere comes in, looked at before anything is stored; and everything can go out. */
export default function ListsPage() {
  const [file, setFile] = useState<Chosen | null>(null);
  const [columns, setColumns] = useState<(Column | null)[] | null>(null);
  const preview = useMutation({
    mutationFn: ({ chosen, mapping }: { chosen: Chosen; mapping: (Column | null)[] | null }) =>
      answer(() =>
        api.POST("/api/lists/previews", {
          body: { file_name: chosen.name, content: chosen.content, columns: mapping },
        }),
      ),
    onSuccess: (found) => setColumns(found.columns.map((each) => each.column)),
  });
  const take = useWrite((body: Schemas["ListIn"], key) =>
    answer(() => api.POST("/api/lists", { body, headers: once(key) })),
  );
  const choose = async (picked: File) => {
    const chosen = { name: picked.name, content: await asBase64(picked) };
    setFile(chosen);
    setColumns(null);
    take.reset();
    preview.mutate({ chosen, mapping: null });
  };
  const remap = (index: number, column: Column | null) => {
    if (!file || !columns) return;
    const mapping = columns.map((old, at) => (at === index ? column : old === column ? null : old));
    setColumns(mapping);
    preview.mutate({ chosen: file, mapping });
  };
  return (
    <Page
      title="Lists in and out"
      wide
      lead="A table you kept so far becomes donors and cells, all of it or nothing. Everything here goes out again as plain tables."
    >
      <Columns>
        <Sheet>
          <h2>Take in a list</h2>
          <p>
            CSV or a spreadsheet (.xlsx), a cell in each line, a header on top.{" "}
            <a href="/api/lists/template.csv">Empty list to fill in</a>
          </p>
          <FileButton
            isMain
            accept=".csv,.tsv,.txt,.xlsx,text/csv,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
            onFile={(picked) => void choose(picked)}
          >
            {file ? "Choose another file" : "Choose a file"}
          </FileButton>
          {file && <p>{file.name}</p>}
          <ProblemNotice problem={preview.error ?? take.error} />
          {take.data && (
            <Notice kind="kept">
              {take.data.cells} cells taken in; they lie in a box of their own until you move them.{" "}
              <ButtonLink to="/places" $kind="quiet">
                Trays and boxes
              </ButtonLink>
            </Notice>
          )}
        </Sheet>
        <Sheet>
          <h2>Give everything out</h2>
          <p>Donors and cells, a unit in the name of every column. Times are in UTC.</p>
          <Links>
            <a href="/api/exports/zembric.zip">All as one file (ZIP)</a>
            <a href="/api/exports/cells.csv">Cells (CSV)</a>
            <a href="/api/exports/donors.csv">Donors (CSV)</a>
          </Links>
        </Sheet>
        <StoryIn />
      </Columns>
      {preview.data && columns && file && !take.data && (
        <PreviewSheet
          preview={preview.data}
          columns={columns}
          onRemap={remap}
          isTaking={take.isPending}
          onTake={() => take.mutate({ file_name: file.name, content: file.content, columns })}
        />
      )}
    </Page>
  );
}

function PreviewSheet({
  preview,
  columns,
  onRemap,
  onTake,
  isTaking,
}: {
  preview: Preview;
  columns: (Column | null)[];
  onRemap: (index: number, column: Column | null) => void;
  onTake: () => void;
  isTaking: boolean;
}) {
  const { problems, cells } = preview;
  const old = cells.length - preview.new;
  return (
    <Below aria-label="What the list becomes">
      <h2>
        {preview.new} {preview.new === 1 ? "cell" : "cells"} of {preview.donors}{" "}
        {preview.donors === 1 ? "donor" : "donors"}
        {old > 0 && `; ${old} are here already and are left out`}
      </h2>
      <Heads>
        {preview.columns.map((each, index) => (
          <label key={`${index}-${each.header}`}>
            <span>{each.header || `column ${index + 1}`}</span>
            <select
              value={columns[index] ?? LEFT_OUT}
              onChange={(event) =>
                onRemap(index, event.target.value === LEFT_OUT ? null : (event.target.value as Column))
              }
            >
              <option value={LEFT_OUT}>Left out</option>
              {Object.entries(COLUMN_WORDS).map(([key, word]) => (
                <option key={key} value={key}>
                  {word}
                </option>
              ))}
            </select>
            {each.unit && <Small>in {UNIT_WORDS[each.unit] ?? each.unit}</Small>}
          </label>
        ))}
      </Heads>
      {problems.length > 0 && (
        <Notice kind="error">
          <strong>
            {problems.length} {problems.length === 1 ? "thing stands" : "things stand"} in the way. Mend them in the
            file and choose it again.
          </strong>
          <ul>
            {problems.slice(0, SHOWN).map((problem) => (
              <li key={`${problem.line}-${problem.header}`}>
                Line {problem.line}, {problem.header}: {problem.text}
              </li>
            ))}
            {problems.length > SHOWN && <li>and {problems.length - SHOWN} more</li>}
          </ul>
        </Notice>
      )}
      <Lines label="First lines" columns={COLUMNS} rows={cells.slice(0, SHOWN)} keyOf={(cell) => cell.line} />
      {cells.length > SHOWN && <Small>and {cells.length - SHOWN} more lines</Small>}
      <Button kind="main" isDisabled={isTaking || problems.length > 0 || preview.new === 0} onPress={onTake}>
        Take in {preview.new} {preview.new === 1 ? "cell" : "cells"}
      </Button>
    </Below>
  );
}

function asBase64(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).split(",", 2)[1] ?? "");
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(file);
  });
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr);
  gap: var(--sheet);
  align-items: start;
  > section { display: grid; gap: var(--apart); justify-items: start; }
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Links = styled.div`display: grid; gap: var(--hair); a { display: inline-flex; align-items: center; min-height: 44px; font-weight: 700; }`;
const Below = styled(
  Sheet,
)`display: grid; gap: var(--step); justify-items: start; margin-top: var(--sheet); > * { max-width: 100%; }`;
const Heads = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap) var(--block);
  label { display: grid; }
  span { font-weight: 700; }
  select { min-height: 44px; padding: 0 var(--near); border: 2px solid ${({ theme }) => theme.color.inkSoft}; border-radius: 3px; background: ${({ theme }) => theme.color.paper}; }
`;
type ListedCell = Schemas["ListPreviewOut"]["cells"][number];
const COLUMNS: TableColumn<ListedCell>[] = [
  { head: "Line", cell: (cell) => cell.line },
  { head: "Label", cell: (cell) => cell.label ?? "–" },
  { head: "Donor", cell: (cell) => cell.donor || "–" },
  { head: "Size", cell: (cell) => cell.size_code ?? "–" },
  { head: "Voltage", cell: (cell) => (cell.voltage_v === null ? "–" : `${figure(cell.voltage_v, 2)} V`) },
  { head: "Capacity", cell: (cell) => (cell.capacity_mah === null ? "–" : `${figure(cell.capacity_mah)} mAh`) },
  { head: "Resistance", cell: (cell) => (cell.resistance_mohm === null ? "–" : `${figure(cell.resistance_mohm)} mΩ`) },
];
const Lines = styled(Table<ListedCell>)`
  border-collapse: collapse;
  th, td { padding: var(--hair) var(--step) var(--hair) 0; text-align: left; white-space: nowrap; }
  tbody td { border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
`;
const Small = styled.small`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
