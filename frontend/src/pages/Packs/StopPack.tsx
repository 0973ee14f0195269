import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../api/client";
import { drawPack } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";

/** Somebody says that it swells, is hot or smells: the whole pack is stopped, whichever cell it is. */
export function StopPack({ pack }: { pack: Pack }) {
  const [isOpen, setOpen] = useState(false);
  const typed = useTyped({ why: "" });
  const stop = useWrite(
    (body: Schemas["StopIn"], key) =>
      answer(() =>
        api.POST("/api/packs/{number}/stops", { params: { path: { number: pack.number } }, headers: once(key), body }),
      ),
    drawPack,
  );
  if (!isOpen)
    return (
      <Button kind="quiet" onPress={() => setOpen(true)}>
        Something is wrong with it
      </Button>
    );
  return (
    <Box
      problem={stop.error}
      send="Stop this pack"
      kind="danger"
      isSending={stop.isPending}
      onSend={() => stop.mutate({ why: typed.values.why })}
    >
      <Field
        label="What is wrong with it"
        {...typed.field("why")}
        maxLength={300}
        autoFocus
        hint="It swells, is hot, smells, was wet, fell …"
      />
    </Box>
  );
}

const Box = styled(AskForm)`display: grid; gap: var(--apart); justify-items: start; width: 100%; max-width: 36rem;`;
