import { useEffect } from "react";
import { queryClient } from "../api/queries";
import { useWaiting } from "../api/waiting";
import { useShownFrom } from "../offline/seen";
import { useNewVersion } from "../offline/version";
import { dayAndTime } from "../words";
import { Button } from "./Button";
import { Strip } from "./Strip";

const LOOK_AGAIN_MS = 15_000;

/** Says that what is shown is from before, as nobody answers, and offers a new version where there is one. */
export function Connection() {
  const from = useShownFrom();
  const take = useNewVersion();
  const isSaidBelow = useWaiting().entries.length > 0;
  useEffect(() => {
    if (from === null) return;
    const lookAgain = () => void queryClient.invalidateQueries();
    const timer = setInterval(lookAgain, LOOK_AGAIN_MS);
    window.addEventListener("online", lookAgain);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", lookAgain);
    };
  }, [from]);
  if (from === null && take === null) return null;
  return (
    <Strip aria-live="polite" aria-label="Connection">
      {from !== null && (
        <span>
          <strong>No connection.</strong> What you see is from {dayAndTime(new Date(from).toISOString())}
          {isSaidBelow ? "." : "; what you type is kept in this browser and goes when the Wi-Fi is back."}
        </span>
      )}
      {take !== null && (
        <span>
          A new version of Zembric is here. Take it when your hands are free.{" "}
          <Button onPress={take}>Take it now</Button>
        </span>
      )}
    </Strip>
  );
}
