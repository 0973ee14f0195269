import styled from "styled-components";

/** A cell that was recovered from very low carries this for life. */
export const Marked = () => <Mark>Marked for life</Mark>;

const Mark = styled.strong`
  display: inline-block;
  padding: 0 var(--near);
  border: 2px dashed ${({ theme }) => theme.color.danger};
  color: ${({ theme }) => theme.color.danger};
  font-size: ${({ theme }) => theme.size.note};
`;
