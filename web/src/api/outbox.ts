import { csrf, ProblemError, type Problem } from "./client";

/** One write from the floor, kept until the server has answered it. Its key makes sending it twice harmless. */
interface Waiting {
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
const REFUSED = "jarvok.outbox.refused";
const RETRY_MS = 2000;
const SLOW_MS = 700;

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

const slow = (url: string) => queue.filter((item) => item.url === url && Date.now() - (item.at ?? 0) >= SLOW_MS);

/** What has been waiting for one address for longer than a moment, oldest first. */
export function waitingFor(url: string): unknown[] {
  return slow(url).map((item) => item.body);
}

/** Another text whenever that changes. */
export function waitingKey(url: string): string {
  return slow(url)
    .map((item) => item.key)
    .join();
}

let refused: Refused[] = readRefused();

function readRefused(): Refused[] {
  try {
    return JSON.parse(localStorage.getItem(REFUSED) ?? "[]") as Refused[];
  } catch {
    return [];
  }
}

function saveRefused(next: Refused[]): void {
  refused = next;
  localStorage.setItem(REFUSED, JSON.stringify(refused));
  watchers.forEach((tell) => tell());
}

export function refusedWrites(): Refused[] {
  return refused;
}

export function forgetRefused(key: string): void {
  saveRefused(refused.filter((r) => r.key !== key));
}

export function watchOutbox(tell: () => void): () => void {
  watchers.add(tell);
  return () => watchers.delete(tell);
}

/** Queue a write and return the server's answer to it, however long that takes; a refusal is thrown. */
export function send<T>(url: string, body: unknown): Promise<T> {
  const key = crypto.randomUUID();
  queue.push({ key, url, body, at: Date.now() });
  save();
  setTimeout(() => watchers.forEach((tell) => tell()), SLOW_MS + 50);
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
      if (!answer.ok && !settle.has(first.key)) saveRefused([...refused, { key: first.key, title: answer.problem.title, body: first.body }]);
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
