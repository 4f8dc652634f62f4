/**
 * Writes that wait for the server: kept beyond the page, sent in the order in which they were typed, one at a time over all tabs, each
 * under a key that makes twice harmless. Only an answer to what was typed takes one out: no answer, and no leave to write, keep it.
 */
export interface Author {
  id: string;
  name: string;
}

export interface Waiting {
  key: string;
  /** its place in the order of all that was ever put here by any tab of this browser */
  place: number;
  url: string;
  body: unknown;
  author: Author;
  /** when it was typed, by the device's own clock */
  typed_ms: number;
}

/** A write that the server would not take: kept with what it said until a person has decided. */
export interface Refused extends Waiting {
  title: string;
  stored_id: number | null;
}

interface Said {
  title: string;
  stored_id?: number | null;
}

export type Answer<P> = { ok: true; data: unknown } | { ok: false; problem: P };

/** What came of sending: an answer, nothing at all, or a closed door behind which nothing was read, with what was said there. */
export type Reply<P> = Answer<P> | "away" | { door: P };

/** What tabs of one browser tell each other. */
export type News<P> = { of: "answer"; key: string; answer: Answer<P> } | { of: "more" };

/** Where writes are kept beyond the page. Each call may fail: the browser's storage can be full, cleared or not there. */
export interface Shelf {
  all: () => Promise<Waiting[]>;
  /** Keep one behind all others, at its own place or later; returns the place. */
  add: (item: Waiting) => Promise<number>;
  put: (item: Waiting) => Promise<void>;
  remove: (key: string) => Promise<void>;
  refused: () => Promise<Refused[]>;
  refuse: (item: Refused) => Promise<void>;
  forget: (key: string) => Promise<void>;
}

/** What the outbox needs of the world. `alone` lets one tab at a time send. */
export interface World<P> {
  shelf: Shelf;
  alone: (act: () => Promise<void>) => Promise<void>;
  steady_ms: () => number;
  clock_ms: () => number;
  newKey: () => string;
  author: () => Author | null;
  /** Send one that has waited for so long. */
  post: (item: Waiting, waited_ms: number) => Promise<Reply<P>>;
  later: (act: () => void, ms: number) => void;
  tell: (news: News<P>) => void;
}

/** How things stand, to be said in words; a new object whenever it changes. */
export interface Standing {
  waiting: number;
  /** nothing was heard of the server at the last try */
  away: boolean;
  /** what was said at a closed door: somebody has to sign in; or of whom what waits is, where somebody else is signed in */
  asks: { door: string } | { of: Author } | null;
  /** held by this page alone: the browser keeps nothing */
  unsafe: boolean;
  refused: Refused[];
}

export const RETRY_MS = 2000;
export const SLOW_MS = 700; // what has waited this long is shown as done on the page
const NOBODY: Author = { id: "", name: "" };

function refusedAs(item: Waiting, said: Said): Refused {
  return { ...item, title: said.title, stored_id: said.stored_id ?? null };
}

/** What this page holds of the waiting writes, and what the shelf keeps of them beyond it. */
class Held {
  items: Waiting[] = [];
  refused: Refused[] = [];
  unsafe = false;
  private kept: Promise<unknown> = Promise.resolve();
  private readonly own = new Set<string>();
  private readonly over = new Set<string>();

  constructor(
    private readonly shelf: Shelf,
    private readonly changed: () => void,
  ) {}

  put(item: Waiting, told: () => void): void {
    this.items = [...this.items, item];
    this.own.add(item.key);
    this.kept = this.kept.then(() =>
      this.quietly(
        this.shelf.add(item).then((place) => {
          item.place = place;
          told();
        }),
      ),
    );
  }

