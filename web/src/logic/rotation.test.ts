import { describe, expect, it } from "vitest";

import { advanced, moves, stillStanding, type Ahead, type Write } from "./rotation";

const set = (number: number) => ({ kind: "work", number, done: null as unknown, reps: 5, load_kg: 60, load_words: "60 kg" });
const session = (id: number) => ({
  id,
  steps: [1, 2].map((number) => ({ sets: [{ line_id: id * 10, kind: "work", number }], is_one_bar: false })),
  lines: [{ id: id * 10, ended: false, sets: [set(1), set(2)], advice: { sentence: "Same again" } as unknown }],
  current: { line_id: id * 10, kind: "work", number: 1 } as { line_id: number; kind: string; number: number } | null,
  last_done_at: null as string | null,
});
const turn = (id: number, name: string) => ({
  athlete_id: id,
  session_id: id,
  name,
  is_up: false,
  is_over: false,
  last_done_at: "2026-11-24T16:50:00+00:00" as string | null,
});
const ahead: Ahead<ReturnType<typeof session>, ReturnType<typeof turn>> = {
  lanes: [
    {
      rack: 1,
      turns: [1, 2].flatMap((number) =>
        [1, 2].map((id) => ({ turn: turn(id, id === 1 ? "Ada" : "Bo"), line_id: id * 10, kind: "work", number })),
      ),
    },
  ],
  floors: [session(1), session(2)],
};
const lanes = [{ rack: 1, up: session(1) as ReturnType<typeof session> | null, turns: [turn(1, "Ada"), turn(2, "Bo")] }];
const FIVE_PM_MS = Date.parse("2026-11-24T17:00:00Z");
const done = (id: number, number: number, at_ms = FIVE_PM_MS): Write => ({
  url: `/api/floor/sessions/${id}/sets`,
  body: { line_id: id * 10, kind: "work", number, reps: 5 },
  at_ms,
});
const undo = (id: number): Write => ({ url: `/api/floor/sessions/${id}/undo`, body: {}, at_ms: FIVE_PM_MS });
const stop = (id: number): Write => ({ url: `/api/floor/sessions/${id}/lines/${id * 10}/stop`, body: {}, at_ms: FIVE_PM_MS });
const shown = (writes: Write[]) => {
  const lane = advanced(lanes, ahead, writes, writes)[0];
  return {
    up: lane?.up?.id ?? null,
    set: lane?.up?.current?.number ?? null,
    order: lane?.turns.map((t) => (t.is_over ? `${t.name} over` : t.is_up ? `${t.name} up` : t.name)),
  };
};

describe("a rack without the network", () => {
  it("stands as the server said where nothing waits", () => expect(advanced(lanes, ahead, [], [])).toEqual(lanes));
  it("brings the next of the rotation up with each set", () => {
    expect(shown([done(1, 1)])).toEqual({ up: 2, set: 1, order: ["Bo up", "Ada"] });
    expect(shown([done(1, 1), done(2, 1)])).toEqual({ up: 1, set: 2, order: ["Ada up", "Bo"] });
    expect(shown([done(1, 1), done(2, 1), done(1, 2)])).toEqual({ up: 2, set: 2, order: ["Bo up", "Ada over"] });
  });
  it("is empty when everybody has done everything", () =>
    expect(shown([done(1, 1), done(2, 1), done(1, 2), done(2, 2)])).toEqual({ up: null, set: null, order: ["Ada over", "Bo over"] }));
  it("passes over whoever has stopped", () =>
    expect(shown([done(1, 1), stop(2)])).toEqual({ up: 1, set: 2, order: ["Ada up", "Bo over"] }));
  it("takes a set back that waits, of the same person only", () => {
    expect(shown([done(1, 1), undo(1)])).toEqual({ up: 1, set: 1, order: ["Ada up", "Bo"] });
    expect(shown([done(1, 1), done(2, 1), undo(1)])).toMatchObject({ up: 1, set: 1 });
    expect(shown([done(1, 1), undo(2)])).toMatchObject({ up: 2, set: 1 });
  });
  it("lets each rest from what they have done last, whether the server has heard of it or not", () => {
    const rests = (writes: Write[]) =>
      Object.fromEntries(advanced(lanes, ahead, writes, writes)[0]?.turns.map((t) => [t.name, t.last_done_at]) ?? []);
    const [first, second] = ["2026-11-24T17:00:00.000Z", "2026-11-24T17:02:00.000Z"];
    expect(rests([done(1, 1)])).toEqual({ Ada: first, Bo: "2026-11-24T16:50:00+00:00" });
    expect(rests([done(1, 1), done(2, 1, FIVE_PM_MS + 120_000)])).toEqual({ Ada: first, Bo: second });
    expect(rests([done(1, 1), done(1, 2, FIVE_PM_MS + 120_000), undo(1)])).toMatchObject({ Ada: first });
  });
  it("says nothing of a line that was logged since", () => {
    const up = advanced(lanes, ahead, [done(1, 1), done(2, 1)], [done(2, 1)])[0]?.up;
    expect(up?.lines[0]?.advice).toBe(null);
    expect(advanced(lanes, ahead, [], [])[0]?.up?.lines[0]?.advice).not.toBe(null);
  });
  it("leaves a rack alone that it knows nothing of", () => {
    const other = [{ rack: 2, up: null, turns: [turn(3, "Cy")] }];
    expect(advanced(other, ahead, [done(1, 1)], [done(1, 1)])).toEqual(other);
    expect(advanced(other, ahead, [done(3, 1)], [done(3, 1)])[0]?.turns).toMatchObject([{ name: "Cy", is_over: true }]);
  });
  it("leaves a rack as the server said it once the lanes hold what was done there", () =>
    expect(advanced(lanes, ahead, [done(1, 1)], [])).toEqual(lanes));
  it("stays moved on until the lanes were read anew, a stop taken back too", () => {
    const stopped = [{ rack: 1, up: session(2), turns: [turn(2, "Bo"), turn(1, "Ada")] }];
    const back = advanced(stopped, ahead, [stop(1), undo(1)], [undo(1)])[0];
    expect([back?.up?.id, back?.turns.map((t) => t.name)]).toEqual([1, ["Ada", "Bo"]]);
  });
});

describe("writes that move a rotation", () => {
  it("are sets, sets passed over, lifts stopped, and undo", () => {
    expect([done(1, 1), undo(1), stop(1)].every(moves)).toBe(true);
    expect(moves({ url: "/api/floor/sessions/1/lines/3/skip", body: {}, at_ms: 0 })).toBe(true);
    expect(moves({ url: "/api/floor/sessions/1/advice/3", body: {}, at_ms: 0 })).toBe(false);
    expect(moves({ url: "/api/room/1/call", body: {}, at_ms: 0 })).toBe(false);
  });
  it("stand but for those taken back, the newest first", () => {
    expect(stillStanding([done(1, 1), done(1, 2), undo(1), undo(1)])).toEqual([]);
    expect(stillStanding([undo(1), done(1, 1)])).toEqual([done(1, 1)]);
  });
});
