import { Link, useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { useLogs } from "../../api/measuring";
import { LogDrop } from "../../components/LogDrop";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { dayAndTime, figure, LOG_STATE_WORDS } from "../../words";

/** Testers' logs: drop one, see the newest. */
export default function LogsPage() {
  const [search] = useSearchParams();
  const cell = search.get("cell");
  const navigate = useNavigate();
  const logs = useLogs(cell);
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
        <Sheet aria-label="Newest logs">
          <h2>Newest</h2>
          {!logs.data ? (
            <Waiting query={logs} what="the logs" />
          ) : logs.data.logs.length === 0 ? (
            <p>None yet.</p>
          ) : (
            <List>
              {logs.data.logs.map((log) => (
                <li key={log.id}>
                  <Link to={`/logs/${log.id}`}>{log.file_name}</Link>
                  <span>
                    {log.cell ? `cell ${log.cell}, ` : ""}
                    {log.state === "asks" || log.state === "refused" ? (
                      <Marked>{LOG_STATE_WORDS[log.state]}</Marked>
                    ) : (
                      LOG_STATE_WORDS[log.state]
                    )}
                    {log.state === "reading" ? `, ${log.progress_pct} %` : ""}
                    {log.discharge_capacity_mah !== null ? `, ${figure(log.discharge_capacity_mah)} mAh` : ""} ·{" "}
                    {dayAndTime(log.at)}
                  </span>
                </li>
              ))}
            </List>
          )}
        </Sheet>
      </TwoColumns>
    </Page>
  );
}

const Marked = styled.strong`padding: 0 0.375rem; background: ${({ theme }) => theme.color.tape}; color: ${({ theme }) => theme.color.onTape};`;
const List = styled.ul`
  display: grid;
  gap: 0.5rem;
  margin-top: 0.5rem;
  li { display: grid; }
  a { font-weight: 700; overflow-wrap: anywhere; min-height: 28px; }
  span { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
