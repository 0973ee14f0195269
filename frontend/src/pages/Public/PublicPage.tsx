import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useParams } from "react-router";
import styled from "styled-components";
import { answer, api } from "../../api/client";
import { Waiting } from "../../components/Page";
import { figure } from "../../words";

/** What anybody may read of a pack who has its address: its card, its story, and whether it is called back. */
export default function PublicPage() {
  const { token = "" } = useParams();
  const page = useQuery({
    queryKey: ["public", token],
    queryFn: () => answer(() => api.GET("/api/pages/{token}", { params: { path: { token } } })),
    retry: false,
  });
  useEffect(() => {
    document.title = page.data ? `${page.data.purpose} · Zembric` : "Zembric";
    const robots = document.createElement("meta");
    robots.name = "robots";
    robots.content = "noindex, nofollow";
    document.head.append(robots);
    return () => robots.remove();
  }, [page.data]);
  if (!page.data)
    return (
      <Sheet>
        <Waiting query={page} what="the page" />
      </Sheet>
    );
  const { data } = page;
  return (
    <Sheet>
      <small>Zembric, pack {data.number}</small>
      <h1>{data.purpose}</h1>
      {(data.is_stopped || data.notices.length > 0) && (
        <Danger role="alert">
          <h2>Do not use it, do not charge it.</h2>
          {data.notices.map((notice) => (
            <p key={notice}>{notice}</p>
          ))}
          <p>Bring it back by hand, not by post.</p>
        </Danger>
      )}
      {data.what.map((line) => (
        <p key={line}>{line}</p>
      ))}
      <Part title="Charging" lines={data.charging} />
      <Part title="Never" lines={data.never} />
      <Part title="Bring it back when" lines={data.bring_back} />
      <Part title="If it is hot, swells, smells or hisses" lines={data.when_hot} />
      {data.left.length > 0 && (
        <section>
          <h2>What its voltage says</h2>
          <table>
            <thead>
              <tr>
                <th scope="col">Left</th>
                <th scope="col">In use</th>
                <th scope="col">At rest</th>
              </tr>
            </thead>
            <tbody>
              {data.left.map((each) => (
                <tr key={each.left_pct}>
                  <th scope="row">{each.left_pct} %</th>
                  <td>{figure(each.loaded_v, 1)} V</td>
                  <td>{figure(each.resting_v, 1)} V</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      <Part title="Its story" lines={data.story} />
    </Sheet>
  );
}

function Part({ title, lines }: { title: string; lines: string[] }) {
  return (
    <section>
      <h2>{title}</h2>
      <ul>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </section>
  );
}

const Sheet = styled.main`
  display: grid;
  gap: var(--block);
  max-width: 40rem;
  margin: 0 auto;
  padding: var(--sheet);
  min-height: 100vh;
  align-content: start;
  background: ${({ theme }) => theme.color.paper};
  font-size: ${({ theme }) => theme.size.text};
  ul { padding-left: var(--room); list-style: disc; }
  th, td { padding: var(--hair) var(--room) var(--hair) 0; text-align: left; }
`;
const Danger = styled.div`
  padding: var(--block) var(--sheet);
  border: ${({ theme }) => theme.line.ink} solid ${({ theme }) => theme.color.danger};
  border-left-width: 14px;
  background: ${({ theme }) => theme.color.dangerPaper};
  h2 { color: ${({ theme }) => theme.color.danger}; }
`;
