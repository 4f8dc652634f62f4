/** The outbox of this browser: kept in its own database, sent to the server by one tab at a time, emptied when the network is back. */
import { Outbox, type Answer, type Author, type News, type Reply, type Waiting } from "../logic/outbox";
import { newKey } from "../logic/keys";
import type { Write } from "../logic/rotation";
import { csrf, ProblemError, tokenAnew, type Problem } from "./client";
import { serverTime } from "./serverTime";
import { createShelf } from "./shelf";

export type { Refused, Standing } from "../logic/outbox";

const WAITED = "Jarvok-Waited-Ms";
const NO_ANSWER_MS = 20_000;
let rackLink = "";
let author: Author | null = null;

/** Writes from a rack's tablet carry the link that opened it. */
export function keepRackLink(link: string): void {
  rackLink = link;
  keepAuthor(link ? { id: "rack", name: "this rack" } : null);
}

export function rackHeaders(): Record<string, string> {
  return rackLink ? { "X-Rack-Link": rackLink } : {};
}

/** Who types here: what waits is sent as theirs, and waits while somebody else is signed in. */
export function keepAuthor(who: Author | null): void {
  if (rackLink && who?.id !== "rack") return;
  const known = author?.id === who?.id;
  author = who;
  if (!known && who) void outbox.admitted();
}

async function post(item: Waiting, waited_ms: number): Promise<Reply<Problem>> {
  const once = () =>
    fetch(item.url, {
      method: "POST",
      credentials: "same-origin",
      signal: AbortSignal.timeout(NO_ANSWER_MS),
      headers: {
        "Content-Type": "application/json",
        "X-CSRFToken": csrf(),
        "Idempotency-Key": item.key,
        [WAITED]: String(waited_ms),
        ...rackHeaders(),
      },
      body: JSON.stringify(item.body),
    });
  try {
    let response = await once();
    const isClosed = response.status === 401 || response.status === 403;
    if (isClosed && !rackLink && (await tokenAnew())) response = await once(); // signed in anew meanwhile
    if (response.status >= 500 || response.status === 429) return "away";
    const data: unknown = await response.json();
    if (response.status === 401 || response.status === 403) return { door: data as Problem };
    return response.ok ? { ok: true, data } : { ok: false, problem: data as Problem };
  } catch {
    return "away";
  }
}

const LOCK = "jarvok-outbox";
const channel = new BroadcastChannel(LOCK);
// on plain http the browser lends no locks: then tabs may both send, which the keys make harmless
const locks = (navigator as { locks?: LockManager }).locks;

const outbox = new Outbox<Problem>({
  shelf: createShelf(),
  alone: async (act) => {
    await (locks ? locks.request(LOCK, act) : act());
  },
  steady_ms: () => performance.now(),
  clock_ms: () => Date.now(),
  newKey,
  author: () => author,
  post,
  later: (act, ms) => void setTimeout(act, ms),
  tell: (news) => channel.postMessage(news),
});
channel.onmessage = (event: MessageEvent<News<Problem>>) => outbox.hear(event.data);

export const { drain, waitingKey, standing, forget, resend, sendAs, setAside, admitted, watch: watchOutbox } = outbox;

/** What waits under an address, each with when it was typed by the server's clock: those of devices differ. */
export function waitingFor(under: string): Write[] {
  return outbox.waitingFor(under).map(({ url, body, waited_ms }) => ({ url, body, at_ms: serverTime.now() - waited_ms }));
}

/** Queue a write and return the server's answer to it; a refusal is thrown. `take` brings the answer into the page before it leaves the queue. */
export function send<T>(url: string, body: unknown, take: (fresh: T) => unknown = () => undefined): Promise<T> {
  return new Promise<T>((resolve, reject) => {
    outbox.put(url, body, (answer: Answer<Problem>) => {
      if (!answer.ok) return reject(new ProblemError(answer.problem));
      const fresh = answer.data as T;
      return Promise.resolve(take(fresh)).finally(() => resolve(fresh));
    });
  });
}

const BEFORE = "jarvok.outbox"; // where writes waited before they had a database of their own

function takeOver(): void {
  const left = localStorage.getItem(BEFORE);
  if (left === null) return;
  for (const { url, body } of JSON.parse(left) as { url: string; body: unknown }[]) outbox.put(url, body);
  localStorage.removeItem(BEFORE);
}

window.addEventListener("online", () => void drain());
void outbox.begin().then(takeOver);
