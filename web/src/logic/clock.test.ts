import { describe, expect, it } from "vitest";

import shared from "../../../tests/cases/clock_parts.json";
import { faceOf, soundsBetween, type ClockState } from "./clock";

const START = 1_000_000;
const clock = (parts: ClockState["parts"], more: Partial<ClockState> = {}): ClockState => ({
  started_ms: START,
  paused_ms: null,
  paused_s: 0,
  rounds: 3,
  beat_s: 0,
  beats: 0,
  parts,
  ...more,
});

describe.each(shared.cases)("the cases of the server: $kind", ({ parts, moments }) => {
  it.each(moments)("after $elapsed_s s", ({ elapsed_s, call, left_s }) => {
    const face = faceOf(clock(parts), START + elapsed_s * 1000);
    expect(face.over).toBe(call === null);
    expect(face.call).toBe(call ?? "Done");
    expect(face.left_s).toBeCloseTo(left_s, 6);
  });
});

const PARTS = [
  { call: "Work", seconds: 20, is_work: true, round: 1 },
  { call: "Rest", seconds: 75, is_work: false, round: 1 },
];

describe("a face", () => {
  it("shows whole seconds, rounded up, and what is next", () => {
    const face = faceOf(clock(PARTS), START + 12_400);
    expect([face.left, face.next, face.round, face.share]).toEqual(["0:08", "then rest 1:15", "1 of 3", 0.62]);
    expect(faceOf(clock(PARTS), START).left).toBe("0:20");
  });
  it("waits at its start while the server's clock is behind", () => expect(faceOf(clock(PARTS), START - 500).left).toBe("0:20"));
  it("stands still while it is paused, and leaves out what it stood before", () => {
    const paused = clock(PARTS, { paused_ms: START + 30_000, paused_s: 5 });
    expect(faceOf(paused, START + 900_000)).toMatchObject({ running: false, elapsed_s: 25, call: "Rest" });
  });
  it("names no round where there is one", () => expect(faceOf(clock(PARTS, { rounds: 1 }), START).round).toBe(""));
});

describe("what sounds", () => {
  const at = (from: number, to: number, state = clock(PARTS)) =>
    soundsBetween(state, START + from, START + to).map((s) => [s.at - START, s.high]);
  it("is the last three seconds and the end of a part, the end higher", () => {
    expect(at(0, 21_000)).toEqual([
      [17_000, false],
      [18_000, false],
      [19_000, false],
      [20_000, true],
    ]);
  });
  it("comes once however the time is cut: the first moment belongs to it, the last does not", () => {
    expect(at(17_000, 18_000)).toEqual([[17_000, false]]);
    expect(at(18_000, 18_000)).toEqual([]);
  });
  it("is only the end where a part is short", () => {
    const of = (seconds: number) => at(0, 10_000, clock([{ call: "Up", seconds, is_work: true, round: 1 }])).length;
    expect(of(5)).toBe(1);
    expect(of(5.5)).toBe(4);
  });
  it("is a beat in work, every second one higher, and a pause moves all of it", () => {
    const beat = clock([{ call: "To the beat", seconds: 3, is_work: true, round: 1 }], { beat_s: 1, beats: 2, paused_s: 2 });
    expect(at(0, 5_000, beat)).toEqual([
      [2000, true],
      [3000, false],
      [4000, true],
    ]);
  });
});
