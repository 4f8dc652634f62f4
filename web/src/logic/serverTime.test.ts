import { describe, expect, it } from "vitest";

import { createServerTime } from "./serverTime";

/** A server 5,000 ms ahead of a steady clock, reached by ways of different length. */
function source(ways: [number, number][]) {
  const world = { steady: 100 };
  return {
    world,
    steady_ms: () => world.steady,
    origin_ms: 1000,
    ask: () => {
      const way = ways.shift();
      if (!way) return Promise.reject(new Error("away"));
      world.steady += way[0];
      const said = world.steady + 5000;
      world.steady += way[1];
      return Promise.resolve(said);
    },
  };
}

describe("the server's time", () => {
  it("is the page's own until the server has said anything", () => expect(createServerTime(source([])).now()).toBe(1100));
  it("is taken from the quickest answer, at the middle of its way", async () => {
    const from = source([
      [90, 10],
      [4, 4],
      [10, 200],
      [60, 60],
      [50, 50],
    ]);
    const time = createServerTime(from);
    await time.measure();
    expect(time.now() - from.world.steady).toBe(5000);
  });
  it("goes by what other answers say until it is measured, the latest of them", async () => {
    const from = source([[4, 4]]);
    const time = createServerTime(from);
    time.learn(5040);
    expect(time.now()).toBe(5040);
    time.learn(5000);
    expect(time.now()).toBe(5040);
    await time.measure();
    expect(time.now() - from.world.steady).toBe(5000);
    time.learn(9_999_999);
    expect(time.now() - from.world.steady).toBe(5000);
  });
  it("is asked for again after five minutes, not before", async () => {
    const ways: [number, number][] = Array.from({ length: 10 }, () => [1, 1]);
    const from = source(ways);
    const time = createServerTime(from);
    await time.measure();
    expect(ways).toHaveLength(5);
    from.world.steady = 100 + 5 * 60_000 - 1;
    await time.measure();
    expect(ways).toHaveLength(5);
    from.world.steady = 100 + 5 * 60_000;
    await time.measure();
    expect(ways).toHaveLength(0);
  });
});
