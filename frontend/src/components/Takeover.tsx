import { type ReactNode, useEffect, useState } from "react";
import { Dialog, Modal, ModalOverlay } from "react-aria-components";
import styled, { css } from "styled-components";

/** Hands that type have stopped when no key came for so long. */
const QUIET_MS = 700;
/** In the middle of a number somebody looks at the label, or for the next key. */
const HALF_TYPED_QUIET_MS = 4_000;

/**
 * Takes over the screen at once, and the keys only when the hands rest: what was being typed goes where it was meant to
 * go, and no Enter of somebody who did not look takes it away.
 */
export function Takeover({ children }: { children: ReactNode }) {
  const isQuiet = useQuietKeys();
  if (!isQuiet) return <Seen role="alert">{children}</Seen>;
  return (
    <Overlay isOpen isDismissable={false} isKeyboardDismissDisabled>
      <Modal>
        <Focused role="alertdialog">{children}</Focused>
      </Modal>
    </Overlay>
  );
}

function useQuietKeys(): boolean {
  const [isQuiet, setQuiet] = useState(false);
  useEffect(() => {
    if (isQuiet) return;
    const begin = () => setTimeout(lookAtHands, QUIET_MS);
    const lookAtHands = () => {
      if (!isHalfTyped(document.activeElement)) return setQuiet(true);
      timer = setTimeout(() => setQuiet(true), HALF_TYPED_QUIET_MS - QUIET_MS);
    };
    let timer = begin();
    const onKey = () => {
      clearTimeout(timer);
      timer = begin();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => {
      clearTimeout(timer);
      window.removeEventListener("keydown", onKey, { capture: true });
    };
  }, [isQuiet]);
  return isQuiet;
}

/** Only what is typed into: a choice has a value at all times. */
const isHalfTyped = (element: Element | null): boolean =>
  element instanceof HTMLInputElement && !["radio", "checkbox"].includes(element.type) && element.value !== "";

const paper = css`
  position: fixed;
  inset: 0;
  z-index: 10;
  overflow: auto;
  background: ${({ theme }) => theme.color.dangerPaper};
  color: ${({ theme }) => theme.color.ink};
  border: 14px solid ${({ theme }) => theme.color.danger};
`;
const Seen = styled.div`${paper}`;
const Overlay = styled(ModalOverlay)`${paper}`;
const Focused = styled(Dialog)`&:focus { outline: none; }`;
