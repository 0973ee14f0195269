import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { trayQuery } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";
import { Page, Quiet, Waiting } from "../../components/Page";
import { TrayPass } from "./TrayPass";

/** A tray in one pass: look, voltage, Enter, next place. */
export default function TrayPage() {
  const { number = "" } = useParams();
  const tray = useQuery({ ...trayQuery(number), refetchInterval: 15_000 });
  if (!tray.data)
    return (
      <Page title={`Tray ${number}`}>
        <Waiting query={tray} what="the tray" />
      </Page>
    );
  const { tray: place, cells, untaped } = tray.data;
  const due = cells.filter((each) => each.must_look || each.needs_voltage).length;
  return (
    <Page
      title={place.name}
      wide
      lead={
        cells.length === 0
          ? "No cell lies here."
          : due === 0
            ? `${cells.length} cells, all looked at and measured.`
            : `${due} of ${cells.length} cells still to look at or to measure.`
      }
    >
      {untaped.map((donor) => (
        <Untaped key={donor.number} donor={donor} />
      ))}
      {cells.length === 0 ? (
        <Quiet>
          <p>Cells come here when a donor is opened, or when their label and the tray's are scanned.</p>
        </Quiet>
      ) : (
        <TrayPass key={place.number} pass={tray.data} asOf={tray.data.askedAt} />
      )}
      <Sheets>
        <a href={`/api/trays/${place.number}/sheet.pdf`} target="_blank" rel="noreferrer">
          Tray sheet (PDF)
        </a>
        <Link to={`/places/${place.number}`}>Lay in by scanning, or count it</Link>
        <Link to={`/labels?cells=${[place.number, ...cells.map((each) => each.cell.number)].join(",")}`}>Labels</Link>
      </Sheets>
    </Page>
  );
}

function Untaped({ donor }: { donor: Schemas["UntapedOut"] }) {
  const say = useWrite((_: null, key) =>
    answer(() =>
      api.POST("/api/donors/{number}/taped", {
        params: { path: { number: donor.number } },
        headers: once(key),
        body: {},
      }),
    ),
  );
  return (
    <Asked role="status">
      <span>
        <strong>Taped?</strong> Open ends of {donor.description} ({donor.number}).
      </span>
      <ProblemNotice problem={say.error} />
      <Button isDisabled={say.isPending} onPress={() => say.mutate(null)}>
        All taped
      </Button>
    </Asked>
  );
}

const Sheets = styled.p`display: flex; flex-wrap: wrap; gap: 0 var(--room); margin-top: var(--apart); a { display: inline-flex; align-items: center; min-height: 44px; font-weight: 700; }`;
const Asked = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--hair) var(--block);
  margin-bottom: var(--apart);
  padding: var(--slit) var(--step);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.askPaper};
`;
