import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, type Catalogue, type Family, once, Problem, type Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { CountField } from "../../components/CountField";
import { Choice, Field } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { SizeMeaning } from "../../components/SizeMeaning";
import { Tray } from "../../components/Tray";
import { FAMILY_WORDS, readNumber } from "../../words";
import { KindCard } from "./KindCard";
import { RecentDonors } from "./RecentDonors";

type FamilyChoice = Family | "unknown";
const FAMILIES: [FamilyChoice, string][] = [
  ...(Object.entries(FAMILY_WORDS) as [Family, string][]),
  ["unknown", "Not known yet"],
];
/** A refused field may stand a screen above the button. */
const FIELD_WORDS: Record<string, string> = {
  size_code: "the size",
  full_v: "the full voltage",
  rated_capacity_mah: "the rated capacity",
  claimed_capacity_mah: "the claim",
  parallel: "the number side by side",
  cells: "the number of cells",
  description: "your words",
};
const NO_MODEL = "none";
const ANY_TRAY = "any";
const NOTHING_SAID = {
  ...{ description: "", size_code: "", full_v: "", rated_capacity_mah: "", claimed_capacity_mah: "", parallel: "" },
  ...{ model: NO_MODEL, tray: ANY_TRAY, family: "unknown" as FamilyChoice },
};
const NUMBERS = ["rated_capacity_mah", "claimed_capacity_mah", "full_v", "parallel"] as const;
type Typed = ReturnType<typeof useTyped<typeof NOTHING_SAID>>;

/** A dead device becomes numbered cells in a tray, in one go. */
export default function OpenDonorPage() {
  const catalogue = useCatalogue();
  if (!catalogue.data)
    return (
      <Page title="Open a donor">
        <Waiting query={catalogue} what="the kinds of devices" />
      </Page>
    );
  return <OpenDonor catalogue={catalogue.data} />;
}

function OpenDonor({ catalogue }: { catalogue: Catalogue }) {
  const kinds = catalogue.donor_kinds.filter((each) => each.is_active);
  const [code, setCode] = useState(kinds[0]?.code ?? "");
  const kind = kinds.find((each) => each.code === code);
  const turnedAway = catalogue.turned_away.find((each) => each.code === code);
  return (
    <Page
      title="Open a donor"
      lead="The dead device your cells come out of. Say what you know, leave out what you do not."
    >
      <TwoColumns $left={1.35}>
        <Sheet>
          <Choice
            label="What is it?"
            value={code}
            onChange={setCode}
            options={kinds.map((each) => [each.code, each.name] as const)}
          />
          <NotHere>
            <Choice
              label="Not opened at this table"
              value={code}
              onChange={setCode}
              options={catalogue.turned_away.map((each) => [each.code, each.name] as const)}
            />
          </NotHere>
          {turnedAway && (
            <TurnedAway role="status">
              <h2>{turnedAway.name}: not for this table</h2>
              <p>{turnedAway.instead}</p>
              <p>Thank whoever brought it, and keep it closed.</p>
            </TurnedAway>
          )}
          {kind && <DonorForm key={kind.code} kind={kind} catalogue={catalogue} />}
        </Sheet>
        <Side>
          {kind && <KindCard kind={kind} />}
          <RecentDonors />
        </Side>
      </TwoColumns>
    </Page>
  );
}

function DonorForm({ kind, catalogue }: { kind: Schemas["DonorKindOut"]; catalogue: Catalogue }) {
  const navigate = useNavigate();
  const [cells, setCells] = useState(kind.cells_least);
  const typed = useTyped({
    ...NOTHING_SAID,
    size_code: kind.usual_size ?? "",
    // Of something that could be anything nothing is assumed: its cells are not charged above 3.60 V until somebody knows.
    family: (kind.usual_family ?? "unknown") as FamilyChoice,
  });
  const { values, field } = typed;
  const open = useWrite(
    (body: Schemas["DonorIn"], key) => answer(() => api.POST("/api/donors", { body, headers: once(key) })),
    (donor) => navigate(`/donors/${donor.number}`),
  );
  const problem = open.error instanceof Problem ? open.error : null;
  const rated = readNumber(values.rated_capacity_mah);
  // Asked about once: the same value sent again is meant.
  const isAsked = problem?.code === "odd-input" && open.variables?.rated_capacity_mah === rated;
  const isBeside = problem?.field === "cells" || (problem?.field ?? "") in values;
  const wrongNumber = NUMBERS.some((key) => values[key].trim() !== "" && readNumber(values[key]) === null);
  const model = catalogue.models.find((each) => String(each.id) === values.model) ?? null;
  return (
    <Stack
      problem={open.error}
      send={
        <>
          {isAsked && "The sheet says so: "}
          {isAsked ? "number" : "Number"} {cells === 1 ? "this cell" : `these ${cells} cells`}
        </>
      }
      waitsFor={wrongNumber ? "First mend what is no plain number." : null}
      isSending={open.isPending}
      onSend={() =>
        open.mutate({
          kind: kind.code,
          description: values.description,
          cells,
          size_code: values.size_code.trim() || null,
          family: values.family === "unknown" ? null : values.family,
          full_v: values.family === "high-voltage-cobalt" ? readNumber(values.full_v) : null,
          rated_capacity_mah: rated,
          claimed_capacity_mah: readNumber(values.claimed_capacity_mah),
          model_id: model?.id ?? null,
          tray_size_id: values.tray === ANY_TRAY ? null : Number(values.tray),
          parallel: readNumber(values.parallel),
          confirmed: isAsked,
        })
      }
    >
      <Field
        label="In your words"
        hint="So that others know it again, e.g. school laptop, hinge broken."
        {...field("description")}
        maxLength={200}
      />
      <Pair>
        <CountField
          label="How many cells?"
          name="cells"
          value={cells}
          onChange={setCells}
          least={1}
          most={40}
          error={problem?.field === "cells" ? problem.message : null}
        />
        {!model && (
          <Field
            label="Size"
            hint="18650, or 603048 for a flat one. Leave empty if unknown."
            {...field("size_code")}
            maxLength={24}
          />
        )}
      </Pair>
      <CellKind models={catalogue.models} model={model} typed={typed} />
      <TrayPick sizes={catalogue.tray_sizes} cells={cells} typed={typed} />
      {wrongNumber && <p role="status">Capacities and voltages are plain numbers, e.g. 2600 or 4.35.</p>}
      {isBeside && !isAsked && (
        <Notice kind="error">
          Nothing was numbered yet: {FIELD_WORDS[problem?.field ?? ""] ?? "a field"} was refused.
        </Notice>
      )}
    </Stack>
  );
}

