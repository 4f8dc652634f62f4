import { describe, expect, it } from "vitest";

import { keepPlans, planOf } from "./plans";

describe("the plan an address is about", () => {
  it.each([
    ["/api/athletes/5/week", "athlete/5"],
    ["/athletes/5/session/2026-12-01/A", "athlete/5"],
    ["/api/calendar/squad/3/months", "squad/3"],
    ["/squads/3", "squad/3"],
    ["/api/athletes", null],
    ["/settings", null],
  ])("%s", (path, plan) => expect(planOf(path)).toBe(plan));
});

describe("what a page has seen of a plan", () => {
  it("is what was read last", () => {
    const plans = keepPlans();
    expect(plans.seenOn("/athletes/5/week")).toBeNull();
    plans.heard("/api/athletes/5/week", "7");
    plans.heard("/api/athletes/6/week", "9");
    expect(plans.seenOn("/athletes/5/session/2026-12-01/A")).toBe(7);
  });

  it("stands still while something is typed", () => {
    const plans = keepPlans();
    plans.heard("/api/athletes/5/week", "7");
    plans.typed();
    plans.heard("/api/athletes/5/week", "8");
    expect(plans.seenOn("/athletes/5/week")).toBe(7);
    plans.nothingTyped();
    expect(plans.seenOn("/athletes/5/week")).toBe(8);
  });

  it("never goes back", () => {
    const plans = keepPlans();
    for (const act of ["7", "8", "7", null, "soon"]) plans.heard("/api/athletes/5/week", act);
    expect(plans.seenOn("/athletes/5")).toBe(8);
  });
});
