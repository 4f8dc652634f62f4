/** Writes that wait for the server: kept in storage, sent in order, one at a time, each under a key that makes twice harmless. */
export interface Waiting {
  key: string;
  url: string;
  body: unknown;
  at: number;
}

/** A write that the server refused after the page that sent it was gone: shown until it has been read. */
export interface Refused {
  key: string;
  title: string;
  body: unknown;
}

export type Answer<Problem> = { ok: true; data: unknown } | { ok: false; problem: Problem };

/** What the outbox needs of the world: a store, a clock, keys, a way to the server (null: no answer), and a later. */
export interface World<Problem> {
  store: Pick<Storage, "getItem" | "setItem">;
  now_ms: () => number;
  newKey: () => string;
  post: (item: Waiting) => Promise<Answer<Problem> | null>;
  later: (act: () => void, ms: number) => void;
}

export const STORE = "jarvok.outbox";
export const REFUSED = "jarvok.outbox.refused";
export const RETRY_MS = 2000;
export const SLOW_MS = 700; // what has waited this long is shown as done on the page

function read<T>(store: World<unknown>["store"], name: string): T[] {
  try {
    return JSON.parse(store.getItem(name) ?? "[]") as T[];
  } catch {
    return [];
  }
}

export function createOutbox<Problem extends { title: string }>(world: World<Problem>) {
  let queue = read<Waiting>(world.store, STORE);
  let refused = read<Refused>(world.store, REFUSED);
  let sending = false;
  let landing: Waiting[] = []; // answered; the page is still reading what came of it
  const settle = new Map<string, (answer: Answer<Problem>) => unknown>();
  const watchers = new Set<() => void>();
  const tell = () => watchers.forEach((watcher) => watcher());

  function save(): void {
    world.store.setItem(STORE, JSON.stringify(queue));
    tell();
  }

  function saveRefused(next: Refused[]): void {
    refused = next;
    world.store.setItem(REFUSED, JSON.stringify(refused));
    tell();
  }

  const slow = (url: string) => [...landing, ...queue].filter((item) => item.url === url && world.now_ms() - (item.at ?? 0) >= SLOW_MS);

  /** An accepted write counts as waiting until the page has taken its answer in: else the set before would flash up again. */
  function land(item: Waiting, taken: unknown): void {
    landing = [...landing, item];
    void Promise.resolve(taken)
      .catch(() => undefined)
      .then(() => {
        landing = landing.filter((other) => other !== item);
        tell();
      });
  }

  /** Send what waits, in order, one at a time. Only an answer takes a write out of the queue. */
  async function drain(): Promise<void> {
    if (sending) return;
    sending = true;
    try {
      for (let first = queue[0]; first; first = queue[0]) {
        const { key, body } = first;
        const answer = await world.post(first);
        if (answer === null) {
          world.later(() => void drain(), RETRY_MS);
          return;
        }
        const taken = settle.get(key)?.(answer);
        if (answer.ok) land(first, taken);
        queue = queue.filter((item) => item.key !== key);
        save();
        if (!answer.ok && !settle.has(key)) saveRefused([...refused, { key, title: answer.problem.title, body }]);
        settle.delete(key);
      }
    } finally {
      sending = false;
    }
  }

  /** Queue a write; `answered` is called with the server's answer, however long that takes, and may return when the page has taken it in. */
  function put(url: string, body: unknown, answered: (answer: Answer<Problem>) => unknown): void {
    const key = world.newKey();
    queue = [...queue, { key, url, body, at: world.now_ms() }];
    settle.set(key, answered);
    save();
    world.later(tell, SLOW_MS + 50);
    void drain();
  }

  return {
    put,
    drain,
    count: () => queue.length,
    /** What has been waiting for one address for longer than a moment, oldest first. */
    waitingFor: (url: string) => slow(url).map((item) => item.body),
    /** Another text whenever that changes. */
    waitingKey: (url: string) =>
      slow(url)
        .map((item) => item.key)
        .join(),
    refused: () => refused,
    forget: (key: string) => saveRefused(refused.filter((r) => r.key !== key)),
    watch: (watcher: () => void) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
  };
}
