import { type ReactNode, useEffect } from "react";
import styled from "styled-components";
import { Problem } from "../api/client";
import { Button } from "./Button";

/** The frame of a page: its title, what it is for, and its content. */
export function Page({
  title,
  lead,
  actions,
  children,
  wide,
}: {
  title: string;
  lead?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
  wide?: boolean;
}) {
  useEffect(() => {
    document.title = `${title} · Zembric`;
  }, [title]);
  return (
    <Main id="main" $wide={Boolean(wide)}>
      <Head>
        <div>
          <h1>{title}</h1>
          {lead && <Lead>{lead}</Lead>}
        </div>
        {actions && <Actions>{actions}</Actions>}
      </Head>
      {children}
    </Main>
  );
}

type Loading = { isPending: boolean; error: unknown; refetch: () => unknown };

/** Stands in for content that is on its way or could not come. */
export function Waiting({ query, what }: { query: Loading; what: string }) {
  if (query.isPending) return <Quiet role="status">Fetching {what} …</Quiet>;
  const text = query.error instanceof Problem ? query.error.message : `${what} could not be shown.`;
  return (
    <Quiet role="alert">
      <p>{text}</p>
      <p>
        <Button onPress={() => query.refetch()}>Try again</Button>
      </p>
    </Quiet>
  );
}

export const Sheet = styled.section`
  padding: 1.25rem var(--room);
  background: ${({ theme }) => theme.color.paper};
  ${({ theme }) => theme.narrow} { padding: var(--block); }
`;
/** Two columns, the left one `$left` times as wide as the right; one below the other where it is narrow. */
export const TwoColumns = styled.div<{ $left?: number; $below?: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, ${({ $left = 1 }) => $left}fr) minmax(0, 1fr);
  gap: var(--sheet);
  align-items: start;
  margin-top: ${({ $below }) => ($below ? "1rem" : 0)};
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); }
`;
export const Quiet = styled.div`
  display: grid;
  gap: var(--apart);
  justify-items: start;
  padding: var(--room);
  background: ${({ theme }) => theme.color.paper};
  border-left: 6px solid ${({ theme }) => theme.color.matLine};
`;
const Main = styled.main<{ $wide: boolean }>`
  max-width: ${({ $wide }) => ($wide ? "1500px" : "1180px")};
  margin: 0 auto;
  padding: 1.25rem var(--room) 3rem;
  ${({ theme }) => theme.narrow} { padding: var(--step) var(--apart) 6rem; }
`;
const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  justify-content: space-between;
  gap: var(--apart) var(--room);
  margin-bottom: var(--block);
`;
const Lead = styled.p`max-width: 46rem; margin-top: var(--thread); color: ${({ theme }) => theme.color.inkSoft};`;
export const Actions = styled.div`display: flex; flex-wrap: wrap; gap: var(--gap);`;
