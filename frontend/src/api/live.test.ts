import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { lookerAt } from "./live";

test("where changes come faster than a slow server answers each answer is shown, and asked for again once", async () => {
  const client = new QueryClient();
  const letAnswer: (() => void)[] = [];
  const home = {
    queryKey: ["home"],
    queryFn: () => new Promise<number>((resolve) => letAnswer.push(() => resolve(letAnswer.length))),
  };
  const leave = new QueryObserver(client, home).subscribe(() => {});
  const look = lookerAt(client);
  for (const asked of [1, 2, 3]) {
    look(new Set(["home", "table"]));
    look(new Set(["home"]));
    expect(letAnswer.length).toBe(asked);
    letAnswer[asked - 1]?.();
    await new Promise((resolve) => setTimeout(resolve));
    expect(client.getQueryData(["home"])).toBe(asked);
  }
  leave();
});
