import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, type Cell, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field, Pick } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { FAMILY_WORDS } from "../../words";
import { readNumber } from "../OpenDonor/OpenDonorPage";

type FamilyChoice = NonNullable<Cell["family"]> | "unknown";
const FAMILIES = [...(Object.entries(FAMILY_WORDS) as [FamilyChoice, string][]), ["unknown", "Not known yet"] as const];

/** What a cell is, set by a coordinator. If somebody else set it meanwhile, what was typed stays and they are told. */
export function FactsForm({ cell }: { cell: Cell }) {
  const [size, setSize] = useState(cell.size_code ?? "");
  const [family, setFamily] = useState<FamilyChoice>(cell.family ?? "unknown");
  const [rated, setRated] = useState(cell.rated_capacity_mah?.toString() ?? "");
  const [claimed, setClaimed] = useState(cell.claimed_capacity_mah?.toString() ?? "");
  const [seenVersion, setSeenVersion] = useState(cell.version);
  const set = useWrite(
    (body: Schemas["FactsIn"], key) =>
      answer(() =>
        api.PUT("/api/cells/{number}/facts", { params: { path: { number: cell.number } }, headers: once(key), body }),
      ),
    (kept) => setSeenVersion(kept.cell.version),
  );
  const changed = set.error instanceof Problem && set.error.code === "changed-meanwhile";
  return (
    <Stack
      onSubmit={(event) => {
        event.preventDefault();
        set.mutate({
          seen_version: changed ? cell.version : seenVersion,
          size_code: size.trim() || null,
          family: family === "unknown" ? null : family,
          full_v: family === cell.family ? cell.full_v : null,
          rated_capacity_mah: readNumber(rated),
          claimed_capacity_mah: readNumber(claimed),
        });
      }}
    >
      <Field label="Size" value={size} onChange={setSize} numeric maxLength={20} />
      <Pick label="Chemistry" value={family} onChange={setFamily} options={FAMILIES} />
      <Field label="Rated, from a data sheet" unit="mAh" numeric value={rated} onChange={setRated} />
      <Field label="Claimed on the print" unit="mAh" numeric value={claimed} onChange={setClaimed} />
      <ProblemNotice problem={set.error} />
      {set.isSuccess && <p role="status">Kept, and judged anew.</p>}
      <Button kind="main" type="submit" isDisabled={set.isPending}>
        {changed ? "Keep mine all the same" : "Keep it"}
      </Button>
    </Stack>
  );
}

const Stack = styled(Form)`display: grid; gap: 0.75rem; max-width: 26rem;`;
