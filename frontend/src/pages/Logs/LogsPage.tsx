import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { useInstruments, useLogs } from "../../api/measuring";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { LogDrop } from "../../components/LogDrop";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { useSettled } from "../../components/useSettled";
import { dayAndTime, figure, LOG_STATE_WORDS } from "../../words";

const ANY = "any";

/** Testers' logs: drop one, find any. */
export default function LogsPage() {
  const [search, setSearch] = useSearchParams();
  const cell = search.get("cell");
  const instrument = search.get("instrument") ?? ANY;
  const [text, setText] = useState("");
  const settled = useSettled(text);
  const navigate = useNavigate();
  const instruments = useInstruments();
  const logs = useLogs({ text: settled.trim(), cell, instrument: instrument === ANY ? null : instrument });
  return (
    <Page
      title={cell ? `Logs of cell ${cell}` : "Testers' logs"}
      wide
      lead="A curve tells capacity, energy and resistance at once, with what the sampling leaves open."
    >
      <TwoColumns>
        <Sheet aria-label="Take a log in">
          <LogDrop cell={cell} onTaken={(log) => navigate(`/logs/${log.id}`, { state: { isAgain: log.is_again } })} />
        </Sheet>
        <Sheet aria-label="All logs">
          <Filters>
            <Field
              label="Find by file or cell"
              value={text}
              onChange={setText}
              maxLength={60}
              autoComplete="off"
              hint={cell ? `Only those of cell ${cell}.` : undefined}
            />
            <Pick
              label="Logged by"
              value={instrument}
              onChange={(next) =>
                setSearch(
                  { ...(cell ? { cell } : {}), ...(next === ANY ? {} : { instrument: next }) },
                  { replace: true },
                )
              }
              options={[
                [ANY, "Any instrument"],
                ...(instruments.data?.instruments ?? []).map((each) => [each.number, each.name] as const),
              ]}
            />
          </Filters>
          {cell && <Link to="/logs">Of all cells</Link>}
          {!logs.data ? (
            <Waiting query={logs} what="the logs" />
          ) : logs.data.logs.length === 0 ? (
            <p>{settled || instrument !== ANY ? "None like that." : "None yet."}</p>
          ) : (
            <>
              <p>
                {logs.data.count} {logs.data.count === 1 ? "log" : "logs"}, the newest first.
              </p>
              <List>
                {logs.data.logs.map((log) => (
                  <li key={log.id}>
                    <Link to={`/logs/${log.id}`}>{log.file_name}</Link>
                    <span>
                      {log.cell ? `cell ${log.cell}, ` : ""}
                      {log.instrument ? `${log.instrument}, ` : ""}
                      {log.state === "asks" || log.state === "refused" ? (
                        <Marked>{LOG_STATE_WORDS[log.state]}</Marked>
                      ) : (
                        LOG_STATE_WORDS[log.state]
                      )}
                      {log.state === "reading" ? `, ${log.progress_pct} %` : ""}
                      {log.tests > 1 ? `, ${log.tests} tests` : ""}
                      {log.discharge_capacity_mah !== null ? `, ${figure(log.discharge_capacity_mah)} mAh` : ""} ·{" "}
                      {dayAndTime(log.at)}
                    </span>
                  </li>
                ))}
              </List>
              {logs.hasNextPage && (
                <Button kind="quiet" isDisabled={logs.isFetchingNextPage} onPress={() => void logs.fetchNextPage()}>
                  Show older ones
                </Button>
              )}
            </>
          )}
        </Sheet>
      </TwoColumns>
    </Page>
  );
}

const Filters = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(12rem, 1fr)); gap: var(--apart); align-items: start;`;
const Marked = styled.strong`padding: 0 var(--slit); background: ${({ theme }) => theme.color.tape}; color: ${({ theme }) => theme.color.onTape};`;
const List = styled.ul`
  display: grid;
  gap: var(--near);
  margin-top: var(--near);
  li { display: grid; }
  a { font-weight: 700; overflow-wrap: anywhere; min-height: 28px; }
  span { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
