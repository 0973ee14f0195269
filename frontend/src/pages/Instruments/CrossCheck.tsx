import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { agreementQuery, type Instrument } from "../../api/measuring";
import { useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Switch } from "../../components/Fields";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Sheet, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { Plot } from "../../components/Plot";
import { figure } from "../../words";
import { EarlierReadings } from "./EarlierReadings";

type Agreement = Schemas["AgreementOut"];
type Quantity = "capacity" | "resistance";

/** Two instruments on the same cells: whether one reads more than the other, and what to do about it. */
export function CrossCheck({ instruments }: { instruments: Instrument[] }) {
  const [quantity, setQuantity] = useState<Quantity>("capacity");
  const usable = instruments.filter((each) => each.kind !== "voltmeter");
  const [a, setA] = useState(usable[0]?.number ?? "");
  const [b, setB] = useState(usable[1]?.number ?? "");
  const found = useQuery({ ...agreementQuery(a, b, quantity), enabled: a !== "" && b !== "" && a !== b });
  const names = usable.map((each) => [each.number, `${each.number} ${each.name}`] as const);
  return (
    <Sheet aria-label="Cross-check">
      <Stack>
        <h2>Do two agree?</h2>
        {usable.length < 2 ? (
          <p>
            Measure at least three cells on two testers, and say at each reading which one it was. Then it stands here.
          </p>
        ) : (
          <>
            <Switch
              label="Of what"
              value={quantity}
              onChange={setQuantity}
              options={[
                ["capacity", "Capacity"],
                ["resistance", "Resistance"],
              ]}
            />
            <Pair>
              <Pick label="Measure against" value={a} onChange={setA} options={names} />
              <Pick label="This one" value={b} onChange={setB} options={names} />
            </Pair>
            {a === b ? (
              <p>Choose two different ones.</p>
            ) : found.data ? (
              <Answer found={found.data} />
            ) : (
              <Waiting query={found} what="the comparison" />
            )}
          </>
        )}
      </Stack>
    </Sheet>
  );
}

function Answer({ found }: { found: Agreement }) {
  const session = useSession();
  const correct = useWrite((_: null, key) =>
    answer(() =>
      api.POST("/api/instruments/{number}/corrections", {
        params: { path: { number: found.b.number } },
        body: { against: found.a.number, quantity: found.quantity, ground: "" },
        headers: once(key),
      }),
    ),
  );
  const inForce = found.b.corrections.find((each) => each.quantity === found.quantity && each.ended_at === null);
  const odd = found.pairs.filter((pair) => pair.is_outlier);
  return (
    <>
      {found.bias_pct === null ? (
        <p>
          {found.pairs.length} {found.pairs.length === 1 ? "cell was" : "cells were"} measured with both. At least 3 are
          needed.
        </p>
      ) : (
        <>
          <Big>
            {found.bias_pct > 0 ? "+" : ""}
            {figure(found.bias_pct, 1)} %<small> ± {figure(found.error_pct ?? 0, 1)} %</small>
          </Big>
          <p>
            {found.significant
              ? `${found.b.name} reads ${found.bias_pct > 0 ? "more" : "less"} than ${found.a.name}; that is more than chance.`
              : "That is no more than chance: they agree."}
          </p>
        </>
      )}
      {found.pairs.length > 0 && <Agreeing found={found} />}
      {odd.length > 0 && (
        <Notice kind="ask">
          Left out because they lie far from the others:{" "}
          {odd.map((pair, index) => (
            <span key={pair.number}>
              {index > 0 && ", "}
              <Link to={`/cells/${pair.number}`}>{pair.number}</Link>
            </span>
          ))}
          . Look at their contacts and measure them again.
        </Notice>
      )}
      {inForce && (
        <Notice kind="kept">
          Its readings are multiplied by {figure(inForce.factor, 4)}. The points above are what it showed, uncorrected.
        </Notice>
      )}
      {inForce && <EarlierReadings instrument={found.b} correction={inForce.id} />}
      {!inForce && found.significant && found.factor !== null && (
        <>
          <p>
            As a correction, what {found.b.name} shows would be multiplied by <strong>{figure(found.factor, 4)}</strong>{" "}
            from now on. Each reading says so, and it can be ended at any time.
          </p>
          {session.data?.person?.role === "coordinator" ? (
            <Button kind="main" onPress={() => correct.mutate(null)} isDisabled={correct.isPending}>
              Correct {found.b.name}
            </Button>
          ) : (
            <p>A coordinator can set it.</p>
          )}
        </>
      )}
      <ProblemNotice problem={correct.error} />
    </>
  );
}

/** Difference over size: a bias is a level, a scatter a cloud, an odd one stands alone. */
function Agreeing({ found }: { found: Agreement }) {
  const unit = found.quantity === "capacity" ? "mAh" : "mΩ";
  const { x, lines } = useMemo(() => {
    const pairs = [...found.pairs].sort((one, other) => one.a + one.b - other.a - other.b);
    const at = pairs.map((pair) => (pair.a + pair.b) / 2);
    const bias = found.bias_pct;
    const half = 2 * (found.error_pct ?? 0);
    return {
      x: at,
      lines: [
        {
          name: "cell by cell",
          unit: "%",
          digits: 1,
          asPoints: true,
          y: pairs.map((pair) => (pair.is_outlier ? null : pair.difference_pct)),
        },
        ...(pairs.some((pair) => pair.is_outlier)
          ? [
              {
                name: "left out",
                unit: "%",
                digits: 1,
                asPoints: true,
                y: pairs.map((pair) => (pair.is_outlier ? pair.difference_pct : null)),
              },
            ]
          : []),
        ...(bias === null
          ? []
          : [
              {
                name: "mean, ± 2 errors",
                unit: "%",
                digits: 1,
                y: at.map(() => bias),
                low: at.map(() => bias - half),
                high: at.map(() => bias + half),
              },
            ]),
      ],
    };
  }, [found]);
  return (
    <Plot
      label={`Difference of ${found.b.name} against ${found.a.name}`}
      xLabel={`mean of both in ${unit}`}
      x={x}
      lines={lines}
      height={220}
    />
  );
}

const Stack = styled.div`display: grid; gap: var(--apart); min-width: 0; > * { min-width: 0; }`;
const Pair = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(12rem, 1fr)); gap: var(--apart);`;
const Big = styled.p`
  font: 700 ${({ theme }) => theme.size.key}/1.15 ${({ theme }) => theme.font.figure};
  small { font-size: 1.5rem; font-weight: 500; white-space: nowrap; }
  ${({ theme }) => theme.narrow} { font-size: 2.75rem; }
`;
