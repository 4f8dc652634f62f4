import { useEffect, useRef, useState } from "react";

import type { ClockData } from "./useRoom";

// The server's clock against this page's steady one: of several short questions the one with the quickest answer is the truest,
// and the truth lies in the middle of its way. Until one has come, what other answers say stands in.
let ahead: number | null = null;
let quickest = Number.POSITIVE_INFINITY;
let asked = Number.NEGATIVE_INFINITY;
const ASK_AGAIN_MS = 5 * 60_000;

export function learnServerTime(now_ms: number): void {
  if (quickest === Number.POSITIVE_INFINITY) ahead = Math.max(ahead ?? Number.NEGATIVE_INFINITY, now_ms - performance.now());
}

async function askServerTime(): Promise<void> {
  if (performance.now() - asked < ASK_AGAIN_MS) return;
  asked = performance.now();
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < 5; i++) {
    const sent = performance.now();
    try {
      const { now_ms } = (await (await fetch("/api/now", { cache: "no-store" })).json()) as { now_ms: number };
      const took = performance.now() - sent;
      if (took < best) {
        best = took;
        quickest = took;
        ahead = now_ms - (sent + took / 2);
      }
    } catch {
      return; // away: what is known stands
    }
  }
}

export function serverNow(): number {
  return (ahead ?? performance.timeOrigin) + performance.now();
}

export interface Face {
  call: string;
  left: string;
  left_s: number;
  round: string;
  next: string;
  share: number;
  work: boolean;
  running: boolean;
  over: boolean;
  elapsed_s: number;
}

const mmss = (seconds: number) => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;

export function faceOf(clock: ClockData, now: number): Face {
  const elapsed = ((clock.paused_ms ?? now) - clock.started_ms) / 1000 - clock.paused_s;
  let at = Math.max(0, elapsed);
  const running = clock.paused_ms === null;
  for (const [i, part] of clock.parts.entries()) {
    if (at < part.seconds) {
      const left = part.seconds - at;
      const next = clock.parts[i + 1];
      return {
        call: part.call, left: mmss(Math.ceil(left - 1e-3)), left_s: left, share: at / part.seconds, work: part.is_work, running, over: false, elapsed_s: elapsed,
        round: part.round > 0 && clock.rounds > 1 ? `${part.round} of ${clock.rounds}` : "",
        next: next ? `then ${next.call.toLowerCase()} ${mmss(next.seconds)}` : "then done",
      }; // prettier-ignore
    }
    at -= part.seconds;
  }
  return { call: "Done", left: "0:00", left_s: 0, share: 1, work: false, running, over: true, elapsed_s: elapsed, round: "", next: "" };
}

/** What a clock shows now, redrawn ten times a second; the face is worked out anew from the start each time, so nothing adds up. */
export function useClock(clock: ClockData, sound: boolean): Face {
  const [now, setNow] = useState(() => serverNow());
  const audio = useRef<AudioContext | null>(null);
  const sounded = useRef(0);
  useEffect(() => {
    learnServerTime(clock.now_ms);
    void askServerTime();
  }, [clock.now_ms]);
  useEffect(() => {
    const timer = setInterval(() => setNow(serverNow()), 100);
    return () => clearInterval(timer);
  }, []);
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
      const from = Math.max(sounded.current, serverNow());
      const to = serverNow() + 400;
      for (const beat of soundsBetween(clock, from, to)) beep(player, (beat.at - serverNow()) / 1000, beat.high);
      sounded.current = to;
    }, 150);
    return () => clearInterval(timer);
  }, [sound, clock]);
  return faceOf(clock, now);
}

/** Beats of a metronome, else the last three seconds of each part and its end. */
function soundsBetween(clock: ClockData, from: number, to: number): { at: number; high: boolean }[] {
  const found: { at: number; high: boolean }[] = [];
  let start = clock.started_ms + clock.paused_s * 1000;
  for (const part of clock.parts) {
    const end = start + part.seconds * 1000;
    if (clock.beat_s > 0 && part.is_work) {
      const step = clock.beat_s * 1000;
      for (let i = Math.max(0, Math.ceil((from - start) / step)); start + i * step < Math.min(to, end); i++) {
        found.push({ at: start + i * step, high: clock.beats > 0 && i % clock.beats === 0 });
      }
    }
    for (const before of [3, 2, 1, 0]) {
      const at = end - before * 1000;
      if (at >= from && at < to && (before === 0 || part.seconds > 5)) found.push({ at, high: before === 0 });
    }
    start = end;
  }
  return found;
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