  /** What the shelf holds with what only this page knows of: its own that the browser has lost are put back. */
  async reread(): Promise<void> {
    await this.kept;
    try {
      const stored = (await this.shelf.all()).filter((item) => !this.over.has(item.key));
      const there = new Set(stored.map((item) => item.key));
      const lost = this.items.filter((item) => this.own.has(item.key) && !there.has(item.key));
      for (const item of lost) await this.shelf.put(item);
      this.items = [...stored, ...lost].sort((a, b) => a.place - b.place);
      this.refused = await this.shelf.refused();
      this.unsafe = false;
    } catch {
      this.unsafe = this.items.length > 0;
    }
    this.changed();
  }

  /** One is answered: it is nowhere any more. Returns it, where this page knew of it. */
  done(key: string): Waiting | undefined {
    const item = this.items.find((other) => other.key === key);
    this.over.add(key);
    this.items = this.items.filter((other) => other.key !== key);
    return item;
  }

  remove(key: string): Promise<void> {
    return this.quietly(this.shelf.remove(key));
  }

  refuse(item: Refused): Promise<void> {
    this.refused = [...this.refused, item];
    this.changed();
    return this.quietly(this.shelf.refuse(item));
  }

  forget(key: string): Promise<void> {
    this.refused = this.refused.filter((r) => r.key !== key);
    this.changed();
    return this.quietly(this.shelf.forget(key));
  }

  private async quietly(act: Promise<unknown>): Promise<void> {
    try {
      await act;
    } catch {
      this.unsafe = this.items.length > 0;
      this.changed();
    }
  }
}

export class Outbox<P extends Said> {
  private stands: Standing = { waiting: 0, away: false, asks: null, unsafe: false, refused: [] };
  private readonly held: Held;
  private landing: Waiting[] = []; // answered; the page is still reading what came of it
  private draining = false;
  private again = false;
  private readonly since = new Map<string, number>(); // by the page's own steady clock
  private readonly sentAs = new Set<string>(); // authors whose writes another person sends in their place
  private readonly settle = new Map<string, (answer: Answer<P>) => unknown>();
  private readonly watchers = new Set<() => void>();

  constructor(private readonly world: World<P>) {
    this.held = new Held(world.shelf, () => this.now());
  }

  /** Queue a write; `taken` is called with the server's answer, however long that takes, and may return when the page has taken it in. */
  readonly put = (url: string, body: unknown, taken?: (answer: Answer<P>) => unknown): void => {
    const place = Math.max(0, ...this.held.items.map((i) => i.place)) + 1;
    const author = this.world.author() ?? NOBODY;
    const item = { key: this.world.newKey(), place, url, body, author, typed_ms: this.world.clock_ms() };
    this.since.set(item.key, this.world.steady_ms());
    if (taken) this.settle.set(item.key, taken);
    this.held.put(item, () => this.world.tell({ of: "more" }));
    this.now();
    this.world.later(() => this.now(), SLOW_MS + 50);
    void this.drain();
  };

  /** Send what waits, in order, one at a time. */
  readonly drain = async (): Promise<void> => {
    if (this.draining) {
      this.again = true;
      return;
    }
    this.draining = true;
    try {
      do {
        this.again = false;
        await this.world.alone(async () => {
          do await this.held.reread();
          while (await this.sendFirst());
        });
      } while (this.again && this.stands.waiting > 0 && !this.stands.away && this.stands.asks === null);
    } finally {
      this.draining = false;
    }
  };

  /** Take up what is kept, as after the page has opened. */
  readonly begin = (): Promise<void> => this.held.reread().then(this.drain);

  /** What another tab has told. */
  readonly hear = (news: News<P>): void => {
    if (news.of === "more") void this.held.reread();
    else if (this.answered(news.key, news.answer) && !news.answer.ok) void this.forget(news.key);
  };

  /** Somebody has signed in, or a link was opened: what waited for them goes on. */
  readonly admitted = (): Promise<void> => {
    this.now({ asks: null });
    return this.drain();
  };

  /** Send what somebody else typed on this device in the name of whoever is signed in. */
  readonly sendAs = (author: Author): Promise<void> => {
    this.sentAs.add(author.id);
    return this.admitted();
  };

