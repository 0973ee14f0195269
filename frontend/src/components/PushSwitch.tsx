import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, once } from "../api/client";
import { useWrite } from "../api/writing";
import { Button } from "./Button";
import { ProblemNotice } from "./Notice";

/** Lets alarms reach this device while it is locked; nothing where the house did not set push up or the browser has none. */
export function PushSwitch() {
  const push = useQuery({ queryKey: ["push"], queryFn: () => answer(() => api.GET("/api/push")), staleTime: 60_000 });
  const [state, setState] = useState<"off" | "on" | "denied">("off");
  const key = push.data?.key;
  const save = useWrite(
    (body: { endpoint: string; p256dh: string; auth: string }, sent) =>
      answer(() => api.POST("/api/push", { body, headers: once(sent) })),
    () => setState("on"),
  );
  if (!key || !("serviceWorker" in navigator) || !("PushManager" in window)) return null;
  const allow = async () => {
    if ((await Notification.requestPermission()) !== "granted") {
      setState("denied");
      return;
    }
    const worker = await navigator.serviceWorker.register("/sw.js");
    const asked = await worker.pushManager.subscribe({ userVisibleOnly: true, applicationServerKey: key });
    const { endpoint, keys } = asked.toJSON();
    save.mutate({ endpoint: endpoint ?? "", p256dh: keys?.p256dh ?? "", auth: keys?.auth ?? "" });
  };
  return (
    <div>
      {state === "on" ? (
        "Alarms reach this device also while it is locked."
      ) : (
        <Button onPress={() => void allow().catch(() => setState("denied"))}>Alarms while this device is locked</Button>
      )}
      {state === "denied" && <p>The browser does not let it. Allow notifications of this page in its settings.</p>}
      <ProblemNotice problem={save.error} />
    </div>
  );
}
