import { useState } from "react";
import styled from "styled-components";
import type { Bench, Cell } from "../../../api/client";
import { AskForm } from "../../../components/AskForm";
import { Tick } from "../../../components/Fields";
import { Notice } from "../../../components/Notice";
import { Build, Chemistry, Model, SaidCapacities, Size } from "./parts";
import { useIdentity } from "./useIdentity";

/** What a cell is, and whether the same holds for its siblings. */
export function IdentityForm({ cell, bench }: { cell: Cell; bench: Bench | null }) {
  const identity = useIdentity(cell);
  const [siblingsToo, setSiblingsToo] = useState(false);
  const { isChanged, isWrong, isAsked, changedMeanwhile } = identity;
  return (
    <Stack
      problem={identity.problem}
      kind={isChanged ? "main" : "plain"}
      send={changedMeanwhile ? "Keep mine all the same" : isAsked ? "The sheet says so: keep it" : "Keep what it is"}
      isSending={identity.isSending}
      isDisabled={isWrong || !isChanged}
      onSend={() => identity.keep(siblingsToo)}
    >
      {bench?.suspicion && <Notice kind="error">{bench.suspicion}</Notice>}
      <Model of={identity} />
      <Size of={identity} />
      <Chemistry of={identity} />
      <SaidCapacities of={identity} />
      <Build of={identity} bench={bench} />
      {isWrong && <p role="status">Plain numbers, e.g. 2600 or 18.3.</p>}
      {identity.isKept && !isChanged && <p role="status">Kept, and judged anew.</p>}
      <Tick isSelected={siblingsToo} onChange={setSiblingsToo}>
        The same for its siblings: all of it where nothing was measured yet, else a missing size
      </Tick>
    </Stack>
  );
}

const Stack = styled(AskForm)`display: grid; gap: var(--step); margin-top: var(--near);`;
