import styled from "styled-components";
import type { Schemas } from "../../../api/client";
import { CHECK_STATE_WORDS } from "../../../words";

type State = Schemas["CheckOut"]["state"];

/** Pencil marks at the edge of a line: a barred gate, a ring to look into, a tick. Always with its word. */
const DRAWN: Record<State, string> = {
  stop: "M4 6v14M20 6v14M4 9h16M4 17h16M5 16L19 10",
  look: "M12 6a6 6 0 1 0 0.01 0M16.5 16.5L21 21",
  holds: "M4 13l5 6L20 6",
};

export function CheckMark({ state, isWaived }: { state: State; isWaived: boolean }) {
  return (
    <Mark $state={isWaived ? "look" : state}>
      <svg viewBox="0 0 24 24" aria-hidden="true">
        <path
          d={DRAWN[state]}
          fill="none"
          stroke="currentColor"
          strokeWidth={state === "stop" ? 3 : 2.4}
          strokeLinecap="round"
          strokeLinejoin="round"
          strokeDasharray={isWaived ? "3 3.5" : undefined}
        />
      </svg>
      {isWaived ? "Let pass" : CHECK_STATE_WORDS[state]}
    </Mark>
  );
}

const Mark = styled.span<{ $state: State }>`
  display: inline-flex;
  align-items: center;
  gap: var(--slit);
  color: ${({ theme, $state }) => ({ stop: theme.color.danger, look: theme.color.grade.C, holds: theme.color.grade.A })[$state]};
  font-weight: 750;
  white-space: nowrap;
  svg { width: 1.6rem; height: 1.6rem; flex: none; }
`;
