import { useEffect, useState } from "react";
import { Workbox } from "workbox-window";

/** By then what was typed first is on its way: what is fetched for later goes behind. */
const SETTLED_MS = 5_000;
const LOOK_EVERY_MS = 30 * 60_000;

/** Lets pages open without the network, where the browser lets us. What takes over when somebody wants the new version, if there is one. */
export function useNewVersion(): (() => void) | null {
  const [take, setTake] = useState<(() => void) | null>(null);
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return;
    const worker = new Workbox("/sw.js");
    worker.addEventListener("waiting", () =>
      setTake(() => () => {
        worker.addEventListener("controlling", () => window.location.reload());
        worker.messageSkipWaiting();
      }),
    );
    const begin = setTimeout(() => void worker.register().catch(() => undefined), SETTLED_MS);
    const look = setInterval(() => void worker.update().catch(() => undefined), LOOK_EVERY_MS);
    return () => {
      clearTimeout(begin);
      clearInterval(look);
    };
  }, []);
  return take;
}
