import { useQuery, useQueryClient } from "@tanstack/react-query";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { useWrite } from "../../api/writing";
import { AskForm, useTyped } from "../../components/AskForm";
import { Field } from "../../components/Fields";

/** Sends one line to an instrument and shows what came back: the way to find out how it wants to be spoken to. */
export function TryOut({ tester }: { tester: Schemas["TesterOut"] }) {
  const typed = useTyped({ line: "*IDN?" });
  const client = useQueryClient();
  const path = { params: { path: { tester_id: tester.id } } };
  const tries = useQuery({
    queryKey: ["tries", tester.id],
    queryFn: () => answer(() => api.GET("/api/testers/{tester_id}/tries", path)),
    refetchInterval: 1_000,
  });
  const send = useWrite(
    (line: string, key) =>
      answer(() => api.POST("/api/testers/{tester_id}/tries", { ...path, body: { line }, headers: once(key) })),
    () => void client.invalidateQueries({ queryKey: ["tries", tester.id] }),
  );
  return (
    <Box aria-label="Try it out">
      <h2>Try it out</h2>
      <Line
        problem={send.error}
        send="Send"
        isSending={send.isPending}
        kind="plain"
        onSend={() => send.mutate(typed.values.line)}
      >
        <Field
          label="A line"
          {...typed.field("line")}
          maxLength={200}
          hint="With a question mark its answer is waited for"
        />
      </Line>
      <Said>
        {tries.data?.tries.map((each) => (
          <li key={each.id}>
            <code>{each.line}</code>
            <code>
              {each.done_at === null
                ? "…"
                : each.trouble === "silent"
                  ? "no answer"
                  : each.trouble === "nonsense"
                    ? `nonsense: ${each.answer}`
                    : (each.answer ?? "sent")}
            </code>
          </li>
        ))}
      </Said>
    </Box>
  );
}

const Box = styled.section`display: grid; gap: var(--apart); margin-top: var(--block); padding-top: var(--block); border-top: 3px solid ${({ theme }) => theme.color.ink};`;
const Line = styled(AskForm)`display: grid; grid-template-columns: 1fr auto; gap: var(--apart); align-items: center;`;
const Said = styled.ol`
  li { display: grid; grid-template-columns: 1fr 1fr; gap: var(--apart); padding: var(--hair) 0; border-top: 1px solid ${({ theme }) => theme.color.paperLine}; }
  code { font-family: ${({ theme }) => theme.font.figure}; font-size: ${({ theme }) => theme.size.note}; overflow-wrap: anywhere; }
`;
