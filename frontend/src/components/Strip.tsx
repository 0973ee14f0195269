import styled from "styled-components";

/** Over the whole width below the head: what concerns every page until it is settled. */
export const Strip = styled.aside`
  display: grid;
  gap: var(--near);
  padding: 0.625rem var(--room);
  border-bottom: 3px solid ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.askPaper};
  ${({ theme }) => theme.narrow} { padding: var(--near) var(--apart); }
`;
