import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useCatalogue, useDonors } from "../../api/queries";
import { Button, ButtonLink } from "../../components/Button";
import { Field, Switch } from "../../components/Fields";
import { Page, Sheet, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { Tape } from "../../components/Tape";
import { useSettled } from "../../components/useSettled";
import { day } from "../../words";

type Work = "any" | "some" | "none";
const WORK: [Work, string][] = [
  ["any", "All"],
  ["some", "Something to do"],
  ["none", "Nothing to do"],
];
const HAS_WORK = { any: null, some: true, none: false } as const;
const ANY = "any";

/** Every donor that was opened. */
export default function DonorsPage() {
  const catalogue = useCatalogue();
  const [text, setText] = useState("");
  const [kind, setKind] = useState(ANY);
  const [work, setWork] = useState<Work>("any");
  const settled = useSettled(text);
  const donors = useDonors({ text: settled.trim(), kind: kind === ANY ? null : kind, has_work: HAS_WORK[work] });
  return (
    <Page
      title="Donors"
      wide
      actions={
        <ButtonLink to="/open" $kind="main">
          Open a donor
        </ButtonLink>
      }
    >
      <Sheet>
        <Filters>
          <Field
            label="Find by words, number or who opened it"
            value={text}
            onChange={setText}
            maxLength={60}
            autoComplete="off"
          />
          <Pick
            label="Kind"
            value={kind}
            onChange={setKind}
            options={[
              [ANY, "Any kind"],
              ...(catalogue.data?.donor_kinds ?? []).map((each) => [each.code, each.name] as const),
            ]}
          />
          <Switch label="What its cells want" value={work} onChange={setWork} options={WORK} />
        </Filters>
      </Sheet>
      {!donors.data ? (
        <Waiting query={donors} what="the donors" />
      ) : donors.data.count === 0 ? (
        <p>{settled || kind !== ANY || work !== "any" ? "None like that." : "Nothing was opened yet."}</p>
      ) : (
        <Found aria-label="Donors that fit">
          <p>
            {donors.data.count} {donors.data.count === 1 ? "donor" : "donors"}, the newest first.
          </p>
          <List>
            {donors.data.donors.map((donor) => (
              <li key={donor.number}>
                <Tape to={`/donors/${donor.number}`}>{donor.number}</Tape>
                <Link to={`/donors/${donor.number}`}>{donor.description || donor.kind_name}</Link>
                <span>{donor.kind_name}</span>
                <span>
                  {donor.cells} {donor.cells === 1 ? "cell" : "cells"}
                </span>
                <span>{day(donor.opened_at)}</span>
              </li>
            ))}
          </List>
          {donors.hasNextPage && (
            <Button kind="quiet" isDisabled={donors.isFetchingNextPage} onPress={() => void donors.fetchNextPage()}>
              Show older ones
            </Button>
          )}
        </Found>
      )}
    </Page>
  );
}

const Filters = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(14rem, 1fr));
  gap: var(--apart) var(--sheet);
  align-items: end;
`;
const Found = styled.section`
  > p { margin-top: var(--block); }
`;
const List = styled.ul`
  li {
    display: grid;
    grid-template-columns: 6rem minmax(0, 2fr) minmax(0, 1fr) 5rem 8rem;
    gap: var(--apart);
    align-items: center;
    min-height: 52px;
    border-top: 1px solid ${({ theme }) => theme.color.matLine};
  }
  li > a:nth-of-type(2) { font-weight: 650; }
  li > span { font-size: ${({ theme }) => theme.size.note}; }
  ${({ theme }) => theme.narrow} {
    li { grid-template-columns: 5rem minmax(0, 1fr) auto; padding: var(--slit) 0; }
    li > span:nth-of-type(1) { display: none; }
    li > span:nth-of-type(3) { grid-column: 2 / -1; }
  }
`;