/** What its cells are: by the catalogue, else by chemistry, sheet and print. */
function CellKind({
  models,
  model,
  typed: { values, field },
}: {
  models: Catalogue["models"];
  model: Schemas["ModelOut"] | null;
  typed: Typed;
}) {
  const active = models.filter((each) => each.is_active);
  return (
    <>
      {active.length > 0 && (
        <Pick
          label="Model of the cells, if the print names it"
          {...field("model")}
          options={[
            [NO_MODEL, "Not in the catalogue"],
            ...active.map((each) => [String(each.id), modelWords(each)] as const),
          ]}
        />
      )}
      {!model && <Pick label="Chemistry" {...field("family")} options={FAMILIES} />}
      {!model && values.family === "high-voltage-cobalt" && (
        <Field
          label="Marked full voltage"
          unit="V"
          hint="4.35, 4.40 or 4.45 as printed. Unsure: leave empty, then 4.20 V counts."
          {...field("full_v")}
          numeric
        />
      )}
      <Pair>
        {!model && (
          <Field
            label="Rated, from a data sheet"
            unit="mAh"
            hint="Only from a sheet you trust."
            {...field("rated_capacity_mah")}
            numeric
          />
        )}
        <Field
          label="Claimed on the cell"
          unit="mAh"
          hint="Kept, never believed."
          {...field("claimed_capacity_mah")}
          numeric
        />
      </Pair>
      {!model && (
        <SizeMeaning
          code={values.size_code}
          family={values.family === "unknown" ? null : values.family}
          claimMah={readNumber(values.claimed_capacity_mah)}
        />
      )}
    </>
  );
}

/** Where its cells will lie, and which of them were joined. */
function TrayPick({
  sizes,
  cells,
  typed: { values, field },
}: {
  sizes: Catalogue["tray_sizes"];
  cells: number;
  typed: Typed;
}) {
  const active = sizes.filter((each) => each.is_active);
  const tray = active.find((each) => String(each.id) === values.tray) ??
    active.find((each) => each.rows * each.columns >= Math.max(cells, 20)) ?? { rows: 4, columns: 5 };
  return (
    <>
      <Pair>
        <Pick
          label="Tray"
          {...field("tray")}
          options={[
            [ANY_TRAY, "Wherever there is room"],
            ...active.map((each) => [String(each.id), `A new one: ${each.name}`] as const),
          ]}
        />
        <Field
          label="Joined pack: cells side by side in a group"
          hint="Leave empty if they come out single."
          {...field("parallel")}
          numeric
        />
      </Pair>
      <Tray
        name={`Room for ${cells}`}
        small
        rows={tray.rows}
        columns={tray.columns}
        cells={Array.from({ length: cells }, (_, index) => ({
          number: "",
          slot: index + 1,
          grade: "not-yet",
          step: null,
        }))}
      />
    </>
  );
}

function modelWords(model: Schemas["ModelOut"]): string {
  return `${model.name}, ${model.size_code}, ${model.rated_capacity_mah} mAh`;
}

const Side = styled.div`display: grid; gap: var(--near);`;
const Stack = styled(AskForm)`display: grid; gap: 1.125rem; margin-top: 1.125rem;`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--block);
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const NotHere = styled.div`
  margin-top: var(--apart);
  font-size: ${({ theme }) => theme.size.note};
  label { border-style: dashed; }
`;
const TurnedAway = styled.div`
  display: grid;
  gap: var(--near);
  margin-top: var(--block);
  padding: var(--block) var(--sheet);
  border-left: 8px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
`;
