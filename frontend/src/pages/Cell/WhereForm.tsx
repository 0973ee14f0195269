import styled from "styled-components";
import type { Cell } from "../../api/client";
import { sendEntry } from "../../api/entries";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Field } from "../../components/Fields";

/** Into a device that takes it as it is, or to another place by its number. */
export function WhereForm({ cell }: { cell: Cell }) {
  const toDevice = useTyped({ device: "" });
  const toPlace = useTyped({ place: "" });
  const { device, place } = { ...toDevice.values, ...toPlace.values };
  const use = useWrite(sendEntry, toDevice.clear);
  const move = useWrite(sendEntry, toPlace.clear);
  return (
    <Stack>
      <Row
        problem={move.error}
        send="Move it there"
        kind="plain"
        waitsFor={place.trim() === "" ? "First say where to." : null}
        isSending={move.isPending}
        onSend={() => move.mutate({ number: cell.number, entry: { to: "moves", body: { place, slot: null } } })}
      >
        <Field
          label="Lies now in"
          hint="Number of a tray or box, typed or scanned."
          {...toPlace.field("place")}
          maxLength={20}
        />
      </Row>
      <Row
        problem={use.error}
        send="Put into use"
        kind="plain"
        waitsFor={device.trim().length < 2 ? "First name the device." : null}
        isSending={use.isPending}
        onSend={() => use.mutate({ number: cell.number, entry: { to: "uses", body: { device } } })}
      >
        <Field
          label="Or works on in a device"
          hint="One that takes it as it is, e.g. reading lamp, holder."
          {...toDevice.field("device")}
          maxLength={120}
        />
      </Row>
    </Stack>
  );
}

const Stack = styled.div`display: grid; gap: var(--step); margin-top: var(--near);`;
const Row = styled(
  AskForm,
)`display: flex; flex-wrap: wrap; align-items: start; gap: var(--apart); > div { flex: 1 1 14rem; } button { margin-top: 1.75rem; }`;
