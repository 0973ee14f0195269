import type { ReactNode } from "react";
import { Disclosure, DisclosurePanel, Heading, Button as Opener } from "react-aria-components";
import styled from "styled-components";

/** What is needed now and then: one line until somebody opens it. */
export function Fold({ title, isOpen, children }: { title: string; isOpen?: boolean; children: ReactNode }) {
  return (
    <Box defaultExpanded={isOpen ?? false}>
      <Heading level={2}>
        <Toggle slot="trigger">{title}</Toggle>
      </Heading>
      <DisclosurePanel>
        <Inner>{children}</Inner>
      </DisclosurePanel>
    </Box>
  );
}

const Box = styled(Disclosure)`h2 { font-size: inherit; font-weight: 500; }`;
const Toggle = styled(
  Opener,
)`min-height: 44px; padding: 0; border: 0; background: none; text-decoration: underline; cursor: pointer;`;
const Inner = styled.div`display: grid; gap: var(--apart); justify-items: start; max-width: 34rem; padding: var(--near) 0;`;
