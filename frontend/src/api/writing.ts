import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";
import { newKey } from "./client";
import { refreshAll } from "./queries";

/**
 * A write that is done once: while the same thing is sent again after a failure it carries the same key,
 * so an answer that got lost on the way does not double the entry.
 */
export function useWrite<In, Out>(
  send: (input: In, key: string) => Promise<Out>,
  onDone?: (answer: Out, input: In) => void,
) {
  const lastTry = useRef<{ body: string; key: string } | null>(null);
  return useMutation({
    mutationFn: (input: In) => {
      const body = JSON.stringify(input);
      if (lastTry.current?.body !== body) lastTry.current = { body, key: newKey() };
      return send(input, lastTry.current.key);
    },
    onSuccess: (answer, input) => {
      lastTry.current = null;
      onDone?.(answer, input);
      // What was answered is drawn first; the lists behind it follow.
      setTimeout(refreshAll, 0);
    },
  });
}
