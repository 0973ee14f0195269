import { useState } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import { answer, api, once, type Pack, Problem, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";

/** Somebody says that it swells, is hot or smells: the whole pack is stopped, whichever cell it is. */
export function StopPack({ pack }: { pack: Pack }) {
  const [isOpen, setOpen] = useState(false);
  const [why, setWhy] = useState("");
  const stop = useWrite((body: Schemas["StopIn"], key) =>
    answer(() =>
      api.POST("/api/packs/{number}/stops", { params: { path: { number: pack.number } }, headers: once(key), body }),
    ),
  );
  if (!isOpen)
    return (
      <Button kind="quiet" onPress={() => setOpen(true)}>
        Something is wrong with it
      </Button>
    );
  return (
    <Box
      onSubmit={(event) => {
        event.preventDefault();
        stop.mutate({ why });
      }}
    >
      <Field
        label="What is wrong with it"
        value={why}
        onChange={setWhy}
        maxLength={300}
        autoFocus
        hint="It swells, is hot, smells, was wet, fell …"
        error={stop.error instanceof Problem ? stop.error.message : null}
      />
      <Button kind="danger" type="submit" isDisabled={stop.isPending}>
        Stop this pack
      </Button>
    </Box>
  );
}

const Box = styled(Form)`display: grid; gap: 0.75rem; justify-items: start; width: 100%; max-width: 36rem;`;
