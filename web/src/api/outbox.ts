/** The outbox of this page: kept in the browser, sent to the server, emptied when the network is back. */
import { createOutbox, type Answer, type Waiting } from "../logic/outbox";
import { csrf, ProblemError, type Problem } from "./client";

let rackLink = "";

/** Writes from a rack's tablet carry the link that opened it. */
export function keepRackLink(link: string): void {
  rackLink = link;
}

export function rackHeaders(): Record<string, string> {
  return rackLink ? { "X-Rack-Link": rackLink } : {};
}

async function post(item: Waiting): Promise<Answer<Problem> | null> {
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

const outbox = createOutbox<Problem>({
  store: localStorage,
  now_ms: () => Date.now(),
  newKey: () => crypto.randomUUID(),
  post,
  later: (act, ms) => void setTimeout(act, ms),
});

export const {
  drain,
  waitingFor,
  waitingKey,
  count: waitingCount,
  refused: refusedWrites,
  forget: forgetRefused,
  watch: watchOutbox,
} = outbox;

/** Queue a write and return the server's answer to it; a refusal is thrown. `take` brings the answer into the page before it leaves the queue. */
export function send<T>(url: string, body: unknown, take: (fresh: T) => unknown = () => undefined): Promise<T> {
  return new Promise<T>((resolve, reject) => {
    outbox.put(url, body, (answer) => {
      if (!answer.ok) return reject(new ProblemError(answer.problem));
      const fresh = answer.data as T;
      return Promise.resolve(take(fresh)).finally(() => resolve(fresh));
    });
  });
}

window.addEventListener("online", () => void drain());
