import { useState } from "react";

import type { Schemas } from "../../api/client";
import { serverTime } from "../../api/serverTime";

type StepClock = Schemas["StepClockOut"];
type ClockData = Schemas["ClockOut"];

const read = (key: string): ClockData | null => {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? "null") as ClockData | null;
  } catch {
    return null;
  }
};

/** A clock of one session on this page alone; it comes back where it was when the page is opened again. */
export function useOwnClock(sessionId: number) {
  const key = `jarvok-clock-${sessionId}`;
  const [clock, setClock] = useState<ClockData | null>(() => read(key));
  const keep = (next: ClockData | null) => {
    if (next) sessionStorage.setItem(key, JSON.stringify(next));
    else sessionStorage.removeItem(key);
    setClock(next);
  };
  const start = (c: StepClock) =>
    keep({ ...c, id: 0, rack: null, started_ms: serverTime.now(), paused_ms: null, paused_s: 0, now_ms: serverTime.now() });
  const act = (what: "pause" | "go" | "stop") => {
    if (!clock || what === "stop") return keep(null);
    const now = serverTime.now();
    if (what === "pause") return keep({ ...clock, paused_ms: now });
    const paused_s = clock.paused_s + (clock.paused_ms === null ? 0 : (now - clock.paused_ms) / 1000);
    return keep({ ...clock, paused_ms: null, paused_s });
  };
  return { clock, start, act };
}
