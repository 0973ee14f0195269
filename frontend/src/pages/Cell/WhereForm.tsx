import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { type Cell, Problem } from "../../api/client";
import { sendEntry } from "../../api/entries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";

/** Into a device that takes it as it is, or to another place by its number. */
export function WhereForm({ cell }: { cell: Cell }) {
  const [device, setDevice] = useState("");
  const [place, setPlace] = useState("");
  const use = useWrite(sendEntry, () => setDevice(""));
  const move = useWrite(sendEntry, () => setPlace(""));
  return (
    <Stack>
      <Row
        onSubmit={(event) => {
          event.preventDefault();
          move.mutate({ number: cell.number, entry: { to: "moves", body: { place, slot: null } } });
        }}
      >
        <Field
          label="Lies now in"
          hint="Number of a tray or box, typed or scanned."
          value={place}
          onChange={setPlace}
          maxLength={20}
          error={move.error instanceof Problem ? move.error.message : null}
        />
        <Button type="submit" waitsFor={place.trim() === "" ? "First say where to." : null} isDisabled={move.isPending}>
          Move it there
        </Button>
      </Row>
      <Row
        onSubmit={(event) => {
          event.preventDefault();
          use.mutate({ number: cell.number, entry: { to: "uses", body: { device } } });
        }}
      >
        <Field
          label="Or works on in a device"
          hint="One that takes it as it is, e.g. reading lamp, holder."
          value={device}
          onChange={setDevice}
          maxLength={120}
          error={use.error instanceof Problem ? use.error.message : null}
        />
        <Button
          type="submit"
          waitsFor={device.trim().length < 2 ? "First name the device." : null}
          isDisabled={use.isPending}
        >
          Put into use
        </Button>
      </Row>
    </Stack>
  );
}

const Stack = styled.div`display: grid; gap: 0.875rem; margin-top: 0.5rem;`;
const Row = styled(
  Form,
)`display: flex; flex-wrap: wrap; align-items: start; gap: 0.75rem; > div { flex: 1 1 14rem; } button { margin-top: 1.75rem; }`;
