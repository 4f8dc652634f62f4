import { useSyncExternalStore } from "react";

/** What was copied last: a session or a week of somebody, kept so that it can be put down on another screen. */
export interface Clip {
  kind: "session" | "week";
  athlete: number;
  name: string;
  day: string;
  key: string;
  words: string;
}

const KEY = "jarvok.clip";
const listeners = new Set<() => void>();

export function copyClip(clip: Clip | null): void {
  if (clip) sessionStorage.setItem(KEY, JSON.stringify(clip));
  else sessionStorage.removeItem(KEY);
  for (const tell of listeners) tell();
}

export function useClip(): Clip | null {
  const raw = useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => sessionStorage.getItem(KEY),
  );
  return raw ? (JSON.parse(raw) as Clip) : null;
}
