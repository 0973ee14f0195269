import styled from "styled-components";
import type { Schemas } from "../api/client";
import { LIMIT_KIND_WORDS } from "../words";

/** The formula and what its numbers rest on, each with its kind. */
export function Grounds({ formula, grounds }: { formula: string; grounds: Schemas["GroundOut"][] }) {
  return (
    <Box>
      <Formula>{formula}</Formula>
      <ul>
        {grounds.map((ground) => (
          <li key={ground.text}>
            {ground.text}: {LIMIT_KIND_WORDS[ground.kind]}, {ground.source}
          </li>
        ))}
      </ul>
    </Box>
  );
}

const Box = styled.div`width: 100%; font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
const Formula = styled.p`font-family: ${({ theme }) => theme.font.figure}; color: ${({ theme }) => theme.color.ink}; overflow-wrap: anywhere;`;
