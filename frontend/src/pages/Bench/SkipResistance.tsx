import { useState } from "react";
import { Disclosure, DisclosurePanel, Heading, Button as Opener } from "react-aria-components";
import styled from "styled-components";
import type { EntryInput } from "../../api/entries";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";

/** How to measure resistance without a meter for it, and how to go on without. */
export function SkipResistance({ number, onSend }: { number: string; onSend: (entry: EntryInput) => void }) {
  const [why, setWhy] = useState("");
  return (
    <Box>
      <Heading>
        <Toggle slot="trigger">No resistance meter here?</Toggle>
      </Heading>
      <DisclosurePanel>
        <Inner>
          <p>
            Any resistor R that stands it will do, charger off: measure U₀ at rest, connect R for ten seconds, measure
            U₁ while it is connected. Then r = R × (U₀ − U₁) / U₁. With 4.7 Ω, 4.10 V and 4.02 V that is 94 mΩ, under
            load.
          </p>
          <Field
            label="Or go on without, because"
            value={why}
            onChange={setWhy}
            hint="The grade is then at most Fair, and never for high drain."
            maxLength={300}
          />
          <Button isDisabled={why.trim().length < 3} onPress={() => onSend({ to: "skips", body: { why } })}>
            Skip resistance of {number}
          </Button>
        </Inner>
      </DisclosurePanel>
    </Box>
  );
}

const Box = styled(Disclosure)`h3 { font-weight: 500; }`;
const Toggle = styled(
  Opener,
)`min-height: 44px; padding: 0; border: 0; background: none; text-decoration: underline; cursor: pointer;`;
const Inner = styled.div`display: grid; gap: 0.75rem; justify-items: start; max-width: 34rem; padding: 0.5rem 0;`;
