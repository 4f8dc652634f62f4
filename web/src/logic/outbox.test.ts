import { describe, expect, it } from "vitest";

import { createOutbox, REFUSED, RETRY_MS, SLOW_MS, STORE, type Answer, type Waiting } from "./outbox";

type Said = Answer<{ title: string }>;

/** A world with a clock, a store and a server that the test moves. */
function world(kept: Record<string, string> = {}) {
  const store = new Map(Object.entries(kept));
  const made = {
    now: 0,
    later: [] as { act: () => void; ms: number }[],
    posted: [] as Waiting[],
    answers: [] as (Said | null)[],
    store,
  };
  let keys = 0;
  const outbox = createOutbox<{ title: string }>({
    store: { getItem: (k) => store.get(k) ?? null, setItem: (k, v) => void store.set(k, v) },
    now_ms: () => made.now,
    newKey: () => `key-${++keys}`,
    post: (item) => {
      made.posted.push(item);
      return Promise.resolve(made.answers.length ? (made.answers.shift() ?? null) : null);
    },
    later: (act, ms) => void made.later.push({ act, ms }),
  });
  return { ...made, made, outbox };
}
const settled = () => new Promise((done) => setTimeout(done));
const OK: Said = { ok: true, data: 1 };

describe("the outbox", () => {
  it("sends in order, one at a time, and empties only on an answer", async () => {
    const { outbox, made } = world();
    made.answers = [OK, OK];
    const said: Said[] = [];
    outbox.put("/a", 1, (a) => said.push(a));
    outbox.put("/b", 2, (a) => said.push(a));
    expect(made.posted.map((p) => p.url)).toEqual(["/a"]);
    await settled();
    expect(made.posted.map((p) => p.url)).toEqual(["/a", "/b"]);
    expect(said).toHaveLength(2);
    expect(outbox.count()).toBe(0);
  });
  it("keeps what has no answer, in storage too, and tries again under the same key", async () => {
    const { outbox, made } = world();
    made.answers = [null, OK];
    outbox.put("/a", { reps: 5 }, () => undefined);
    await settled();
    expect(outbox.count()).toBe(1);
    expect(JSON.parse(made.store.get(STORE) ?? "[]")).toMatchObject([{ key: "key-1", body: { reps: 5 } }]);
    made.later.find((l) => l.ms === RETRY_MS)?.act();
    await settled();
    expect(made.posted.map((p) => p.key)).toEqual(["key-1", "key-1"]);
    expect(outbox.count()).toBe(0);
  });
  it("takes up what a closed page left, and shows a refusal nobody waits for", async () => {
    const left = [{ key: "old", url: "/a", body: 1, at: 0 }];
    const { outbox, made } = world({ [STORE]: JSON.stringify(left) });
    made.answers = [{ ok: false, problem: { title: "This session is finished." } }];
    await outbox.drain();
    expect(outbox.refused()).toEqual([{ key: "old", title: "This session is finished.", body: 1 }]);
    expect(JSON.parse(made.store.get(REFUSED) ?? "[]")).toHaveLength(1);
    outbox.forget("old");
    expect(outbox.refused()).toEqual([]);
  });
  it("gives a refusal to the page that waits for it, and goes on with the next", async () => {
    const { outbox, made } = world();
    made.answers = [{ ok: false, problem: { title: "no" } }, OK];
    const said: Said[] = [];
    outbox.put("/a", 1, (a) => said.push(a));
    outbox.put("/a", 2, (a) => said.push(a));
    await settled();
    expect(said.map((a) => a.ok)).toEqual([false, true]);
    expect(outbox.refused()).toEqual([]);
  });
  it("shows a write as waiting only once it has waited for a moment", () => {
    const { outbox, made } = world();
    outbox.put("/a", "x", () => undefined);
    made.now = SLOW_MS - 1;
    expect(outbox.waitingFor("/a")).toEqual([]);
    made.now = SLOW_MS;
    expect(outbox.waitingFor("/a")).toEqual(["x"]);
    expect(outbox.waitingFor("/b")).toEqual([]);
    expect(outbox.waitingKey("/a")).toBe("key-1");
  });
  it("shows an accepted write as done until the page has taken the answer in", async () => {
    const { outbox, made } = world();
    made.answers = [OK];
    let taken = () => undefined as void;
    const seen: number[] = [];
    outbox.put("/a", "x", () => new Promise<void>((done) => (taken = done)));
    outbox.watch(() => seen.push(outbox.waitingFor("/a").length));
    made.now = SLOW_MS;
    await settled();
    expect(outbox.count()).toBe(0);
    expect(outbox.waitingFor("/a")).toEqual(["x"]);
    taken();
    await settled();
    expect(outbox.waitingFor("/a")).toEqual([]);
    expect(seen).toEqual([1, 0]);
  });
  it("takes a refused write back at once", async () => {
    const { outbox, made } = world();
    made.answers = [{ ok: false, problem: { title: "no" } }];
    outbox.put("/a", "x", () => new Promise<void>(() => undefined));
    made.now = SLOW_MS;
    await settled();
    expect(outbox.waitingFor("/a")).toEqual([]);
  });
  it("begins anew where its store cannot be read", () => expect(world({ [STORE]: "{not json" }).outbox.count()).toBe(0));
  it("tells who watches, until they leave", () => {
    const { outbox } = world();
    let told = 0;
    const leave = outbox.watch(() => told++);
    outbox.put("/a", 1, () => undefined);
    expect(told).toBeGreaterThan(0);
    const before = told;
    leave();
    outbox.put("/a", 2, () => undefined);
    expect(told).toBe(before);
  });
});
