import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { answer, api, once } from "../../api/client";
import type { Instrument } from "../../api/measuring";
import { useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Notice, ProblemNotice } from "../../components/Notice";
import { Waiting } from "../../components/Page";
import { day, figure } from "../../words";

const SHOWN = 8;

/** A correction for what was measured before it: seen first, then kept, and taken back in one press. */
export function EarlierReadings({ instrument, correction }: { instrument: Instrument; correction: number }) {
  const [isOpen, setOpen] = useState(false);
  const session = useSession();
  const isCoordinator = session.data?.person?.role === "coordinator";
  const path = { number: instrument.number, correction_id: correction };
  const address = "/api/instruments/{number}/corrections/{correction_id}/earlier" as const;
  const found = useQuery({
    queryKey: ["earlier", path],
    queryFn: () => answer(() => api.GET(address, { params: { path } })),
    enabled: isOpen,
  });
  const again = () => void found.refetch();
  const correct = useWrite(
    (_: null, key) => answer(() => api.POST(address, { params: { path }, body: {}, headers: once(key) })),
    again,
  );
  const takeBack = useWrite(
    (_: null, key) => answer(() => api.DELETE(address, { params: { path }, headers: once(key) })),
    again,
  );
  if (!isOpen)
    return (
      <Button kind="quiet" onPress={() => setOpen(true)}>
        And what it measured before?
      </Button>
    );
  if (!found.data) return <Waiting query={found} what="its earlier readings" />;
  const { count, cells, corrected, readings, other_grades } = found.data;
  return (
    <Stack aria-label="Earlier readings">
      {corrected > 0 && (
        <Notice kind="kept">
          {corrected} earlier {corrected === 1 ? "reading was" : "readings were"} corrected afterwards; each keeps what
          was shown.
        </Notice>
      )}
      {count === 0 ? (
        corrected === 0 && <p>It measured nothing before that is not corrected.</p>
      ) : (
        <>
          <p>
            <strong>
              {count} earlier {count === 1 ? "reading" : "readings"} of {cells} {cells === 1 ? "cell" : "cells"}
            </strong>{" "}
            would change; {other_grades.length === 0 ? "no cell" : other_grades.length}{" "}
            {other_grades.length > 1 ? "cells get" : other_grades.length === 1 ? "cell gets" : "gets"} another grade.
          </p>
          <ul>
            {readings.slice(0, SHOWN).map((each) => (
              <li key={`${each.number}${each.at}`}>
                <Link to={`/cells/${each.number}`}>{each.number}</Link>, {day(each.at)}: {figure(each.before)} becomes{" "}
                <strong>{figure(each.after)}</strong>
                {other_grades.includes(each.number) && ", and its grade changes"}
              </li>
            ))}
          </ul>
        </>
      )}
      {isCoordinator ? (
        <Row>
          {count > 0 && (
            <Button onPress={() => correct.mutate(null)} isDisabled={correct.isPending}>
              Correct these too
            </Button>
          )}
          {corrected > 0 && (
            <Button kind="quiet" onPress={() => takeBack.mutate(null)} isDisabled={takeBack.isPending}>
              As they were shown again
            </Button>
          )}
        </Row>
      ) : (
        <p>A coordinator can correct them.</p>
      )}
      <ProblemNotice problem={correct.error ?? takeBack.error} />
    </Stack>
  );
}

const Stack = styled.section`display: grid; gap: var(--gap);`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near);`;
