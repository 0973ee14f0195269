import { useEffect, useRef, useState } from "react";

const BEGINS = /^[CDPTXMK]$/i;
const GOES_ON = /^[0-9]$/;
const FORGET_MS = 3_000;

/**
 * A scanner in the hand types like a keyboard: a letter that names no finding, digits, Enter. From that letter on the
 * keys belong to the scan until Enter, or until nothing came for a while.
 */
export function useScanner(onScan: (text: string) => void): boolean {
  const [isScanning, setScanning] = useState(false);
  const text = useRef("");
  const handler = useRef(onScan);
  handler.current = onScan;
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = () => {
      text.current = "";
      setScanning(false);
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTextField(event.target)) return;
      const isOn = text.current !== "";
      if (isOn && event.key === "Enter") {
        const scanned = text.current;
        stop();
        handler.current(scanned);
      } else if (isOn ? GOES_ON.test(event.key) : BEGINS.test(event.key)) {
        text.current += event.key.toUpperCase();
        setScanning(true);
        clearTimeout(timer);
        timer = setTimeout(stop, FORGET_MS);
      } else {
        if (isOn && event.key !== "Shift") stop();
        return;
      }
      // Before the form: these keys are neither a voltage nor an Enter of its own.
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => {
      window.removeEventListener("keydown", onKey, { capture: true });
      clearTimeout(timer);
    };
  }, []);
  return isScanning;
}

/** Fields for words keep their letters; the field for the voltage has none. */
const isTextField = (target: EventTarget | null) =>
  (target instanceof HTMLInputElement && target.type === "text" && target.inputMode !== "decimal") ||
  target instanceof HTMLTextAreaElement;
