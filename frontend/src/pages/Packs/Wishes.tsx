import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { useWishes } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { Button, ButtonLink } from "../../components/Button";
import { Fold } from "../../components/Fold";
import { ProblemNotice } from "../../components/Notice";
import { requestInWords } from "../../components/requestInWords";
import { Tape } from "../../components/Tape";
import { day } from "../../words";

/** What is collected for: how far each wish is, and which untested cells are likely to bring it on. */
export function Wishes() {
  const wishes = useWishes();
  if (!wishes.data || wishes.data.wishes.length === 0) return null;
  return (
    <Shelf aria-label="Collecting">
      <h2>Collecting</h2>
      {wishes.data.wishes.map((wish) => (
        <One key={wish.id} wish={wish} />
      ))}
    </Shelf>
  );
}

function One({ wish }: { wish: Schemas["WishOut"] }) {
  const giveUp = useWrite((id: number, key) =>
    answer(() => api.DELETE("/api/wishes/{wish_id}", { params: { path: { wish_id: id } }, headers: once(key) })),
  );
  const here = wish.needed - wish.missing;
  return (
    <Row>
      <Count>
        {here} <small>of {wish.needed}</small>
      </Count>
      <div>
        <strong>{wish.purpose}</strong>
        <p>
          {requestInWords(wish.request)}. Wished by {wish.made_by}, {day(wish.made_at)}.
        </p>
        <Places aria-hidden="true">
          {Array.from({ length: wish.needed }, (_, place) => `${wish.id}.${place}`).map((key, place) => (
            <i key={key} data-here={place < here} />
          ))}
        </Places>
        <p>
          {wish.missing === 0
            ? "The cells are there."
            : `${wish.missing} missing${wish.have > here ? `; ${wish.have} may take part, but not in groups of one kind each` : ""}.`}
        </p>
        {wish.likely.length > 0 && (
          <Fold title={`Not tested yet and likely to do (${wish.likely.length})`}>
            <ul>
              {wish.likely.map((each) => (
                <li key={each.cell.number}>
                  <Tape size="small" to={`/bench/${each.cell.number}`}>
                    {each.cell.number}
                  </Tape>{" "}
                  {each.why}
                </li>
              ))}
            </ul>
          </Fold>
        )}
        <ProblemNotice problem={giveUp.error} />
      </div>
      <span>
        {wish.missing === 0 && (
          <ButtonLink to={`/match?wish=${wish.id}`} $kind="main">
            Match it now
          </ButtonLink>
        )}
        <Button kind="quiet" onPress={() => giveUp.mutate(wish.id)} isDisabled={giveUp.isPending}>
          Give it up
        </Button>
      </span>
    </Row>
  );
}

const Shelf = styled.section`
  margin-bottom: var(--sheet);
  padding: var(--step) var(--sheet);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.paper};
`;
const Row = styled.div`
  display: grid;
  grid-template-columns: 7rem minmax(0, 1fr) auto;
  gap: var(--hair) var(--block);
  align-items: start;
  padding: var(--gap) 0;
  & + & { border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
  > div > strong { font-size: ${({ theme }) => theme.size.lead}; }
  > span { display: grid; justify-items: end; }
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); > span { justify-items: start; } }
`;
const Count = styled.span`
  font: 800 2.5rem/1 ${({ theme }) => theme.font.figure};
  small { font: 600 1.0625rem ${({ theme }) => theme.font.text}; }
`;
const Places = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  margin: var(--slit) 0;
  i { width: 14px; height: 22px; border: 2px dashed ${({ theme }) => theme.color.inkSoft}; border-radius: 3px; }
  i[data-here="true"] { border-style: solid; border-color: ${({ theme }) => theme.color.ink}; background: ${({ theme }) => theme.color.tape}; }
`;
