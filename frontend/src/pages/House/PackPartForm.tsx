import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Catalogue, once, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field, Tick } from "../../components/Fields";
import { NeedFields } from "../../components/NeedFields";
import { Pick } from "../../components/Pick";
import { PART_OF_PACK_WORDS } from "../../words";
import { beginning, type PartKind } from "../Packs/Plan/parts";

/** What a pack is for is said of each pack, not in the catalogue. */
const NOT_HERE: readonly PartKind[] = ["device", "promise"];

/** A kind of part that packs are built from, new or changed; what is asked follows from its kind. */
export function PackPartForm({
  catalogue,
  rowKey,
  onDone,
}: {
  catalogue: Catalogue;
  rowKey: string | null;
  onDone: () => void;
}) {
  const row = catalogue.pack_parts.find((each) => String(each.id) === rowKey) ?? null;
  const asked = catalogue.parts_asked.filter(({ kind }) => !NOT_HERE.includes(kind));
  const [kind, setKind] = useState<PartKind>(row?.kind ?? "charger");
  const needs = asked.find((each) => each.kind === kind)?.needs ?? [];
  const first = (of: PartKind) => {
    const what = asked.find((each) => each.kind === of);
    return what ? beginning(what) : {};
  };
  const [name, setName] = useState(row?.name ?? "");
  const [note, setNote] = useState(row?.note ?? "");
  const [figures, setFigures] = useState<Record<string, string>>({ ...first(kind), ...row?.figures });
  const [isActive, setActive] = useState(row?.is_active ?? true);
  // What somebody else kept meanwhile is not written over: the server says so.
  const [seenVersion] = useState(row?.version ?? null);
  const keep = useWrite((sent: Schemas["RowIn"], key) => {
    const headers = once(key);
    return answer(() =>
      rowKey === null
        ? api.POST("/api/catalogue/{part}", { params: { path: { part: "pack-parts" } }, headers, body: sent })
        : api.PUT("/api/catalogue/{part}/{key}", {
            params: { path: { part: "pack-parts", key: rowKey } },
            headers,
            body: sent,
          }),
    );
  }, onDone);
  const problem = keep.error instanceof Problem ? keep.error : null;
  const isAtField = needs.some((need) => need.key === problem?.field && need.need !== "choice");
  return (
    <Around>
      <AskForm
        problem={isAtField ? null : keep.error}
        onSend={() =>
          keep.mutate({ seen_version: seenVersion, pack_part: { name, kind, figures, note, is_active: isActive } })
        }
        send={rowKey === null ? "Add it" : "Keep it"}
        isSending={keep.isPending}
        waitsFor={name.trim() === "" ? "First its name." : null}
        besides={
          rowKey !== null && (
            <Button kind="quiet" onPress={onDone}>
              Leave it
            </Button>
          )
        }
      >
        <Stack>
          {row === null && (
            <Pick
              label="What it is"
              value={kind}
              onChange={(next) => {
                setKind(next);
                setFigures(first(next));
              }}
              options={asked.map((each) => [each.kind, PART_OF_PACK_WORDS[each.kind]] as const)}
            />
          )}
          <Field label="Name" name="name" value={name} onChange={setName} maxLength={60} />
          <NeedFields
            needs={needs}
            values={figures}
            onChange={(key, value) => setFigures((before) => ({ ...before, [key]: value }))}
            wrong={problem && { field: problem.field, text: problem.message }}
          />
          <Field label="Note" value={note} onChange={setNote} maxLength={240} hint="May stay empty." />
          {row !== null && (
            <Tick isSelected={isActive} onChange={setActive}>
              Still used
            </Tick>
          )}
          {keep.isSuccess && rowKey === null && <p role="status">Added.</p>}
        </Stack>
      </AskForm>
    </Around>
  );
}

const Around = styled.div`flex: 1 1 100%;`;
const Stack = styled.div`display: grid; gap: var(--apart); margin-bottom: var(--apart);`;
