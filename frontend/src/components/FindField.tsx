import { lazy, Suspense, useState } from "react";
import { Button as AriaButton, Form, Input, TextField } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { Problem } from "../api/client";
import { findThing } from "../api/queries";
import { pageOf } from "../words";

const ScanDialog = lazy(() => import("./ScanDialog"));

/** Any number, typed or scanned, leads to its thing. */
export function FindField() {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [isScanning, setScanning] = useState(false);
  const go = async (wanted: string) => {
    if (!wanted.trim()) return;
    // Words are looked for; whatever could be a number leads straight to its thing.
    if (!/^[a-z]?[\s\d.-]+$/i.test(wanted.trim()) || /^\d{1,2}\.\d{1,2}\./.test(wanted.trim())) {
      setText("");
      navigate(`/find?text=${encodeURIComponent(wanted.trim())}`);
      return;
    }
    try {
      const found = await findThing(wanted.trim());
      setText("");
      setProblem(null);
      navigate(pageOf(found.thing, found.number));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setProblem(error.message);
    }
  };
  return (
    <Box
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        void go(text);
      }}
    >
      <TextField
        aria-label="Find a number or words"
        value={text}
        onChange={(next) => {
          setText(next);
          setProblem(null);
        }}
        maxLength={40}
        autoComplete="off"
      >
        <Typed placeholder="Find" />
      </TextField>
      <Scan aria-label="Scan a label" onPress={() => setScanning(true)}>
        <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden="true">
          <path d="M3 8V3h5M16 3h5v5M21 16v5h-5M8 21H3v-5M7 7h4v4H7zM13 7h4v4h-4zM7 13h4v4H7zM13 13h2v2M17 17h-2" />
        </svg>
      </Scan>
      {problem && (
        <Said role="alert">
          {problem} <Link to={`/find?text=${encodeURIComponent(text.trim())}`}>Look for it as a word</Link>
        </Said>
      )}
      {isScanning && (
        <Suspense>
          <ScanDialog
            onClose={() => setScanning(false)}
            onFound={(scanned) => {
              setScanning(false);
              setText(scanned);
              void go(scanned);
            }}
          />
        </Suspense>
      )}
    </Box>
  );
}

const Box = styled(Form)`position: relative; display: flex; align-items: center; margin-left: auto;`;
const Typed = styled(Input)`
  width: 8.75rem;
  min-height: 40px;
  padding: 0 var(--near);
  border: 2px solid ${({ theme }) => theme.color.inkSoft};
  border-right: 0;
  border-radius: 3px 0 0 3px;
  background: ${({ theme }) => theme.color.paper};
  font-family: ${({ theme }) => theme.font.figure};
  &::placeholder { color: ${({ theme }) => theme.color.inkSoft}; opacity: 1; font-family: ${({ theme }) => theme.font.text}; }
`;
const Scan = styled(AriaButton)`
  display: grid;
  place-items: center;
  width: 44px;
  height: 40px;
  border: 2px solid ${({ theme }) => theme.color.inkSoft};
  border-radius: 0 3px 3px 0;
  background: transparent;
  cursor: pointer;
  svg { fill: none; stroke: currentColor; stroke-width: 2; }
  &[data-hovered] { background: ${({ theme }) => theme.color.askPaper}; }
`;
const Said = styled.p`
  position: absolute;
  top: calc(100% + 6px);
  right: 0;
  z-index: 6;
  width: min(26rem, 92vw);
  padding: var(--gap) var(--step);
  border-left: 6px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
  box-shadow: 0 2px 8px rgb(0 0 0 / 0.25);
`;
