import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, expect, it } from "vitest";

import { keep, keys, stale } from "./keys";

/** A server whose answers are let go one by one, so that a change can fall while a reading is under way. */
function server() {
  const waiting: (() => void)[] = [];
  let stored = "before";
  return {
    change: () => (stored = "after"),
    ask: () => {
      const seen = stored; // what the server read when it was asked
      return new Promise<string>((resolve) => waiting.push(() => resolve(seen)));
    },
    letGo: async () => {
      for (const answer of waiting.splice(0)) answer();
      await new Promise((done) => setTimeout(done, 0));
    },
  };
}

let client: QueryClient;
let stop: () => void;
const bench = keys.bench(1, {});
const week = keys.week(1);

beforeEach(() => (client = new QueryClient()));
afterEach(() => stop());

function open(key: readonly unknown[], ask: () => Promise<string>) {
  stop = new QueryObserver(client, { queryKey: key, queryFn: ask, retry: false }).subscribe(() => undefined);
}

it.each([
  ["read at once", bench],
  ["read later", week],
])("a first reading asked before a change does not stand after it: %s", async (_, key) => {
  const there = server();
  open(key, there.ask);
  there.change();
  stale.afterSeason(client);
  await there.letGo();
  expect(client.getQueryData(key)).toBe("after");
});

it("a screen that is open and at rest is read later, and is known to be stale", async () => {
  const there = server();
  open(week, there.ask);
  await there.letGo();
  there.change();
  stale.afterSeason(client);
  await there.letGo();
  expect(client.getQueryData(week)).toBe("before");
  expect(client.getQueryState(week)?.isInvalidated).toBe(true);
});

it("what a change answered is not overwritten by a reading asked before it, which is begun again", async () => {
  const there = server();
  open(keys.season(1), there.ask);
  await there.letGo();
  void client.refetchQueries({ queryKey: keys.season(1) }); // somebody else's change was told, and is read
  there.change();
  keep(client, keys.season(1), { season: "the answer" });
  expect(client.getQueryData(keys.season(1))).toEqual({ season: "the answer" });
  await there.letGo();
  expect(client.getQueryData(keys.season(1)), "the reading asked before is not taken, the one after it is").toBe("after");
});

it("a change while nothing is read is not read again", async () => {
  const there = server();
  open(keys.season(1), there.ask);
  await there.letGo();
  keep(client, keys.season(1), { season: "the answer" });
  await there.letGo();
  expect(client.getQueryData(keys.season(1))).toEqual({ season: "the answer" });
});
