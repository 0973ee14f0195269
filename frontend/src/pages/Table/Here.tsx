import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { ProblemNotice } from "../../components/Notice";
import { clockTime } from "../../words";

/** Whether somebody said that they are here, and until when that holds for everything that charges. */
export function Here({ told }: { told: Pick<Schemas["AlarmsOut"], "present_at" | "here_minutes" | "charges"> }) {
  const say = useWrite((_: null, key) => answer(() => api.POST("/api/presence", { body: {}, headers: once(key) })));
  const holdsUntil = told.present_at ? Date.parse(told.present_at) + 60_000 * told.here_minutes : 0;
  const isOver = holdsUntil < Date.now();
  const soon = holdsUntil - Date.now() < 10 * 60_000;
  return (
    <Box $asks={told.charges && soon} aria-label="Is somebody here">
      <p>
        {!told.charges ? (
          "Nothing charges."
        ) : isOver ? (
          <strong>Is somebody here? What charges on a wire stops; look after chargers without one.</strong>
        ) : (
          <>
            Somebody is here until <strong>{clockTime(new Date(holdsUntil).toISOString())}</strong>. Then what charges
            on a wire stops, and a charger without one calls.
          </>
        )}
      </p>
      {told.charges && (
        <Button kind={soon ? "main" : "plain"} onPress={() => say.mutate(null)} isDisabled={say.isPending}>
          I am here
        </Button>
      )}
      <ProblemNotice problem={say.error} />
    </Box>
  );
}

const Box = styled.section<{ $asks: boolean }>`
  display: flex;
  flex-wrap: wrap;
  gap: var(--apart);
  align-items: center;
  justify-content: space-between;
  padding: var(--apart) var(--room);
  p { flex: 1 1 14rem; }
  background: ${({ theme, $asks }) => ($asks ? theme.color.askPaper : theme.color.paper)};
`;
