import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { soughtQuery } from "../../api/queries";
import { Page, Quiet, Waiting } from "../../components/Page";
import { Tape } from "../../components/Tape";
import { pageOf } from "../../words";

type Thing = Schemas["FoundOut"]["thing"];
const KINDS: [string, Thing[]][] = [
  ["Donors", ["donor"]],
  ["Packs", ["pack"]],
  ["Places", ["tray", "box"]],
  ["Instruments", ["instrument"]],
  ["Cells", ["cell"]],
];

/** What words lead to, one kind of thing after the other. */
export default function FindPage() {
  const [address] = useSearchParams();
  const text = (address.get("text") ?? "").trim();
  const sought = useQuery({ ...soughtQuery(text), enabled: text !== "" });
  if (text === "")
    return (
      <Page title="Find">
        <Quiet>
          <p>Type above: a number, or words of a device, a size, a place, a person, or a day.</p>
        </Quiet>
      </Page>
    );
  if (!sought.data)
    return (
      <Page title={`“${text}”`}>
        <Waiting query={sought} what="what fits" />
      </Page>
    );
  const { found, cells } = sought.data;
  return (
    <Page title={`“${text}”`} lead={found.length === 0 ? undefined : "Everything that has all of these words."}>
      {found.length === 0 ? (
        <Quiet>
          <p>
            Nothing has all of these words. Fewer of them find more; a day is written 2026-11-28, 28.11. or yesterday.
          </p>
        </Quiet>
      ) : (
        KINDS.map(([title, things]) => {
          const these = found.filter((each) => things.includes(each.thing));
          if (these.length === 0) return null;
          return (
            <Kind key={title} aria-label={title}>
              <h2>
                {title}
                {title === "Cells" && cells > these.length && ` (the newest ${these.length} of ${cells})`}
              </h2>
              <ul>
                {these.map((each) => (
                  <li key={each.number}>
                    <Tape size="small" to={pageOf(each.thing, each.number)}>
                      {each.number}
                    </Tape>
                    <span>
                      <Link to={pageOf(each.thing, each.number)}>{each.name}</Link>
                      <small>{each.where}</small>
                    </span>
                  </li>
                ))}
              </ul>
            </Kind>
          );
        })
      )}
    </Page>
  );
}

const Kind = styled.section`
  margin-bottom: var(--sheet);
  li { display: flex; align-items: center; gap: var(--apart); min-height: 44px; border-top: 1px solid ${({ theme }) => theme.color.matLine}; }
  li span a { display: block; font-weight: 650; }
  small { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
