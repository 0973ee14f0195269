import { answer, api, once, type Pack, type Schemas } from "../../../api/client";
import { useWrite } from "../../../api/writing";
import { RoomyForm, useTyped } from "../../../components/AskForm";
import { Field } from "../../../components/Fields";
import { Fold } from "../../../components/Fold";
import type { Work } from "./steps";

/** A cell that turns out wrong at the bench is exchanged there: scanned out, the other scanned in. */
export function Swap({ pack, onWork }: { pack: Pack; onWork: (work: Work) => void }) {
  const { values, field, clear } = useTyped({ out: "", comes: "" });
  const swap = useWrite(
    (body: Schemas["SwapIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/swaps", { params: { path: { number: pack.number } }, headers: once(key), body }),
      ),
    (now) => {
      clear();
      onWork(now);
    },
  );
  return (
    <Fold title="A cell is exchanged">
      <RoomyForm
        problem={swap.error}
        isSending={swap.isPending}
        kind="plain"
        send="Exchange them"
        waitsFor={values.out.trim() && values.comes.trim() ? null : "Scan or type both numbers."}
        onSend={() => swap.mutate({ out: values.out.trim(), comes: values.comes.trim(), seen_version: pack.version })}
      >
        <Field label="This one goes" {...field("out")} maxLength={40} autoComplete="off" />
        <Field
          label="This one comes"
          {...field("comes")}
          maxLength={40}
          autoComplete="off"
          hint="It is exchanged in the plan too, everything is checked anew, and its group is done once more."
        />
      </RoomyForm>
    </Fold>
  );
}
