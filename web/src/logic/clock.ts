/** What a clock shows, from the moments that the server keeps; times in milliseconds of the server's clock, parts in seconds. */
export interface ClockState {
  started_ms: number;
  paused_ms: number | null;
  paused_s: number;
  rounds: number;
  beat_s: number;
  beats: number;
  parts: { call: string; seconds: number; is_work: boolean; round: number }[];
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

const ALMOST_S = 1e-3; // a part that has just begun shows its whole time
const LAST_CALLS = [3, 2, 1, 0]; // the seconds before the end of a part that sound
const SHORT_PART_S = 5; // a part this short sounds at its end only

const mmss = (seconds: number) => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;

export function faceOf(clock: ClockState, now_ms: number): Face {
  const elapsed_s = ((clock.paused_ms ?? now_ms) - clock.started_ms) / 1000 - clock.paused_s;
  const running = clock.paused_ms === null;
  let at = Math.max(0, elapsed_s);
  for (const [i, part] of clock.parts.entries()) {
    if (at < part.seconds) {
      const left_s = part.seconds - at;
      const next = clock.parts[i + 1];
      return {
        call: part.call,
        left: mmss(Math.ceil(left_s - ALMOST_S)),
        left_s,
        share: at / part.seconds,
        work: part.is_work,
        running,
        over: false,
        elapsed_s,
        round: part.round > 0 && clock.rounds > 1 ? `${part.round} of ${clock.rounds}` : "",
        next: next ? `then ${next.call.toLowerCase()} ${mmss(next.seconds)}` : "then done",
      };
    }
    at -= part.seconds;
  }
  return { call: "Done", left: "0:00", left_s: 0, share: 1, work: false, running, over: true, elapsed_s, round: "", next: "" };
}

/** What sounds from one moment (inclusive) to another: beats of a metronome, the last three seconds of each part, its end. */
export function soundsBetween(clock: ClockState, from_ms: number, to_ms: number): { at: number; high: boolean }[] {
  const found: { at: number; high: boolean }[] = [];
  let start = clock.started_ms + clock.paused_s * 1000;
  for (const part of clock.parts) {
    const end = start + part.seconds * 1000;
    if (clock.beat_s > 0 && part.is_work) {
      const step = clock.beat_s * 1000;
      for (let i = Math.max(0, Math.ceil((from_ms - start) / step)); start + i * step < Math.min(to_ms, end); i++) {
        found.push({ at: start + i * step, high: clock.beats > 0 && i % clock.beats === 0 });
      }
    }
    for (const before of LAST_CALLS) {
      const at = end - before * 1000;
      if (at >= from_ms && at < to_ms && (before === 0 || part.seconds > SHORT_PART_S)) found.push({ at, high: before === 0 });
    }
    start = end;
  }
  return found;
}
