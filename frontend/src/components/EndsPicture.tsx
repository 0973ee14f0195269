import styled from "styled-components";
import type { Cell } from "../api/client";

type Build = NonNullable<Cell["build"]>;
type PlusEnd = NonNullable<Cell["plus_end"]>;

/** A cell of this build from the side, with its plus end marked; wires and tabs where they mostly are. */
export function EndsPicture({ build, plusEnd }: { build: Build; plusEnd: PlusEnd }) {
  const isRound = build === "wrapped-can" || build === "bare-can";
  return (
    <Drawing viewBox="0 0 220 84" role="img" aria-label={`Plus: ${plusEnd}`}>
      {isRound ? (
        <>
          <rect x="20" y="20" width="160" height="44" rx="6" className={build === "wrapped-can" ? "wrap" : "can"} />
          {build === "wrapped-can" && <path d="M28 20v44M172 20v44" className="thin" />}
          <rect x="180" y="32" width="10" height="20" rx="2" className={plusEnd === "button" ? "plus" : "can"} />
        </>
      ) : build === "flat-can" ? (
        <>
          <rect x="30" y="16" width="140" height="52" rx="4" className={plusEnd === "can" ? "plus" : "can"} />
          <rect x="170" y="34" width="8" height="16" rx="2" className="wrap" />
        </>
      ) : (
        <>
          <rect x="30" y="12" width="130" height="60" rx="3" className="can" />
          <path d="M160 26h26v8h-26z" className={plusEnd === "marked-tab" || plusEnd === "lead" ? "plus" : "can"} />
          <path d="M160 50h26v8h-26z" className="can" />
        </>
      )}
      {plusEnd === "can" && isRound && <path d="M24 64h150" className="edge" />}
      <text x={plusEnd === "can" ? 92 : 198} y={plusEnd === "can" ? 50 : isRound ? 49 : 36}>
        +
      </text>
      <text x={plusEnd === "can" ? 186 : isRound ? 4 : 198} y={isRound ? 49 : plusEnd === "can" ? 49 : 62}>
        −
      </text>
    </Drawing>
  );
}

const Drawing = styled.svg`
  width: 100%;
  max-width: 17rem;
  stroke: ${({ theme }) => theme.color.ink};
  stroke-width: 2;
  .wrap { fill: ${({ theme }) => theme.color.mat}; }
  .can { fill: ${({ theme }) => theme.color.paperLine}; }
  .plus { fill: ${({ theme }) => theme.color.tape}; stroke-width: 3; }
  .thin { fill: none; stroke-width: 1; }
  .edge { stroke: ${({ theme }) => theme.color.tape}; stroke-width: 6; }
  text { fill: ${({ theme }) => theme.color.ink}; stroke: none; font: 800 26px ${({ theme }) => theme.font.text}; }
`;
