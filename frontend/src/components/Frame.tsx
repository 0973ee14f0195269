import { Suspense } from "react";
import { NavLink, Outlet } from "react-router";
import styled from "styled-components";
import type { Step } from "../api/client";
import { Alarms } from "./Alarms";
import { Connection } from "./Connection";
import { FindField } from "./FindField";
import { Quiet } from "./Page";
import { PersonControls } from "./PersonControls";
import { StepMark } from "./StepMark";
import { WaitingEntries } from "./WaitingEntries";

const PLACES: readonly (readonly [string, string, Step])[] = [
  ["/", "Now", "recheck"],
  ["/open", "Open", "repair"],
  ["/bench", "Bench", "measure-voltage"],
  ["/shelf", "Shelf", "shelve"],
  ["/match", "Match", "decide"],
  ["/packs", "Packs", "in-pack"],
  ["/more", "More", "keep"],
];

/** What stands around every page: where one can go, who is signed in. */
export function Frame() {
  return (
    <>
      <Skip href="#main">To the page</Skip>
      <Bar>
        <Brand to="/">Zembric</Brand>
        <nav aria-label="Main">
          <Places>
            {PLACES.map(([to, word, step]) => (
              <li key={to}>
                <Place to={to} end={to === "/"}>
                  <StepMark step={step} size={20} />
                  {word}
                </Place>
              </li>
            ))}
          </Places>
        </nav>
        <FindField />
        <Person>
          <PersonControls />
        </Person>
      </Bar>
      <Alarms />
      <Connection />
      <WaitingEntries />
      <Suspense fallback={<Quiet role="status">One moment …</Quiet>}>
        <Outlet />
      </Suspense>
    </>
  );
}

const Skip = styled.a`
  position: absolute;
  left: -100vw;
  &:focus { left: 0.5rem; top: 0.5rem; z-index: 5; padding: var(--near) var(--block); background: ${({ theme }) => theme.color.paper}; }
`;
const Bar = styled.header`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 var(--step);
  padding: 0 var(--room);
  border-bottom: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
  ${({ theme }) => theme.narrow} { padding: 0 var(--apart); }
`;
const Brand = styled(
  NavLink,
)`padding: var(--gap) 0; font-size: 1.375rem; font-weight: 800; letter-spacing: -0.01em; text-decoration: none;`;
const Places = styled.ul`
  display: flex;
  gap: var(--hair);
  ${({ theme }) => theme.narrow} {
    position: fixed;
    inset: auto 0 0 0;
    z-index: 4;
    justify-content: space-between;
    gap: 0;
    padding: 0 var(--hair);
    border-top: 3px solid ${({ theme }) => theme.color.ink};
    background: ${({ theme }) => theme.color.paper};
    li { flex: 1; }
  }
`;
const Place = styled(NavLink)`
  display: flex;
  align-items: center;
  gap: var(--slit);
  min-height: 52px;
  padding: 0 0.5625rem;
  border-bottom: 4px solid transparent;
  border-top: 4px solid transparent;
  text-decoration: none;
  &.active { border-bottom-color: ${({ theme }) => theme.color.ink}; font-weight: 750; }
  &:hover { border-bottom-color: ${({ theme }) => theme.color.tape}; }
  ${({ theme }) => theme.narrow} { flex-direction: column; justify-content: center; gap: 0; padding: var(--thread); font-size: 0.875rem; min-height: 56px; }
`;
const Person = styled.div`
  display: flex;
  align-items: center;
  font-size: ${({ theme }) => theme.size.note};
  button { padding: var(--hair) var(--near); font-weight: 500; }
  ${({ theme }) => theme.narrow} { display: none; }
`;
