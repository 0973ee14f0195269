import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { answer, api, type Schemas } from "../../api/client";
import { Choice } from "../../components/Fields";
import { Page, Quiet, Sheet, Waiting } from "../../components/Page";
import { Table } from "../../components/Table";
import { figure } from "../../words";

type Stretch = "0.5" | "7" | "30" | "36500";
const STRETCHES: [Stretch, string][] = [
  ["0.5", "This evening"],
  ["7", "Seven days"],
  ["30", "Thirty days"],
  ["36500", "All along"],
];

/** What an evening brought, what it is worth, and which donors are worth opening. */
export default function BroughtPage() {
  const [days, setDays] = useState<Stretch>("0.5");
  const brought = useQuery({
    queryKey: ["home", "brought", days],
    queryFn: () => answer(() => api.GET("/api/brought", { params: { query: { days: Number(days) } } })),
    placeholderData: keepPreviousData,
  });
  const found = brought.data;
  const most = Math.max(1, ...(found?.by_kind.map((kind) => kind.cells) ?? []));
  return (
    <Page title="What it brought" wide>
      <Choice label="Since when" hideLabel value={days} onChange={setDays} options={STRETCHES} />
      {!found ? (
        <Waiting query={brought} what="the evening" />
      ) : (
        <Grid>
          <Sheet>
            <Answer>
              {figure(found.rescued_wh, 1)} <small>Wh</small>
            </Answer>
            <p>
              rescued in {found.shelved} {found.shelved === 1 ? "cell" : "cells"} that went onto the shelf,{" "}
              {figure(found.rescued_mah)} mAh together.
            </p>
            <Way>
              <li>
                <strong>{found.donors}</strong> donors opened
              </li>
              <li>
                <strong>{found.cells}</strong> cells numbered
              </li>
              <li>
                <strong>{found.tested}</strong> measured to the end
              </li>
              <li>
                <strong>{found.shelved}</strong> shelved
              </li>
              <li>
                <strong>{found.out}</strong> out
              </li>
            </Way>
            {found.overdue > 0 && (
              <p>
                <strong>{found.overdue} left too long.</strong>{" "}
                <Link to="/shelf?where=everywhere&sort=due">See which are due first</Link>.
              </p>
            )}
            <p>
              <Link to="/instruments">Whether the testers agree</Link> stands with the instruments.
            </p>
          </Sheet>
          <Sheet>
            <h2>Which donors are worth opening</h2>
            {found.by_kind.length === 0 ? (
              <Quiet>
                <p>Nothing was opened in this time.</p>
              </Quiet>
            ) : (
              <Kinds
                columns={[
                  { head: "Kind", cell: (kind) => kind.kind, isName: true },
                  { head: "Opened", cell: (kind) => kind.donors },
                  {
                    head: "Of its cells",
                    cell: (kind) => (
                      <>
                        <Bars style={{ width: `${Math.max(12, (100 * kind.cells) / most)}%` }} aria-hidden="true">
                          <Kept style={{ flexGrow: kind.shelved }} />
                          <Open style={{ flexGrow: Math.max(0, kind.cells - kind.shelved - kind.out) }} />
                          <Gone style={{ flexGrow: kind.out }} />
                        </Bars>
                        {kind.shelved} of {kind.cells} shelved, {kind.out} out
                      </>
                    ),
                  },
                  {
                    head: "On average",
                    cell: (kind) => (kind.mean_mah === null ? "–" : `${figure(kind.mean_mah)} mAh`),
                  },
                ]}
                rows={found.by_kind}
                keyOf={(kind) => kind.kind}
              />
            )}
          </Sheet>
        </Grid>
      )}
    </Page>
  );
}

const Grid = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: var(--block);
  margin-top: var(--apart);
  align-items: start;
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
const Answer = styled.p`font: 700 4rem/1.1 ${({ theme }) => theme.font.figure}; small { font-size: 1.75rem; }`;
const Way = styled.ul`
  margin: var(--apart) 0;
  border-left: 6px solid ${({ theme }) => theme.color.tape};
  padding-left: var(--block);
  li { padding: var(--hair) 0; }
  strong { display: inline-block; min-width: 3.5rem; font: 700 1.625rem/1.2 ${({ theme }) => theme.font.figure}; }
`;
const Kinds = styled(Table<Schemas["KindBroughtOut"]>)`
  width: 100%;
  border-collapse: collapse;
  th, td { padding: var(--near) var(--apart) var(--near) 0; text-align: left; vertical-align: bottom; }
  tbody tr > * { border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
`;
const Bars = styled.div`display: flex; height: 14px; margin-bottom: 2px; border: 1px solid ${({ theme }) => theme.color.ink};`;
const Kept = styled.i`background: ${({ theme }) => theme.color.grade.A};`;
const Open = styled.i`background: ${({ theme }) => theme.color.mat};`;
const Gone = styled.i`background: repeating-linear-gradient(45deg, ${({ theme }) => theme.color.grade.out} 0 3px, transparent 3px 6px);`;
