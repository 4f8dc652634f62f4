import { useEffect, useRef } from "react";

import type { Schemas } from "../../api/client";
import { serverTime } from "../../api/serverTime";
import { faceOf, soundsBetween, type Face } from "../../logic/clock";
import { beep } from "../../parts/sound";
import { useNow } from "../../parts/useNow";

type ClockData = Schemas["ClockOut"];

const AHEAD_MS = 400; // what sounds within it is handed over, so that a busy page is not late
const LOOK_MS = 150;

/** What a clock shows now, redrawn ten times a second; the face is worked out anew from the start each time, so nothing adds up. */
export function useClock(clock: ClockData, sound: boolean): Face {
  const now = useNow(100);
  const sounded = useRef(0);
  useEffect(() => {
    serverTime.learn(clock.now_ms);
  }, [clock.now_ms]);
  useEffect(() => {
    if (!sound) return;
    const timer = setInterval(() => {
      if (clock.paused_ms !== null) return;
      const from = Math.max(sounded.current, serverTime.now());
      const to = serverTime.now() + AHEAD_MS;
      for (const beat of soundsBetween(clock, from, to)) beep((beat.at - serverTime.now()) / 1000, beat.high);
      sounded.current = to;
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [sound, clock]);
  return faceOf(clock, now);
}
