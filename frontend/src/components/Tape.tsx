import { Link } from "react-router";
import styled, { css } from "styled-components";

type Size = "small" | "plain" | "large";

/** A number on a strip of masking tape, as it stands on the thing itself. With `to` it leads there. */
export function Tape({ children, to, size = "plain" }: { children: string; to?: string; size?: Size }) {
  return to ? (
    <TapeLink to={to} $size={size}>
      {children}
    </TapeLink>
  ) : (
    <TapeStrip $size={size}>{children}</TapeStrip>
  );
}

const FONT: Record<Size, string> = { small: "0.9375rem", plain: "1.1875rem", large: "2.5rem" };

const strip = css<{ $size: Size }>`
  display: inline-block;
  padding: 0.1em 0.75em;
  background: ${({ theme }) => theme.color.tape};
  color: ${({ theme }) => theme.color.onTape};
  font: 700 ${({ $size }) => FONT[$size]}/1.35 ${({ theme }) => theme.font.figure};
  letter-spacing: 0.02em;
  text-decoration: none;
  white-space: nowrap;
  transform: rotate(-0.8deg);
  /* Torn ends. */
  clip-path: polygon(0 0, 4px 14%, 1px 28%, 5px 42%, 0 58%, 4px 72%, 1px 86%, 4px 100%, calc(100% - 1px) 100%, calc(100% - 5px) 86%, 100% 70%, calc(100% - 4px) 56%, calc(100% - 1px) 40%, calc(100% - 5px) 24%, 100% 12%, calc(100% - 3px) 0);
`;
const TapeStrip = styled.span<{ $size: Size }>`${strip}`;
const TapeLink = styled(Link)<{ $size: Size }>`
  ${strip}
  &:hover { text-decoration: underline; text-decoration-thickness: 2px; }
  &:focus-visible { outline-offset: -3px; outline-color: ${({ theme }) => theme.color.onTape}; }
`;
