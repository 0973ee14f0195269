import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { promisesQuery } from "../../../api/queries";
import { Fold } from "../../../components/Fold";
import { Table } from "../../../components/Table";
import { figure } from "../../../words";

/** How true the hours on the cards turned out, and by how much to say them otherwise; nothing changes by itself. */
export function Promises() {
  const told = useQuery(promisesQuery);
  const found = told.data?.how_true;
  if (!found) return null;
  return (
    <Slip aria-label="How true our promises are">
      <p>{found.said}</p>
      {found.is_off && (
        <p>
          <strong>
            Cards could say {figure(100 * found.times)}&nbsp;% of what is worked out. A coordinator sets that in{" "}
            <Link to="/rules">the house rules</Link>, under building and proving.
          </strong>
        </p>
      )}
      <Fold title="Pack by pack">
        <Table
          columns={[
            { head: "Pack", cell: (each) => <Link to={`/packs/${each.number}`}>{each.number}</Link> },
            { head: "Worked out (h)", cell: (each) => figure(each.worked_out_h, 1) },
            { head: "Told (h)", cell: (each) => figure(each.told_h, 1) },
            { head: "Of it", cell: (each) => `${figure(100 * each.share)} %` },
          ]}
          rows={found.promises}
          keyOf={(each) => each.number}
        />
      </Fold>
    </Slip>
  );
}

const Slip = styled.section`
  display: grid;
  gap: var(--hair);
  margin-bottom: var(--sheet);
  padding: var(--step) var(--sheet);
  border-left: 8px solid ${({ theme }) => theme.color.tape};
  background: ${({ theme }) => theme.color.paper};
`;
