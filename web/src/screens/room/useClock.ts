import { useEffect, useRef } from "react";

import type { Schemas } from "../../api/client";
import { serverTime } from "../../api/serverTime";
import { faceOf, soundsBetween, type Face } from "../../logic/clock";
import { useNow } from "../../parts/useNow";

type ClockData = Schemas["ClockOut"];

/** What a clock shows now, redrawn ten times a second; the face is worked out anew from the start each time, so nothing adds up. */
export function useClock(clock: ClockData, sound: boolean): Face {
  const now = useNow(100);
  const audio = useRef<AudioContext | null>(null);
  const sounded = useRef(0);
  useEffect(() => {
    serverTime.learn(clock.now_ms);
  }, [clock.now_ms]);
  useEffect(() => {
    if (!sound) {
      void audio.current?.close();
      audio.current = null;
      return;
    }
    audio.current ??= new AudioContext();
    const player = audio.current;
    const timer = setInterval(() => {
      if (clock.paused_ms !== null) return;
      const from = Math.max(sounded.current, serverTime.now());
      const to = serverTime.now() + 400;
      for (const beat of soundsBetween(clock, from, to)) beep(player, (beat.at - serverTime.now()) / 1000, beat.high);
      sounded.current = to;
    }, 150);
    return () => clearInterval(timer);
  }, [sound, clock]);
  return faceOf(clock, now);
}

function beep(player: AudioContext, in_s: number, high: boolean): void {
  const tone = player.createOscillator();
  const gain = player.createGain();
  const at = player.currentTime + Math.max(0, in_s);
  tone.frequency.value = high ? 1100 : 660;
  gain.gain.setValueAtTime(0.35, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + 0.12);
  tone.connect(gain).connect(player.destination);
  tone.start(at);
  tone.stop(at + 0.13);
}
