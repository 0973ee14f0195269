import { useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { usePrints } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { CountField } from "../../components/CountField";
import { Field, LinesField } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { useRemembered } from "../../components/useRemembered";
import { dayAndTime, readNumber } from "../../words";

type Prints = Schemas["PrintsOut"];
type Layout = Prints["layouts"][number];

/** Labels for cells, donors, trays, boxes and packs, in true millimetres. */
export default function LabelsPage() {
  const prints = usePrints();
  return (
    <Page
      title="Labels"
      wide
      lead="A number, and a code that a camera or a scanner reads. Print at 100 %, never fitted to the page."
    >
      {prints.data ? <Labels prints={prints.data} /> : <Waiting query={prints} what="the labels" />}
    </Page>
  );
}

type Settings = { layout: string; x: string; y: string };

function Labels({ prints }: { prints: Prints }) {
  const [settings, remember] = useRemembered("labels", { layout: prints.layouts[0]?.key ?? "", x: "0", y: "0" });
  const [search] = useSearchParams();
  const typed = useTyped({
    numbers: search.get("cells")?.replaceAll(",", " ") ?? prints.unlabelled.join(" "),
    why: "",
  });
  const [first, setFirst] = useState(1);
  const layout = prints.layouts.find((each) => each.key === settings.layout) ?? prints.layouts[0];
  const wanted = typed.values.numbers.split(/[\s,;]+/).filter(Boolean);
  if (!layout) return null;
  const shift = `?shift_x_mm=${readNumber(settings.x) ?? 0}&shift_y_mm=${readNumber(settings.y) ?? 0}`;
  return (
    <TwoColumns $left={1.2}>
      <Sheet>
        <Order
          prints={prints}
          layout={layout}
          typed={typed}
          wanted={wanted}
          first={first}
          onFirst={setFirst}
          onLayout={(next) => {
            remember({ ...settings, layout: next });
            setFirst(1);
          }}
          shift={shift}
        />
      </Sheet>
      <Side>
        <Sheet>
          <h2>On the paper</h2>
          <PaperPicture layout={layout} first={first} count={wanted.length} />
          <Small>
            {layout.label_width_mm} by {layout.label_height_mm} mm
          </Small>
        </Sheet>
        <PrinterCheck layout={layout} settings={settings} onChange={remember} />
        {prints.prints.length > 0 && <Before prints={prints.prints} shift={shift} />}
      </Side>
    </TwoColumns>
  );
}

type OrderProps = {
  prints: Prints;
  layout: Layout;
  typed: ReturnType<typeof useTyped<{ numbers: string; why: string }>>;
  wanted: string[];
  first: number;
  onFirst: (first: number) => void;
  onLayout: (key: string) => void;
  shift: string;
};

/** Whose labels, on which paper, from which on. */
function Order({ prints, layout, typed, wanted, first, onFirst, onLayout, shift }: OrderProps) {
  const record = useWrite((body: Schemas["PrintIn"], key) =>
    answer(() => api.POST("/api/prints", { body, headers: once(key) })),
  );
  const isAgain = record.error instanceof Problem && record.error.field === "why";
  const { why } = typed.values;
  return (
    <Stack
      problem={record.error}
      standsAt={{ number: "numbers" }}
      kind="main"
      send={`Make ${labels(wanted.length)}`}
      isSending={record.isPending}
      waitsFor={wanted.length === 0 ? "First say whose." : null}
      besides={
        record.data && (
          <Notice kind="kept">
            <PdfLink href={`/api/prints/${record.data.id}/labels.pdf${shift}`} target="_blank" rel="noreferrer">
              Open the PDF
            </PdfLink>{" "}
            {labels(record.data.numbers.length)}, on record.
          </Notice>
        )
      }
      onSend={() => record.mutate({ layout: layout.key, numbers: wanted, first, why: why.trim() || null })}
    >
      <Pick
        label="Paper"
        value={layout.key}
        onChange={onLayout}
        options={prints.layouts.map((each) => [each.key, each.name] as const)}
      />
      <LinesField
        label={`Numbers (${wanted.length})`}
        {...typed.field("numbers")}
        hint={
          prints.unlabelled.length > 0
            ? `${prints.unlabelled.length} cells have no label yet. D, T, X and P before a number are donors, trays, boxes and packs.`
            : "D, T, X and P before a number are donors, trays, boxes and packs."
        }
      />
      {prints.unlabelled.length > 0 && (
        <Button onPress={() => typed.set("numbers", prints.unlabelled.join(" "))}>All cells without a label</Button>
      )}
      {layout.paper === "sheet" && layout.labels_per_page > 1 && (
        <CountField
          label="First free label on the sheet"
          value={first}
          onChange={onFirst}
          least={1}
          most={layout.labels_per_page}
        />
      )}
      {(isAgain || why) && <Field label="Why again?" {...typed.field("why")} maxLength={300} autoFocus />}
    </Stack>
  );
}

/** A page to lay a ruler on, and how far the printer is off. */
function PrinterCheck(props: { layout: Layout; settings: Settings; onChange: (next: Settings) => void }) {
  const { layout, settings, onChange } = props;
  return (
    <Sheet>
      <h2>Does your printer hold to it?</h2>
      <p>
        <a href={`/api/test-prints/${layout.key}.pdf`} target="_blank" rel="noreferrer">
          Print a test page
        </a>{" "}
        and lay a ruler on it: 100 mm have to be 100 mm. Hold it against your labels; if it is off, say how far.
      </p>
      <Pair>
        <Field
          label="To the right"
          unit="mm"
          numeric
          value={settings.x}
          onChange={(x) => onChange({ ...settings, x })}
        />
        <Field label="Down" unit="mm" numeric value={settings.y} onChange={(y) => onChange({ ...settings, y })} />
      </Pair>
    </Sheet>
  );
}

function Before({ prints, shift }: { prints: Prints["prints"]; shift: string }) {
  return (
    <Sheet>
      <h2>Printed before</h2>
      <List>
        {prints.slice(0, 8).map((print) => (
          <li key={print.id}>
            <a href={`/api/prints/${print.id}/labels.pdf${shift}`} target="_blank" rel="noreferrer">
              {labels(print.numbers.length)}
            </a>{" "}
            <Small>
              {dayAndTime(print.at)}, {print.by}
              {print.again.length > 0 && `; again ${print.again.slice(0, 4).join(", ")}: “${print.why}”`}
            </Small>
          </li>
        ))}
      </List>
    </Sheet>
  );
}

const labels = (count: number) => `${count} ${count === 1 ? "label" : "labels"}`;

/** The sheet with its labels, those that will be used filled in. */
function PaperPicture({ layout, first, count }: { layout: Layout; first: number; count: number }) {
  const shown = layout.paper === "roll" ? Math.min(Math.max(count, 1), 4) : layout.labels_per_page;
  const columns = layout.paper === "roll" ? shown : layout.columns;
  return (
    <Paper $columns={columns} $roll={layout.paper === "roll"} aria-hidden="true">
      {Array.from({ length: shown }, (_, index) => (
        <Label key={index} $used={index + 1 >= first && index + 1 < first + count} />
      ))}
    </Paper>
  );
}

const Side = styled.div`display: grid; gap: var(--apart);`;
const Stack = styled(AskForm)`display: grid; gap: var(--block); justify-items: stretch;`;
const Pair = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: var(--step); margin-top: var(--near);`;
const Paper = styled.div<{ $columns: number; $roll: boolean }>`
  display: grid;
  grid-template-columns: repeat(${({ $columns }) => $columns}, 1fr);
  gap: 2px;
  width: ${({ $roll }) => ($roll ? "100%" : "11rem")};
  aspect-ratio: ${({ $roll }) => ($roll ? "6 / 1" : "210 / 297")};
  margin: var(--near) 0;
  padding: 8px;
  border: 2px solid ${({ theme }) => theme.color.ink};
  background: #fff;
`;
const Label = styled.i<{ $used: boolean }>`
  border: 1px solid #8a938e;
  background: ${({ $used, theme }) => ($used ? theme.color.tape : "transparent")};
`;
const PdfLink = styled.a`display: inline-flex; align-items: center; min-height: 44px; font-weight: 750;`;
const List = styled.ul`li { padding: var(--slit) 0; border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }`;
const Small = styled.span`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
