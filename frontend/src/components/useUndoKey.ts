import { useEffect } from "react";

/** Ctrl+Z undoes the last entry, unless something is being typed, which it belongs to. */
export function useUndoKey(undo: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isTyping =
        event.target instanceof HTMLInputElement && event.target.type !== "checkbox" && event.target.value !== "";
      if (event.key.toLowerCase() === "z" && (event.ctrlKey || event.metaKey) && !isTyping) {
        event.preventDefault();
        undo();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo]);
}
