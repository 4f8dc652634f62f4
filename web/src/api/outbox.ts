import { csrf, ProblemError, type Problem } from "./client";

/** One write from the floor, kept until the server has answered it. Its key makes sending it twice harmless. */
interface Waiting {
  key: string;
  url: string;
  body: unknown;
}

type Answer = { ok: true; data: unknown } | { ok: false; problem: Problem };

let rackLink = "";

/** Writes from a rack's tablet carry the link that opened it. */
export function keepRackLink(link: string): void {
  rackLink = link;
}

export function rackHeaders(): Record<string, string> {
  return rackLink ? { "X-Rack-Link": rackLink } : {};
}

const STORE = "jarvok.outbox";
const RETRY_MS = 2000;

let queue: Waiting[] = load();
const settle = new Map<string, (answer: Answer) => void>();
const watchers = new Set<() => void>();
let sending = false;

function load(): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(STORE) ?? "[]") as Waiting[];
  } catch {
    return [];
  }
}

function save(): void {
  localStorage.setItem(STORE, JSON.stringify(queue));
  watchers.forEach((tell) => tell());
}

export function waitingCount(): number {
  return queue.length;
}

export function watchOutbox(tell: () => void): () => void {
  watchers.add(tell);
  return () => watchers.delete(tell);
}

/** Queue a write and return the server's answer to it, however long that takes; a refusal is thrown. */
export function send<T>(url: string, body: unknown): Promise<T> {
  const key = crypto.randomUUID();
  queue.push({ key, url, body });
  save();
  void drain();
  return new Promise<T>((resolve, reject) => {
    settle.set(key, (answer) => (answer.ok ? resolve(answer.data as T) : reject(new ProblemError(answer.problem))));
  });
}

/** Send what waits, in order, one at a time. Only an answer takes a write out of the queue. */
export async function drain(): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    for (let first = queue[0]; first; first = queue[0]) {
      const answer = await attempt(first);
      if (answer === null) {
        setTimeout(() => void drain(), RETRY_MS);
        return;
      }
      queue = queue.filter((item) => item.key !== first.key);
      save();
      settle.get(first.key)?.(answer);
      settle.delete(first.key);
    }
  } finally {
    sending = false;
  }
}

async function attempt(item: Waiting): Promise<Answer | null> {
  try {
    const response = await fetch(item.url, {
      method: "POST",
      credentials: "same-origin",
      headers: { "Content-Type": "application/json", "X-CSRFToken": csrf(), "Idempotency-Key": item.key, ...rackHeaders() },
      body: JSON.stringify(item.body),
    });
    if (response.status >= 500) return null;
    const data: unknown = await response.json();
    return response.ok ? { ok: true, data } : { ok: false, problem: data as Problem };
  } catch {
    return null;
  }
}

window.addEventListener("online", () => void drain());
