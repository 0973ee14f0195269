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
    description: "",
    size_code: kind.usual_size ?? "",
    full_v: "",
    rated_capacity_mah: "",
    claimed_capacity_mah: "",
    parallel: "",
  });
  const { description, size_code: size, parallel } = typed.values;
  const { full_v: fullV, rated_capacity_mah: rated, claimed_capacity_mah: claimed } = typed.values;
  // Of something that could be anything nothing is assumed: its cells are not charged above 3.60 V until somebody knows.
  const [family, setFamily] = useState<FamilyChoice>(kind.usual_family ?? "unknown");
  const [modelId, setModelId] = useState(NO_MODEL);
  const [traySizeId, setTraySizeId] = useState(ANY_TRAY);
  const open = useWrite(
    (body: Schemas["DonorIn"], key) => answer(() => api.POST("/api/donors", { body, headers: once(key) })),
    (donor) => navigate(`/donors/${donor.number}`),
  );
  const problem = open.error instanceof Problem ? open.error : null;
  // Asked about once: the same value sent again is meant.
  const isAsked = problem?.code === "odd-input" && open.variables?.rated_capacity_mah === readNumber(rated);
  const isBeside = problem?.field === "cells" || (problem?.field ?? "") in typed.values;
  const wrongNumber = [rated, claimed, fullV, parallel].some((text) => text.trim() !== "" && readNumber(text) === null);
  const model = catalogue.models.find((each) => String(each.id) === modelId);
  const models = catalogue.models.filter((each) => each.is_active);
  const traySizes = catalogue.tray_sizes.filter((each) => each.is_active);
  const tray = traySizes.find((each) => String(each.id) === traySizeId) ??
    traySizes.find((each) => each.rows * each.columns >= Math.max(cells, 20)) ?? { rows: 4, columns: 5, name: "" };
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
          description,
          cells,
          size_code: size.trim() || null,
          family: family === "unknown" ? null : family,
          full_v: family === "high-voltage-cobalt" ? readNumber(fullV) : null,
          rated_capacity_mah: readNumber(rated),
          claimed_capacity_mah: readNumber(claimed),
          model_id: model?.id ?? null,
          tray_size_id: traySizeId === ANY_TRAY ? null : Number(traySizeId),
          parallel: readNumber(parallel),
          confirmed: isAsked,
        })
      }
    >
      <Field
        label="In your words"
        hint="So that others know it again, e.g. school laptop, hinge broken."
        {...typed.field("description")}
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
            {...typed.field("size_code")}
            maxLength={24}
          />
        )}
      </Pair>
      {models.length > 0 && (
        <Pick
          label="Model of the cells, if the print names it"
          value={modelId}
          onChange={setModelId}
          options={[
            [NO_MODEL, "Not in the catalogue"],
            ...models.map((each) => [String(each.id), modelWords(each)] as const),
          ]}
        />
      )}
      {!model && <Pick label="Chemistry" value={family} onChange={setFamily} options={FAMILIES} />}
      {!model && family === "high-voltage-cobalt" && (
        <Field
          label="Marked full voltage"
          unit="V"
          hint="4.35, 4.40 or 4.45 as printed. Unsure: leave empty, then 4.20 V counts."
          {...typed.field("full_v")}
          numeric
        />
      )}
      <Pair>
        {!model && (
          <Field
            label="Rated, from a data sheet"
            unit="mAh"
            hint="Only from a sheet you trust."
            {...typed.field("rated_capacity_mah")}
            numeric
          />
        )}
        <Field
          label="Claimed on the cell"
          unit="mAh"
          hint="Kept, never believed."
          {...typed.field("claimed_capacity_mah")}
          numeric
        />
      </Pair>
      {!model && (
        <SizeMeaning code={size} family={family === "unknown" ? null : family} claimMah={readNumber(claimed)} />
      )}
      <Pair>
        <Pick
          label="Tray"
          value={traySizeId}
          onChange={setTraySizeId}
          options={[
            [ANY_TRAY, "Wherever there is room"],
            ...traySizes.map((each) => [String(each.id), `A new one: ${each.name}`] as const),
          ]}
        />
        <Field
          label="Joined pack: cells side by side in a group"
          hint="Leave empty if they come out single."
          {...typed.field("parallel")}
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
      {wrongNumber && <p role="status">Capacities and voltages are plain numbers, e.g. 2600 or 4.35.</p>}
      {isBeside && !isAsked && (
        <Notice kind="error">
          Nothing was numbered yet: {FIELD_WORDS[problem?.field ?? ""] ?? "a field"} was refused.
        </Notice>
      )}
    </Stack>
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
