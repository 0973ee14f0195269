import { Link } from "react-router";
import styled from "styled-components";
import { useDonors } from "../../api/queries";
import { Tape } from "../../components/Tape";
import { day } from "../../words";

/** The donors opened last, to go back to. */
export function RecentDonors() {
  const donors = useDonors({});
  if (!donors.data?.donors.length) return null;
  return (
    <Box>
      <h2>Opened before</h2>
      <ul>
        {donors.data.donors.slice(0, 6).map((donor) => (
          <li key={donor.number}>
            <Tape size="small">{donor.number}</Tape>
            <span>
              <Link to={`/donors/${donor.number}`}>{donor.description || donor.kind_name}</Link>
              <small>
                {donor.cells} {donor.cells === 1 ? "cell" : "cells"}, {day(donor.opened_at)}
              </small>
            </span>
          </li>
        ))}
      </ul>
      <Link to="/donors">All donors</Link>
    </Box>
  );
}

const Box = styled.section`
  margin-top: var(--room);
  li { display: flex; align-items: center; gap: var(--apart); padding: var(--slit) 0; border-top: 1px solid ${({ theme }) => theme.color.matLine}; }
  li a { display: block; min-height: 24px; font-weight: 650; }
  small { font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; }
`;
