import type { Ref } from "react";
import { Button as AriaButton, type ButtonProps } from "react-aria-components";
import { Link } from "react-router";
import styled, { css } from "styled-components";

type Kind = "main" | "plain" | "danger" | "quiet";

type Props = ButtonProps & {
  kind?: Kind;
  /** What has to be said first; null: nothing, it can be pressed. */
  waitsFor?: string | null;
  ref?: Ref<HTMLButtonElement>;
};

/** A button to hit with a glove: main for the one thing to do, plain for the rest. One that waits says for what. */
export function Button({ kind = "plain", waitsFor = null, ...props }: Props) {
  if (waitsFor === null) return <Styled {...props} $kind={kind} />;
  return (
    <Waiting>
      <Styled {...props} isDisabled $kind={kind} />
      <small>{waitsFor}</small>
    </Waiting>
  );
}

const Waiting = styled.span`
  display: inline-grid;
  justify-items: start;
  gap: var(--thread);
  small { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;

const look = css<{ $kind: Kind }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: var(--near);
  min-height: ${({ theme }) => theme.target};
  padding: var(--near) 1.125rem;
  border: 2px solid ${({ theme, $kind }) => ($kind === "danger" ? theme.color.danger : $kind === "quiet" ? "transparent" : theme.color.ink)};
  border-radius: 3px;
  background: ${({ theme, $kind }) => ($kind === "main" ? theme.color.ink : $kind === "danger" ? theme.color.danger : "transparent")};
  color: ${({ theme, $kind }) => ($kind === "main" ? theme.color.onInk : $kind === "danger" ? theme.color.onDanger : theme.color.ink)};
  font-weight: 700;
  text-align: center;
  text-decoration: ${({ $kind }) => ($kind === "quiet" ? "underline" : "none")};
  cursor: pointer;
  &[data-hovered], &:hover { box-shadow: inset 0 0 0 2px ${({ theme }) => theme.color.tape}; }
  &[data-pressed] { transform: translateY(1px); }
  &[data-disabled] { opacity: 0.5; cursor: default; }
`;
const Styled = styled(AriaButton)<{ $kind: Kind }>`${look}`;

/** A link that looks like a button: it goes somewhere, it changes nothing. */
export const ButtonLink = styled(Link)<{ $kind: Kind }>`${look}`;
