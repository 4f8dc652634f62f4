import { describe, expect, it } from "vitest";

import { newKey } from "./keys";
import { Outbox, RETRY_MS, SLOW_MS, type Author, type News, type Refused, type Reply, type Shelf, type Waiting } from "./outbox";

interface Said {
  title: string;
  stored_id?: number | null;
}
const OK: Reply<Said> = { ok: true, data: 1 };
const NO: Reply<Said> = { ok: false, problem: { title: "This session is finished." } };
const DOOR: Reply<Said> = { door: { title: "Sign in first." } };
const MARA: Author = { id: "person 1", name: "Mara" };
const ODO: Author = { id: "person 2", name: "Odo" };

/** A browser's storage that a test can fill up or clear, shared by the tabs of one browser. */
function storage() {
  const made = { waiting: new Map<string, Waiting>(), refused: new Map<string, Refused>(), broken: false };
  const within = <T>(act: () => T): Promise<T> => (made.broken ? Promise.reject(new Error("full")) : Promise.resolve().then(act));
  const sorted = <T extends Waiting>(all: Map<string, T>) => [...all.values()].sort((a, b) => a.place - b.place).map((i) => ({ ...i }));
  const shelf: Shelf = {
    all: () => within(() => sorted(made.waiting)),
    add: (item) =>
      within(() => {
        const place = Math.max(item.place, ...[...made.waiting.values()].map((i) => i.place + 1));
        made.waiting.set(item.key, { ...item, place });
        return place;
      }),
    put: (item) => within(() => void made.waiting.set(item.key, { ...item })),
    remove: (key) => within(() => void made.waiting.delete(key)),
    refused: () => within(() => sorted(made.refused)),
    refuse: (item) => within(() => void made.refused.set(item.key, item)),
    forget: (key) => within(() => void made.refused.delete(key)),
  };
  return { made, shelf };
}

/** A server that takes each key once, or says what a test wants it to say. */
function server() {
  const made = {
    taken: [] as Waiting[],
    posted: [] as string[],
    waited_ms: [] as number[],
    says: [] as Reply<Said>[],
    always: null as Reply<Said> | null,
  };
  const post = (item: Waiting, waited_ms: number): Promise<Reply<Said>> => {
    made.posted.push(item.key);
    made.waited_ms.push(waited_ms);
    const reply = made.always ?? made.says.shift() ?? OK;
    if (typeof reply === "object" && "ok" in reply && reply.ok && !made.taken.some((t) => t.key === item.key)) made.taken.push(item);
    return Promise.resolve(reply);
  };
  return { made, post };
}

/** Tabs of one browser: one sends at a time, and each hears what another tells. */
function browser(locks = true) {
  const kept = storage();
  const there = server();
  const clock = { now: 0, day_ms: 1_000_000 };
  const later: { act: () => void; ms: number }[] = [];
  const tabs: { hear: (news: News<Said>) => void }[] = [];
  let line: Promise<void> = Promise.resolve();
  let keys = 0;
  const tab = (author: Author | null = MARA) => {
    const who = { author };
    const outbox = new Outbox<Said>({
      shelf: kept.shelf,
      alone: (act) => (locks ? (line = line.then(act)) : act()),
      steady_ms: () => clock.now,
      clock_ms: () => clock.day_ms + clock.now,
      newKey: () => `key-${++keys}`,
      author: () => who.author,
      post: there.post,
      later: (act, ms) => void later.push({ act, ms }),
      tell: (news) => tabs.filter((t) => t !== outbox).forEach((t) => t.hear(news)),
    });
    tabs.push(outbox);
    return Object.assign(outbox, { who });
  };
  const crash = (one: object) => void tabs.splice(tabs.indexOf(one as (typeof tabs)[number]), 1);
  return { ...kept, there: there.made, clock, later, tab, crash };
}
const settled = async () => {
  for (let i = 0; i < 500; i++) await Promise.resolve(); // promises alone: no clock, so that a busy machine changes nothing
};
const bodies = (all: Waiting[]) => all.map((i) => i.body);

