import { describe, expect, it } from "vitest";

import shared from "../../../tests/cases/next_set.json";
import { nextSet, ToldReps, withDone, withRep } from "./session";

describe("the cases of the server", () => {
  it.each(shared.cases)("$name", ({ lines, next }) => {
    const named = lines.map((line, id) => ({
      id,
      ended: line.ended,
      sets: line.sets.map((s, i) => ({ kind: s.kind, number: i, done: s.done ? {} : null })),
    }));
    const found = nextSet(named);
    expect(found && [found.line_id, found.number]).toEqual(next);
  });
});

const session = () => ({
  current: null,
  lines: [
    {
      id: 7,
      ended: false,
      sets: [
        { kind: "work", number: 1, done: null, measured: [] as { id: number }[] },
        { kind: "work", number: 2, done: null, measured: [] as { id: number }[] },
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
    const told = new ToldReps<ReturnType<typeof rep>>();
    told.add(11, rep(1));
    told.add(12, rep(2));
    const late = told.after(11).reduce(withRep, withRep(session(), rep(1)));
    expect(late.lines[0]?.sets[0]?.measured.map((m) => m.id)).toEqual([1, 2]);
    expect(told.after(12)).toEqual([]);
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
});
