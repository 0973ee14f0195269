import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Fold } from "../../components/Fold";
import { Notice, ProblemNotice } from "../../components/Notice";

/** All the cells that are chosen into one place, or none of them. */
export function BulkMove({ numbers }: { numbers: string[] }) {
  const [place, setPlace] = useState("");
  const move = useWrite(
    (body: Schemas["BulkMoveIn"], key) => answer(() => api.POST("/api/moves", { headers: once(key), body })),
    () => setPlace(""),
  );
  return (
    <Fold title={`Move these ${numbers.length} into another place`}>
      <Row>
        <Field
          label="Into which place"
          value={place}
          onChange={setPlace}
          maxLength={20}
          hint="Number of a tray or box, typed or scanned."
        />
        <Button
          waitsFor={place.trim() === "" ? "First the number of the place." : null}
          isDisabled={move.isPending || numbers.length === 0}
          onPress={() => move.mutate({ numbers, place: place.trim() })}
        >
          Move them
        </Button>
      </Row>
      <ProblemNotice problem={move.error} />
      {move.data && <Notice kind="kept">{move.data.moved} cells lie there now.</Notice>}
    </Fold>
  );
}

const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--apart) var(--block);`;
