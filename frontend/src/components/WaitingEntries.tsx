import { useEffect } from "react";
import styled from "styled-components";
import { useSession } from "../api/queries";
import { flush, keepSending, useWaiting } from "../api/waiting";
import { Button } from "./Button";
import { CameBack } from "./CameBack";
import { Strip } from "./Strip";
import { useShownInPlace } from "./useKept";

/** What was typed and is not on the server yet. It stands on every page until it is, or until somebody decides. */
export function WaitingEntries() {
  const { entries, trouble } = useWaiting();
  const shownInPlace = useShownInPlace();
  const session = useSession();
  const name = session.data?.person?.name;
  useEffect(keepSending, []);
  useEffect(() => {
    if (name) void flush();
  }, [name]);
  const refused = entries.filter((entry) => entry.refused && !shownInPlace.has(entry.id));
  const others = entries.filter((entry) => entry.person !== name);
  const waiting = entries.filter((entry) => !entry.refused).length;
  // What is merely on its way is shown where it was typed.
  const isStuck = waiting > 0 && (trouble !== null || others.length > 0);
  if (!isStuck && refused.length === 0) return null;
  return (
    <Strip aria-live="polite" aria-label="Not on the server yet">
      {isStuck && (
        <Row>
          <strong>
            {waiting} {waiting === 1 ? "entry waits" : "entries wait"} in this browser
          </strong>
          <span>
            {others.length > 0
              ? `Typed by ${others[0]?.person}; sent once ${others[0]?.person} signs in here.`
              : trouble}
          </span>
          <Button onPress={() => void flush()}>Try now</Button>
        </Row>
      )}
      {refused.map((entry) => (
        <CameBack key={entry.id} entry={entry} />
      ))}
    </Strip>
  );
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--hair) var(--step);
  > span { flex: 1 1 16rem; }
`;
