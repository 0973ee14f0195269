import { useEffect } from "react";
import { useNavigate } from "react-router";

const ACTS_ITSELF = "a, button, input, select, textarea, [role], [contenteditable]";

/** Enter goes to `to`, unless it belongs to what has the focus. Null: nothing to start. */
export function useEnterKey(to: string | null): void {
  const navigate = useNavigate();
  useEffect(() => {
    if (to === null) return;
    const onKey = (event: KeyboardEvent) => {
      const isPlain = event.key === "Enter" && !event.ctrlKey && !event.metaKey && !event.altKey && !event.repeat;
      if (!isPlain || (event.target instanceof Element && event.target.closest(ACTS_ITSELF))) return;
      event.preventDefault();
      navigate(to);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [to, navigate]);
}
