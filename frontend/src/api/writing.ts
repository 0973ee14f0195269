import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { newKey, Problem } from "./client";
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

/**
 * Somebody else was faster: what they made of it is fetched, so that whoever is told of it sees it, and means what is sent again.
 * `onTold` lets go of what was seen before.
 */
export function useToldOfOthers(error: unknown, onTold?: () => void): void {
  const told = useRef(onTold);
  useEffect(() => {
    told.current = onTold;
  });
  useEffect(() => {
    if (!(error instanceof Problem) || error.code !== "changed-meanwhile") return;
    told.current?.();
    refreshAll();
  }, [error]);
}