describe("the outbox", () => {
  it("sends in order, one at a time, and empties only on an answer", async () => {
    const { tab, there, made } = browser();
    const outbox = tab();
    const said: unknown[] = [];
    outbox.put("/a", 1, (a) => said.push(a));
    outbox.put("/b", 2, (a) => said.push(a));
    expect(outbox.standing().waiting).toBe(2);
    await settled();
    expect(bodies(there.taken)).toEqual([1, 2]);
    expect(said).toHaveLength(2);
    expect(outbox.standing().waiting).toBe(0);
    expect(made.waiting.size).toBe(0);
  });
  it("keeps what has no answer, beyond the page too, and tries again under the same key", async () => {
    const { tab, there, made, later } = browser();
    const outbox = tab();
    there.says = ["away", OK];
    outbox.put("/a", { reps: 5 });
    await settled();
    expect(outbox.standing()).toMatchObject({ waiting: 1, away: true });
    expect([...made.waiting.values()]).toMatchObject([{ key: "key-1", body: { reps: 5 } }]);
    later.find((l) => l.ms === RETRY_MS)?.act();
    await settled();
    expect(there.posted).toEqual(["key-1", "key-1"]);
    expect(outbox.standing()).toMatchObject({ waiting: 0, away: false });
  });
  it("keeps everything behind a closed door and goes on in order when it opens", async () => {
    const { tab, there } = browser();
    const outbox = tab();
    there.always = DOOR;
    for (const n of [1, 2, 3]) outbox.put("/a", n);
    await settled();
    expect(outbox.standing()).toMatchObject({ waiting: 3, asks: { door: "Sign in first." } });
    there.always = null;
    await outbox.admitted();
    expect(bodies(there.taken)).toEqual([1, 2, 3]);
    expect(outbox.standing().asks).toBe(null);
  });
  it("goes on behind one that no door opens to, once a person has set it aside", async () => {
    const { tab, there, made } = browser();
    const outbox = tab();
    there.says = [{ door: { title: "That is not one of your squads." } }];
    for (const n of [1, 2]) outbox.put("/a", n, () => undefined);
    await settled();
    expect(outbox.standing()).toMatchObject({ waiting: 2, asks: { door: "That is not one of your squads." } });
    await outbox.setAside();
    await settled();
    expect(bodies(there.taken)).toEqual([2]);
    expect(outbox.standing()).toMatchObject({ waiting: 0, asks: null, refused: [{ body: 1, title: "That is not one of your squads." }] });
    expect([made.waiting.size, made.refused.size]).toEqual([0, 1]);
    await outbox.setAside(); // nothing more to set aside
    expect(outbox.standing().refused).toHaveLength(1);
  });
  it("says how long each has waited: by the page's clock, after a reload by the device's, never less than nothing", async () => {
    const { tab, there, clock, crash } = browser();
    const first = tab();
    there.always = "away";
    first.put("/a", 1);
    await settled();
    clock.now = 5000;
    clock.day_ms -= 86_400_000; // the page is not troubled by a clock that is set
    there.always = null;
    await first.drain();
    expect(there.waited_ms.at(-1)).toBe(5000);
    there.always = "away";
    first.put("/a", 2);
    await settled();
    crash(first);
    clock.now = 12_000;
    there.always = null;
    await tab().begin();
    expect(there.waited_ms.at(-1)).toBe(7000);
    there.always = "away";
    const last = tab();
    last.put("/a", 3);
    await settled();
    crash(last);
    clock.day_ms -= 86_400_000;
    there.always = null;
    await tab().begin();
    expect(there.waited_ms.at(-1)).toBe(0);
  });
  it("two tabs away from the network each keep theirs, and all arrive in the order in which they were typed", async () => {
    const { tab, there, later } = browser();
    const [one, other] = [tab(), tab()];
    there.always = "away";
    for (let n = 0; n < 10; n++) {
      (n % 2 ? one : other).put("/a", n);
      await settled();
    }
    expect(one.standing().waiting).toBe(10);
    there.always = null;
    later.forEach((l) => l.act());
    await settled();
    expect(bodies(there.taken)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
    expect(other.standing().waiting).toBe(0);
  });
  it("gives an answer to the tab that waits for it, whichever tab has sent it", async () => {
    const { tab, there } = browser();
    const [one, other] = [tab(), tab()];
    there.always = "away";
    const said: unknown[] = [];
    one.put("/a", 1, (a) => said.push(a));
    await settled();
    there.always = null;
    await other.drain();
    expect(said).toEqual([OK]);
    expect(one.standing().waiting).toBe(0);
  });
  it("three tabs and a crash: another tab sends what the dead one left, nothing twice", async () => {
    const { tab, there, crash } = browser();
    const tabs = [tab(), tab(), tab()];
    there.always = "away";
    for (let n = 0; n < 9; n++) {
      tabs[n % 3]?.put("/a", n);
      await settled();
    }
    for (const dead of tabs) crash(dead);
    there.always = null;
    await tab().begin();
    expect(bodies(there.taken)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
  });
  it("takes each once where the browser lends no locks", async () => {
    const { tab, there } = browser(false);
    const [one, other] = [tab(), tab()];
    there.always = "away";
    one.put("/a", 1);
    other.put("/a", 2);
    await settled();
    there.always = null;
    await Promise.all([one.drain(), other.drain()]);
    await settled();
    expect(bodies(there.taken).sort((a, b) => Number(a) - Number(b))).toEqual([1, 2]);
    expect(one.standing().waiting + other.standing().waiting).toBe(0);
  });
  it("a cleared storage loses nothing that an open page holds, and keeps its order", async () => {
    const { tab, there, made, later } = browser();
    const outbox = tab();
    there.always = "away";
    for (const n of [1, 2]) outbox.put("/a", n);
    await settled();
    made.waiting.clear();
    outbox.put("/a", 3);
    await settled();
    expect([...made.waiting.keys()].sort()).toEqual(["key-1", "key-2", "key-3"]);
    there.always = null;
    later.forEach((l) => l.act());
    await settled();
    expect(bodies(there.taken)).toEqual([1, 2, 3]);
  });
  it("says when the browser keeps nothing, sends all the same, and takes that back when it keeps again", async () => {
    const { tab, there, made } = browser();
    const outbox = tab();
    made.broken = true;
    there.always = "away";
    outbox.put("/a", 1);
    await settled();
    expect(outbox.standing()).toMatchObject({ waiting: 1, unsafe: true });
    there.always = null;
    made.broken = false;
    await outbox.drain();
    expect(bodies(there.taken)).toEqual([1]);
    expect(outbox.standing()).toMatchObject({ waiting: 0, unsafe: false });
  });
  it("sends on while the storage is full", async () => {
    const { tab, there, made } = browser();
    made.broken = true;
    const outbox = tab();
    outbox.put("/a", 1);
    outbox.put("/a", 2);
    await settled();
    expect(bodies(there.taken)).toEqual([1, 2]);
  });
  it("waits for whoever typed it, or for somebody who sends it in their place", async () => {
    const { tab, there } = browser();
    const outbox = tab();
    there.always = "away";
    outbox.put("/a", 1);
    await settled();
    there.always = null;
    outbox.who.author = ODO;
    outbox.put("/a", 2);
    await settled();
    expect(bodies(there.taken)).toEqual([2]);
    expect(outbox.standing()).toMatchObject({ waiting: 1, asks: { of: MARA } });
    await outbox.sendAs(MARA);
    await settled();
    expect(bodies(there.taken)).toEqual([2, 1]);
    expect(outbox.standing()).toMatchObject({ waiting: 0, asks: null });
  });
  it("keeps a refusal that no page waits for, to be sent again, as something else, or left", async () => {
    const { tab, there, made, crash } = browser();
    const first = tab();
    there.always = "away";
    for (const n of [1, 2, 3]) first.put("/sets", { n }, () => undefined);
    await settled();
    there.always = null;
    there.says = [{ ok: false, problem: { title: "Already logged.", stored_id: 7 } }, NO, NO];
    crash(first);
    const outbox = tab();
    await outbox.begin();
    expect(outbox.standing().refused).toMatchObject([{ title: "Already logged.", stored_id: 7 }, { stored_id: null }, {}]);
    expect(made.refused.size).toBe(3);
    const [a, b, c] = outbox.standing().refused as [Refused, Refused, Refused];
    await outbox.resend(a, "/sets/correct", { n: 1, seen_id: 7 });
    await outbox.resend(b);
    await outbox.forget(c.key);
    await settled();
    expect(there.taken.map((t) => [t.url, t.body])).toEqual([
      ["/sets/correct", { n: 1, seen_id: 7 }],
      ["/sets", { n: 2 }],
    ]);
    expect(outbox.standing().refused).toEqual([]);
    expect(made.refused.size).toBe(0);
  });
  it("gives a refusal to the page that waits for it, and goes on with the next", async () => {
    const { tab, there } = browser();
    const outbox = tab();
    there.says = [NO, OK];
    const said: boolean[] = [];
    outbox.put("/a", 1, (a) => said.push(a.ok));
    outbox.put("/a", 2, (a) => said.push(a.ok));
    await settled();
    expect(said).toEqual([false, true]);
    expect(outbox.standing().refused).toEqual([]);
  });
  it("shows a write as waiting only once it has waited for a moment, by the page's own clock", () => {
    const { tab, there, clock } = browser();
    there.always = "away";
    const outbox = tab();
    outbox.put("/a", "x");
    clock.now = SLOW_MS - 1;
    expect(outbox.waitingFor("/a")).toEqual([]);
    clock.now = SLOW_MS;
    expect(outbox.waitingFor("/a")).toEqual([{ url: "/a", body: "x", waited_ms: SLOW_MS }]);
    expect(outbox.waitingFor("/b")).toEqual([]);
    expect(outbox.waitingKey("/a")).toBe("key-1");
  });
  it("shows what a closed page left as waiting at once", async () => {
    const { tab, there, crash } = browser();
    there.always = "away";
    const first = tab();
    first.put("/a", "x");
    await settled();
    crash(first);
    const outbox = tab();
    await outbox.begin();
    expect(outbox.waitingFor("/a")).toMatchObject([{ url: "/a", body: "x" }]);
  });
  it("shows an accepted write as done until the page has taken the answer in", async () => {
    const { tab, clock } = browser();
    const outbox = tab();
    let taken = () => undefined as void;
    outbox.put("/a", "x", () => new Promise<void>((done) => (taken = done)));
    clock.now = SLOW_MS;
    await settled();
    expect(outbox.standing().waiting).toBe(0);
    expect(outbox.waitingFor("/a")).toMatchObject([{ url: "/a", body: "x" }]);
    taken();
    await settled();
    expect(outbox.waitingFor("/a")).toEqual([]);
  });
  it("takes a refused write back at once", async () => {
    const { tab, there, clock } = browser();
    there.says = [NO];
    const outbox = tab();
    outbox.put("/a", "x", () => new Promise<void>(() => undefined));
    clock.now = SLOW_MS;
    await settled();
    expect(outbox.waitingFor("/a")).toEqual([]);
  });
  it("tells who watches, until they leave", () => {
    const outbox = browser().tab();
    let told = 0;
    const leave = outbox.watch(() => told++);
    outbox.put("/a", 1);
    expect(told).toBeGreaterThan(0);
    const before = told;
    leave();
    outbox.put("/a", 2);
    expect(told).toBe(before);
  });
});

describe("names of writes", () => {
  it("differ, with a source of chance and without one", () => {
    const names = new Set(Array.from({ length: 500 }, (_, i) => newKey(i % 2 ? globalThis.crypto : undefined)));
    expect(names.size).toBe(500);
    expect([...names].every((n) => /^[0-9a-f]{32}$/.test(n))).toBe(true);
  });
});
