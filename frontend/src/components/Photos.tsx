import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Button as AriaButton } from "react-aria-components";
import styled from "styled-components";
import { Problem, type Schemas, uploadPhoto } from "../api/client";
import { refreshAll } from "../api/queries";
import { dayAndTime } from "../words";
import { FileButton } from "./FileButton";
import { ProblemNotice } from "./Notice";
import { Sheet } from "./Page";

type Photo = Schemas["PhotoOut"];
const MOST_BYTES = 15 * 1024 * 1024;

/** Photos of a donor or a cell, taken with the phone in hand or chosen as a file. */
export function Photos({ of, photos }: { of: { donor: string } | { cell: string }; photos: Photo[] }) {
  const [isLarge, setLarge] = useState<number | null>(null);
  const address = "donor" in of ? `/api/donors/${of.donor}/photos` : `/api/cells/${of.cell}/photos`;
  const add = useMutation({
    mutationFn: (file: File) => {
      if (file.size > MOST_BYTES) throw new Problem("bad-input", "A photo has at most 15 MB. Take it smaller.");
      return uploadPhoto(address, file);
    },
    onSuccess: refreshAll,
  });
  return (
    <Box aria-label="Photos">
      <Head>
        <h2>Photos</h2>
        <FileButton accept="image/jpeg,image/png,image/webp" onFile={(file) => add.mutate(file)}>
          {add.isPending ? "One moment …" : "Add a photo"}
        </FileButton>
      </Head>
      <ProblemNotice problem={add.error} />
      {photos.length > 0 && (
        <List>
          {photos.map((photo) => (
            <li key={photo.id}>
              <Show
                aria-expanded={isLarge === photo.id}
                onPress={() => setLarge(isLarge === photo.id ? null : photo.id)}
                $large={isLarge === photo.id}
              >
                <img
                  src={`/api/photos/${photo.id}.jpg`}
                  width={photo.width_px}
                  height={photo.height_px}
                  alt={`Taken ${dayAndTime(photo.at)}`}
                  loading="lazy"
                />
              </Show>
            </li>
          ))}
        </List>
      )}
    </Box>
  );
}

const Box = styled(Sheet)`display: grid; gap: var(--apart);`;
const Head = styled.div`display: flex; flex-wrap: wrap; align-items: center; justify-content: space-between; gap: var(--near);`;
const List = styled.ul`display: flex; flex-wrap: wrap; gap: var(--near);`;
const Show = styled(AriaButton)<{ $large: boolean }>`
  padding: 0;
  border: 2px solid ${({ theme }) => theme.color.ink};
  background: none;
  cursor: pointer;
  img { display: block; width: auto; height: auto; max-width: ${({ $large }) => ($large ? "100%" : "10rem")}; max-height: ${({ $large }) => ($large ? "none" : "7rem")}; }
`;
