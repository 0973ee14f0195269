import { Link } from "react-router";
import styled from "styled-components";
import type { Pack } from "../../api/client";
import { usePacks } from "../../api/queries";
import { ButtonLink } from "../../components/Button";
import { Page, Quiet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { day, figure, PACK_WORDS } from "../../words";
import { Promises } from "./Outside/Promises";
import { Wishes } from "./Wishes";

const ORDER: readonly Pack["state"][] = ["planned", "built", "given-out", "back", "taken-apart", "dropped"];

/** All packs by their state. */
export default function PacksPage() {
  const packs = usePacks();
  const inState = (state: Pack["state"]) => packs.data?.packs.filter((pack) => pack.state === state) ?? [];
  return (
    <Page
      title="Packs"
      actions={
        <>
          <ButtonLink to="/packs/take-in" $kind="plain">
            Take in one from elsewhere
          </ButtonLink>
          <ButtonLink to="/recalls" $kind="plain">
            Where used, recalls
          </ButtonLink>
          <ButtonLink to="/match" $kind="main">
            Match a new one
          </ButtonLink>
        </>
      }
    >
      <Wishes />
      <Promises />
      {!packs.data ? (
        <Waiting query={packs} what="the packs" />
      ) : packs.data.packs.length === 0 ? (
        <Quiet>
          <h2>No pack yet.</h2>
          <p>Match cells from the shelf into groups and keep the result.</p>
        </Quiet>
      ) : (
        ORDER.filter((state) => inState(state).length > 0).map((state) => (
          <Shelf key={state}>
            <h2>{PACK_WORDS[state]}</h2>
            <ul>
              {inState(state).map((pack) => (
                <Row key={pack.number}>
                  <Tape to={`/packs/${pack.number}`}>{pack.number}</Tape>
                  <span>
                    <Name to={`/packs/${pack.number}`}>{pack.purpose}</Name>
                    <small>
                      {pack.is_stale && <Stale>a cell changed, mend the plan: </Stale>}
                      {pack.series}S{pack.parallel}P, {figure(pack.nominal_v, 1)} V, {figure(pack.energy_wh)} Wh, made{" "}
                      {day(pack.made_at)}
                    </small>
                  </span>
                  <Weakest>
                    <small>weakest group</small>
                    {figure(pack.weakest_mah)} mAh
                  </Weakest>
                </Row>
              ))}
            </ul>
          </Shelf>
        ))
      )}
    </Page>
  );
}

const Shelf = styled.section`
  margin-bottom: var(--sheet);
  padding: var(--step) var(--sheet);
  background: ${({ theme }) => theme.color.paper};
  border-bottom: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.ink};
`;
const Row = styled.li`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--hair) var(--block);
  padding: var(--near) 0;
  & + & { border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
  small { display: block; font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
const Stale = styled.strong`color: ${({ theme }) => theme.color.danger};`;
const Name = styled(
  Link,
)`font-weight: 750; font-size: ${({ theme }) => theme.size.lead}; text-decoration: none; &:hover { text-decoration: underline; }`;
const Weakest = styled.span`margin-left: auto; text-align: right; small { font-family: ${({ theme }) => theme.font.text}; font-weight: 400; } font: 700 1.25rem ${({ theme }) => theme.font.figure};`;
