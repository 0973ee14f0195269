import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Pack, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm } from "../../components/AskForm";
import { Field, Tick } from "../../components/Fields";

const SEEN = [
  ["polarity_right", "Plus and minus are where the print says"],
  ["charge_stopped", "Its charge stopped by itself at full"],
  ["load_held", "It held its load, and no cell got warm"],
] as const;

/** Put to the test before it leaves: every group from minus on, and what has to be seen. */
export function Commissioning({ pack }: { pack: Pack }) {
  const [volts, setVolts] = useState<string[]>(() => Array(pack.series).fill(""));
  const [seen, setSeen] = useState<Record<string, boolean>>({});
  const test = useWrite((body: Schemas["CommissioningIn"], key) =>
    answer(() =>
      api.POST("/api/packs/{number}/commissionings", {
        params: { path: { number: pack.number } },
        headers: once(key),
        body,
      }),
    ),
  );
  return (
    <Box
      aria-label="Put to the test"
      problem={test.error}
      send="It passed"
      isSending={test.isPending}
      onSend={() =>
        test.mutate({
          group_volts: volts,
          polarity_right: seen.polarity_right ?? false,
          charge_stopped: seen.charge_stopped ?? false,
          load_held: seen.load_held ?? false,
        })
      }
    >
      <h2>Put it to the test</h2>
      <p>Measure each group at its taps, beginning at minus. Nothing leaves the house before this.</p>
      <Groups>
        {volts.map((typed, index) => (
          <Field
            key={index}
            label={`Group ${index + 1}`}
            unit="V"
            numeric
            value={typed}
            onChange={(next) => setVolts((before) => before.map((each, at) => (at === index ? next : each)))}
            maxLength={20}
            autoComplete="off"
          />
        ))}
      </Groups>
      {SEEN.map(([key, words]) => (
        <Tick
          key={key}
          isSelected={seen[key] ?? false}
          onChange={(is) => setSeen((before) => ({ ...before, [key]: is }))}
        >
          {words}
        </Tick>
      ))}
    </Box>
  );
}

const Box = styled(AskForm)`
  display: grid;
  gap: var(--apart);
  justify-items: start;
  padding: var(--block) var(--sheet);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.paper};
`;
const Groups = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(8rem, 1fr)); gap: var(--apart); width: 100%;`;