  /** Put the first aside that a door was closed to: what is behind it goes on, and a person decides about it later. */
  readonly setAside = async (): Promise<void> => {
    const who = this.world.author();
    const first = who && this.firstOf(who);
    const { asks } = this.stands;
    if (!first || asks === null || !("door" in asks)) return;
    await this.held.remove(first.key);
    await this.held.refuse(refusedAs(first, { title: asks.door }));
    this.settle.delete(first.key);
    this.held.done(first.key);
    return this.admitted();
  };

  readonly standing = (): Standing => this.stands;

  /** What has been waiting for addresses under one for longer than a moment, oldest first. */
  readonly waitingFor = (under: string) =>
    this.slow(under).map((item) => ({ url: item.url, body: item.body, waited_ms: this.waited_ms(item) }));

  /** Another text whenever that changes. */
  readonly waitingKey = (under: string): string =>
    this.slow(under)
      .map((item) => item.key)
      .join();

  readonly forget = (key: string): Promise<void> => this.held.forget(key);

  /** Send a refused write once more, as it is or as something else. */
  readonly resend = async (refused: Refused, url = refused.url, body = refused.body): Promise<void> => {
    await this.forget(refused.key);
    this.put(url, body);
  };

  readonly watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  private now(change: Partial<Standing> = {}): void {
    const { items, unsafe, refused } = this.held;
    this.stands = { ...this.stands, ...change, waiting: items.length, unsafe, refused };
    this.watchers.forEach((watcher) => watcher());
  }

  private slow(under: string): Waiting[] {
    const at_ms = this.world.steady_ms() - SLOW_MS;
    return [...this.landing, ...this.held.items].filter((i) => i.url.startsWith(under) && (this.since.get(i.key) ?? -Infinity) <= at_ms);
  }

  /** An accepted write counts as waiting until the page has taken its answer in: else the set before would flash up again. */
  private land(item: Waiting, taken: unknown): void {
    this.landing = [...this.landing, item];
    void Promise.resolve(taken)
      .catch(() => undefined)
      .then(() => {
        this.landing = this.landing.filter((other) => other !== item);
        this.now();
      });
  }

  /** Give an answer to the page that waits for it; whether one did. */
  private answered(key: string, answer: Answer<P>): boolean {
    const waits = this.settle.get(key);
    this.settle.delete(key);
    const item = this.held.done(key);
    const taken = waits?.(answer);
    if (answer.ok && item) this.land(item, taken);
    this.now({ away: false, asks: null });
    return waits !== undefined;
  }

  private firstOf(who: Author): Waiting | undefined {
    const may = new Set(["", who.id, ...this.sentAs]);
    return this.held.items.find((item) => may.has(item.author.id));
  }

  /** How long one has waited: by the steady clock of the page it was typed on, else by that of the device. */
  private waited_ms(item: Waiting): number {
    const since = this.since.get(item.key);
    const waited = since === undefined ? this.world.clock_ms() - item.typed_ms : this.world.steady_ms() - since;
    return Math.max(0, Math.round(waited)) || 0;
  }

  /** Send the first of whoever is here; whether to go on with the next. */
  private async sendFirst(): Promise<boolean> {
    const who = this.world.author();
    if (who === null) return false; // who is here is not known yet
    const first = this.firstOf(who);
    if (!first) {
      const left = this.held.items[0];
      if (left) this.now({ asks: { of: left.author } });
      return false;
    }
    const reply = await this.world.post(first, this.waited_ms(first));
    if (reply === "away") {
      this.now({ away: true });
      this.world.later(() => void this.drain(), RETRY_MS);
      return false;
    }
    if ("door" in reply) {
      this.now({ asks: { door: reply.door.title }, away: false });
      return false;
    }
    await this.held.remove(first.key);
    if (!this.answered(first.key, reply) && !reply.ok) {
      await this.held.refuse(refusedAs(first, reply.problem));
    }
    this.world.tell({ of: "answer", key: first.key, answer: reply });
    return true;
  }
}
