import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { cellsQuery, usePlaces, useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button } from "../../components/Button";
import { Tick } from "../../components/Fields";
import { ProblemNotice } from "../../components/Notice";
import { Page, Sheet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";

type Place = Schemas["PlaceOut"];

/** What waits for the recycler, box by box, and handing it over. */
export default function OutBoxPage() {
  const places = usePlaces();
  const boxes = places.data?.places
    .map(({ place }) => place)
    .filter((place) => place.kind === "fire-safe-box" || place.kind === "out-box");
  return (
    <Page
      title="For the recycler"
      lead="Cells that are out, and hazards. Ends taped, sorted by chemistry, in a box that does not burn. Local rules on collection come first."
    >
      {boxes ? (
        <Stack>
          {boxes.map((place) => (
            <Box key={place.id} place={place} />
          ))}
        </Stack>
      ) : (
        <Waiting query={places} what="the boxes" />
      )}
    </Page>
  );
}

function Box({ place }: { place: Place }) {
  const cells = useQuery(cellsQuery({ place_id: place.id, most: 200 }));
  const session = useSession();
  const [taped, setTaped] = useState(false);
  const handOver = useWrite(
    (body: Schemas["HandOverIn"], key) => answer(() => api.POST("/api/hand-overs", { body, headers: once(key) })),
    () => setTaped(false),
  );
  if (!cells.data) return <Waiting query={cells} what="the box" />;
  const { total } = cells.data;
  return (
    <BoxSheet $hazard={place.kind === "fire-safe-box"}>
      <Head>
        <Count>{total}</Count>
        <h2>{place.name}</h2>
      </Head>
      {handOver.data && (
        <p role="status">
          {handOver.data.handed_over === 1 ? "1 cell" : `${handOver.data.handed_over} cells`} went to the recycler.
          Their stories stay.
        </p>
      )}
      {total === 0 ? (
        <p>Empty.</p>
      ) : (
        <>
          <List>
            {cells.data.cells.map((cell) => (
              <li key={cell.number}>
                <Tape to={`/cells/${cell.number}`}>{cell.number}</Tape>
                <span>{cell.reasons[0]?.text}</span>
              </li>
            ))}
          </List>
          {session.data?.person?.role === "coordinator" ? (
            <Hand>
              <Tick isSelected={taped} onChange={setTaped}>
                Both ends of every cell are taped
              </Tick>
              <ProblemNotice problem={handOver.error} />
              <Button
                kind="main"
                waitsFor={taped ? null : "First tick that the ends are taped."}
                isDisabled={handOver.isPending}
                onPress={() => handOver.mutate({ place_id: place.id, taped })}
              >
                The recycler took {total === 1 ? "it" : `all ${total}`}
              </Button>
            </Hand>
          ) : (
            <p>A coordinator hands them over.</p>
          )}
        </>
      )}
    </BoxSheet>
  );
}

const Stack = styled.div`display: grid; gap: var(--sheet);`;
const BoxSheet = styled(Sheet)<{
  $hazard: boolean;
}>`display: grid; gap: var(--apart); border-left: 10px solid ${({ theme, $hazard }) => ($hazard ? theme.color.danger : theme.color.ink)};`;
const Head = styled.div`display: flex; align-items: baseline; gap: var(--apart);`;
const Count = styled.span`font: 700 ${({ theme }) => theme.size.figure}/1 ${({ theme }) => theme.font.figure};`;
const List = styled.ul`display: grid; gap: var(--slit); li { display: flex; flex-wrap: wrap; align-items: center; gap: var(--hair) var(--apart); }`;
const Hand = styled.div`display: grid; gap: var(--apart); justify-items: start;`;
