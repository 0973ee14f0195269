import styled from "styled-components";
import { figure } from "../words";

type Props = { value: number | null; unit: string; digits?: number; size?: "text" | "figure" | "key" };

/** A measured number with its unit beside it; a dash where there is none yet. */
export function Amount({ value, unit, digits = 0, size = "text" }: Props) {
  if (value === null)
    return (
      <None>
        <span aria-hidden="true">–</span>
        <Hidden>not measured</Hidden>
      </None>
    );
  return (
    <Figure $size={size}>
      {figure(value, digits)}
      <Unit $size={size}>{unit}</Unit>
    </Figure>
  );
}

export const Hidden = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;
const None = styled.span`color: ${({ theme }) => theme.color.inkSoft};`;
const Figure = styled.span<{ $size: "text" | "figure" | "key" }>`
  font-family: ${({ theme }) => theme.font.figure};
  font-weight: ${({ $size }) => ($size === "text" ? 500 : 700)};
  font-size: ${({ theme, $size }) => ($size === "text" ? "inherit" : theme.size[$size])};
  line-height: 1.1;
  white-space: nowrap;
`;
const Unit = styled.span<{ $size: "text" | "figure" | "key" }>`
  margin-left: 0.25em;
  font-family: ${({ theme }) => theme.font.text};
  font-size: ${({ $size }) => ($size === "text" ? "0.86em" : "0.62em")};
  font-weight: 500;
`;
