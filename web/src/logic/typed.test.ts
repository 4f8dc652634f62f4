import { describe, expect, it } from "vitest";

import { TypedList } from "./typed";

function storage(most = Infinity) {
  const kept = new Map<string, string>();
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > most) throw new Error("full");
      kept.set(key, value);
    },
    removeItem: (key: string) => void kept.delete(key),
    kept,
  };
}

describe("what was typed and is on its way", () => {
  it("is there for the page that is loaded after this one, in its order, until it has arrived", () => {
    const browser = storage();
    const before = new TypedList<string>("calendar", browser);
    for (const key of ["a", "b", "c"]) before.add({ key, entry: key.toUpperCase() });
    before.remove("b");
    const after = new TypedList<string>("calendar", browser);
    expect(after.all().map((x) => x.entry)).toEqual(["A", "C"]);
    for (const key of ["a", "c"]) after.remove(key);
    expect(browser.kept.size).toBe(0);
  });

  it("is each person's and each calendar's own", () => {
    const browser = storage();
    new TypedList<string>("calendar of 1", browser).add({ key: "a", entry: "A" });
    expect(new TypedList<string>("calendar of 2", browser).all()).toEqual([]);
  });

  it("stands a browser that keeps nothing, and one that kept something else", () => {
    const full = new TypedList<string>("calendar", storage(3));
    full.add({ key: "a", entry: "A" });
    expect(full.all()).toEqual([]);
    const foreign = storage();
    foreign.setItem("calendar", "{broken");
    expect(new TypedList<string>("calendar", foreign).all()).toEqual([]);
    foreign.setItem("calendar", '{"a": 1}');
    expect(new TypedList<string>("calendar", foreign).all()).toEqual([]);
  });
});
