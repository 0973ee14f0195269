import { useState } from "react";
import { Form } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Choice, CountField, Field, Pick } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Page, Sheet } from "../../components/Page";
import { Tray } from "../../components/Tray";
import { FAMILY_WORDS, KIND_WORDS } from "../../words";
import { RecentDonors } from "./RecentDonors";

type Kind = Schemas["DonorIn"]["kind"];
type FamilyChoice = NonNullable<Schemas["DonorIn"]["family"]> | "unknown";

const entries = <T extends string>(words: Record<T, string>) => Object.entries(words) as [T, string][];
const FAMILIES: [FamilyChoice, string][] = [...entries(FAMILY_WORDS), ["unknown", "Not known yet"]];
const TRAY_PLACES = 20;
// Of something that could be anything nothing is assumed: its cells are not charged above 3.60 V until somebody knows.
const USUAL_FAMILY: Record<Kind, FamilyChoice> = {
  laptop: "layered-oxide",
  vape: "layered-oxide",
  "power-tool": "layered-oxide",
  phone: "high-voltage-cobalt",
  other: "unknown",
};

/** A dead device becomes numbered cells in a tray, in one go. */
export default function OpenDonorPage() {
  const navigate = useNavigate();
  const [kind, setKind] = useState<Kind>("laptop");
  const [description, setDescription] = useState("");
  const [cells, setCells] = useState(6);
  const [size, setSize] = useState("18650");
  const [chosenFamily, setFamily] = useState<FamilyChoice | null>(null);
  const family = chosenFamily ?? USUAL_FAMILY[kind];
  const [fullV, setFullV] = useState("");
  const [rated, setRated] = useState("");
  const [claimed, setClaimed] = useState("");
  const open = useWrite(
    (body: Schemas["DonorIn"], key) => answer(() => api.POST("/api/donors", { body, headers: once(key) })),
    (donor) => navigate(`/donors/${donor.number}`),
  );
  const problem = open.error instanceof Problem ? open.error : null;
  const errorOf = (field: string) => (problem?.field === field ? problem.message : null);
  const wrongNumber = [rated, claimed, fullV].some((text) => text.trim() !== "" && readNumber(text) === null);

  return (
    <Page
      title="Open a donor"
      lead="The dead device your cells come out of. Gloves on; vape residue is poisonous through the skin. Say what you know, leave out what you do not."
    >
      <Columns>
        <Sheet>
          <Stack
            onSubmit={(event) => {
              event.preventDefault();
              open.mutate({
                kind,
                description,
                cells,
                size_code: size.trim() || null,
                family: family === "unknown" ? null : family,
                full_v: family === "high-voltage-cobalt" ? readNumber(fullV) : null,
                rated_capacity_mah: readNumber(rated),
                claimed_capacity_mah: readNumber(claimed),
              });
            }}
          >
            <Choice label="What is it?" value={kind} onChange={setKind} options={entries(KIND_WORDS)} />
            <p>
              Medical devices, vehicles, e-bikes and mains devices are not for this table: send them to a licensed
              workshop.
            </p>
            <Field
              label="In your words"
              hint="So that others know it again, e.g. school laptop, hinge broken."
              value={description}
              onChange={setDescription}
              maxLength={200}
              error={errorOf("description")}
            />
            <Pair>
              <CountField
                label="How many cells?"
                value={cells}
                onChange={setCells}
                least={1}
                most={40}
                error={errorOf("cells")}
              />
              <Field
                label="Size"
                hint="18650, or 603048 for a flat one. Leave empty if unknown."
                value={size}
                onChange={setSize}
                numeric
                error={errorOf("size_code")}
                maxLength={20}
              />
            </Pair>
            <Pick label="Chemistry" value={family} onChange={setFamily} options={FAMILIES} />
            {family === "high-voltage-cobalt" && (
              <Field
                label="Marked full voltage"
                unit="V"
                hint="4.35, 4.40 or 4.45 as printed. Unsure: leave empty, then 4.20 V counts."
                value={fullV}
                onChange={setFullV}
                numeric
                error={errorOf("full_v")}
              />
            )}
            <Pair>
              <Field
                label="Rated, from a data sheet"
                unit="mAh"
                hint="Only from a sheet you trust."
                value={rated}
                onChange={setRated}
                numeric
                error={errorOf("rated_capacity_mah")}
              />
              <Field
                label="Claimed on the print"
                unit="mAh"
                hint="Kept, never believed."
                value={claimed}
                onChange={setClaimed}
                numeric
                error={errorOf("claimed_capacity_mah")}
              />
            </Pair>
            {wrongNumber && <p role="status">Capacities and voltages are plain numbers, e.g. 2600 or 4.35.</p>}
            {problem && !problem.field && <ProblemNotice problem={problem} />}
            <Button kind="main" type="submit" isDisabled={open.isPending || wrongNumber}>
              Number {cells === 1 ? "this cell" : `these ${cells} cells`}
            </Button>
          </Stack>
        </Sheet>
        <div>
          <Tray
            name={`Room for ${cells}`}
            rows={cells <= TRAY_PLACES ? 4 : 5}
            columns={cells <= TRAY_PLACES ? 5 : 8}
            cells={Array.from({ length: cells }, (_, index) => ({
              number: "",
              slot: index + 1,
              grade: "not-yet",
              step: null,
            }))}
          />
          <RecentDonors />
        </div>
      </Columns>
    </Page>
  );
}

/** Comma or point; null where nothing or no number stands. */
export function readNumber(text: string): number | null {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? null : value;
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
  gap: 1.5rem;
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Stack = styled(Form)`display: grid; gap: 1.125rem;`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
