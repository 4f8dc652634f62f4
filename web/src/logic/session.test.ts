import { describe, expect, it } from "vitest";

import shared from "../../../tests/cases/next_step.json";
import { movedOn, newerOf, nextSet, readHeard, ToldReps, withDone, withRep } from "./session";

describe("the cases of the server", () => {
  it.each(shared.cases)("$name", ({ steps, done, ended, next }) => {
    type Raw = [number, string, number];
    const key = (p: Raw) => p.join(" ");
    const isDone = new Set((done as Raw[]).map(key));
    const all = (steps as Raw[][]).flat();
    const lines = [...new Set(all.map((p) => p[0]))].map((id) => ({
      id,
      ended: (ended as number[]).includes(id),
      sets: all.filter((p) => p[0] === id).map((p) => ({ kind: p[1], number: p[2], done: isDone.has(key(p)) ? {} : null })),
    }));
    const told = (steps as Raw[][]).map((step) => ({
      is_one_bar: false,
      sets: step.map(([line_id, kind, number]) => ({ line_id, kind, number })),
    }));
    const found = nextSet(told, lines);
    expect(found && [found.line_id, found.kind, found.number]).toEqual(next);
  });
});

const session = () => ({
  current: null,
  steps: [1, 2].map((number) => ({ is_one_bar: false, sets: [{ line_id: 7, kind: "work", number }] })),
  lines: [
    {
      id: 7,
      ended: false,
      sets: [
        { kind: "work", number: 1, reps: 5, load_kg: 80, done: null, measured: [] as { id: number }[] },
        { kind: "work", number: 2, reps: 5, load_kg: 80, done: null, measured: [] as { id: number }[] },
      ],
    },
  ],
});
const rep = (id: number, set_number = 1) => ({ id, line_id: 7, kind: "work", set_number });

describe("a repetition", () => {
  it("joins its own set once, however often it is told", () => {
    const once = withRep(session(), rep(1));
    const twice = withRep(once, rep(1));
    expect(twice.lines[0]?.sets.map((s) => s.measured.length)).toEqual([1, 0]);
    expect(withRep(twice, rep(2)).lines[0]?.sets[0]?.measured).toHaveLength(2);
  });
  it("of another line or kind changes nothing", () => {
    expect(withRep(session(), { ...rep(1), line_id: 8 })).toEqual(session());
    expect(withRep(session(), { ...rep(1), kind: "ramp" })).toEqual(session());
  });
});

describe("repetitions told while something is read", () => {
  it("are put into the answer that was begun before them, and into no later one", () => {
    const told = new ToldReps<ReturnType<typeof toldRep>>();
    const toldRep = (event_id: number, session_id: number) => ({ ...rep(event_id - 10), event_id, session_id });
    told.add(toldRep(11, 5));
    told.add(toldRep(12, 5));
    const late = told.after(readHeard("5:11")).reduce(withRep, withRep(session(), rep(1)));
    expect(late.lines[0]?.sets[0]?.measured.map((m) => m.id)).toEqual([1, 2]);
    expect(told.after(readHeard("5:12"))).toEqual([]);
  });
  it("of two sessions are known apart: a lower number of the other one may come later", () => {
    const told = new ToldReps<{ event_id: number; session_id: number }>();
    told.add({ event_id: 21, session_id: 5 });
    told.add({ event_id: 20, session_id: 6 });
    expect(told.after(readHeard("5:21")).map((r) => r.event_id)).toEqual([20]);
    expect(told.after(readHeard("5:21,6:20"))).toEqual([]);
    expect(readHeard("")(5)).toBe(0);
  });
  it("one that was taken out since does not double those after it", () => {
    const without = withRep(withRep(session(), rep(1)), rep(3)); // 2 was taken out
    expect(withRep(without, rep(3)).lines[0]?.sets[0]?.measured.map((m) => m.id)).toEqual([1, 3]);
  });
});

