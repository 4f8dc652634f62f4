import { useEffect, useRef } from "react";

/** Keys of a screen, each with what it does. They rest while something is typed and while another key is held. */
export function useHotkeys(keys: Readonly<Record<string, () => void>>, isOn = true) {
  const now = useRef(keys);
  useEffect(() => {
    now.current = keys;
  });
  useEffect(() => {
    if (!isOn) return;
    const onKey = (e: KeyboardEvent) => {
      const isTyping = e.target instanceof HTMLElement && /INPUT|SELECT|TEXTAREA/.test(e.target.tagName);
      const act = now.current[e.key];
      if (isTyping || e.ctrlKey || e.metaKey || e.altKey || !act) return;
      e.preventDefault();
      act();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [isOn]);
}
