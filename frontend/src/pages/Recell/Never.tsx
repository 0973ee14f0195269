import styled from "styled-components";

/** What must not be done, whoever asks. */
export const Never = styled.ul`
  display: grid;
  gap: var(--hair);
  padding: var(--gap) var(--step);
  border-left: 6px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
`;