describe("a logged set", () => {
  it("is done and the next one is up", () => {
    const after = withDone(session(), { line_id: 7, kind: "work", number: 1, reps: 5, load_kg: 80 });
    expect(after.lines[0]?.sets[0]?.done).toMatchObject({ reps: 5, load_kg: 80, rir: null, trouble: "" });
    expect(after.current).toEqual({ line_id: 7, kind: "work", number: 2 });
  });
  it("done already stays as it was stored", () => {
    const once = withDone(session(), { line_id: 7, kind: "work", number: 1, reps: 5 });
    expect(withDone(once, { line_id: 7, kind: "work", number: 1, reps: 9 }).lines[0]?.sets[0]?.done).toMatchObject({ reps: 5 });
  });
  it("of a complex brings its other lifts with it, on the same bar", () => {
    const one = (id: number) => ({ id, ended: false, sets: [{ kind: "work", number: 1, reps: id, load_kg: 60, done: null }] });
    const complex = {
      current: null,
      steps: [{ is_one_bar: true, sets: [1, 2].map((line_id) => ({ line_id, kind: "work", number: 1 })) }],
      lines: [one(1), one(2)],
    };
    const after = withDone(complex, { line_id: 1, kind: "work", number: 1, reps: 1, load_kg: 55, rir: 2 });
    expect(after.lines.map((l) => l.sets[0]?.done)).toMatchObject([
      { reps: 1, load_kg: 55, rir: 2 },
      { reps: 2, load_kg: 55, rir: null },
    ]);
    expect(after.current).toBeNull();
    const parts = withDone(complex, { line_id: 1, kind: "work", number: 1, reps: 1, load_kg: 55, parts: [1, 0] });
    expect(parts.lines.map((l) => (l.sets[0]?.done as { reps: number } | null)?.reps)).toEqual([1, 0]);
  });
});

describe("a pain while the server is away", () => {
  const row = (id: number) => ({
    id,
    ended: false,
    sets: [1, 2].map((number) => ({ kind: "work", number, reps: 5, load_kg: 60, done: null })),
  });
  const three = () => ({
    current: null,
    steps: [7, 8, 9].flatMap((id) => [1, 2].map((number) => ({ is_one_bar: false, sets: [{ line_id: id, kind: "work", number }] }))),
    lines: [row(7), row(8), row(9)],
    pain_areas: [{ key: "knee", line_ids: [8] }],
  });
  const hurt = { line_id: 7, kind: "work", number: 1, reps: 2, trouble: "pain", pain_area: "knee" };
  it("ends the line it was felt in and those the server named, and goes on with the rest", () => {
    const after = withDone(three(), hurt);
    expect(after.lines.map((l) => l.ended)).toEqual([true, true, false]);
    expect(after.current).toEqual({ line_id: 9, kind: "work", number: 1 });
  });
  it("ends nothing where it is carried on, nor for broken technique", () => {
    const carried = withDone(three(), { ...hurt, carries_on: true });
    expect(carried.lines.some((l) => l.ended)).toBe(false);
    expect(carried.current).toEqual({ line_id: 7, kind: "work", number: 2 });
    expect(withDone(three(), { ...hurt, trouble: "form_broke" }).lines.some((l) => l.ended)).toBe(false);
  });
  it("ends the one line alone where the place loads no other", () => {
    const after = withDone(three(), { ...hurt, pain_area: "elsewhere" });
    expect(after.lines.map((l) => l.ended)).toEqual([true, false, false]);
  });
});

const FIVE_PM_MS = Date.parse("2026-11-24T17:00:00Z");

describe("what else waits for the server", () => {
  it("passes a set over that was skipped, and goes on with the next", () => {
    const after = movedOn(session(), "lines/7/skip", { kind: "work", number: 1 }, FIVE_PM_MS);
    expect(after.lines[0]?.sets[0]).toMatchObject({ over: true, skipped: true });
    expect(after.current).toEqual({ line_id: 7, kind: "work", number: 2 });
    expect(after).not.toHaveProperty("last_done_at");
    expect(movedOn(after, "sets", { line_id: 7, kind: "work", number: 2, reps: 5 }, FIVE_PM_MS).current).toBeNull();
  });
  it("lets them rest from when a set was typed", () => {
    const after = movedOn(session(), "sets", { line_id: 7, kind: "work", number: 1, reps: 5 }, FIVE_PM_MS);
    expect(after).toMatchObject({ last_done_at: "2026-11-24T17:00:00.000Z" });
  });
  it("ends a lift that was stopped", () => {
    const after = movedOn(session(), "lines/7/stop", { reason: "time" }, FIVE_PM_MS);
    expect(after.lines[0]?.ended).toBe(true);
    expect(after.current).toBeNull();
  });
  it.each(["lines/8/skip", "lines/7/swap", "undo", "sets/correct"])("leaves the rest as it stands: %s", (path) => {
    expect(movedOn(session(), path, { kind: "work", number: 1 }, FIVE_PM_MS).lines).toEqual(session().lines);
  });
});

describe("two answers about one session", () => {
  const answer = (last_event_id: number, what: string) => ({ last_event_id, what });

  it("an answer asked for before what is shown changes nothing", () => {
    expect(newerOf(answer(8, "the set is stored"), answer(7, "not yet"))).toEqual(answer(8, "the set is stored"));
  });
  it("one that knows as much, or more, is taken", () => {
    expect(newerOf(answer(8, "before"), answer(8, "the max was changed")).what).toBe("the max was changed");
    expect(newerOf(answer(8, "before"), answer(9, "one set more")).what).toBe("one set more");
    expect(newerOf(undefined, answer(0, "the first")).what).toBe("the first");
  });
});
