/** The page's side of the shell that opens without a network. */
import { KEPT_AT, READ } from "./kept";

export type Shell = "kept" | "not kept" | "plain http";

interface State {
  shell: Shell;
  /** a newer version of the pages is here */
  isNewer: boolean;
  /** when what is shown was read, where it comes from this device: milliseconds, or nothing while the server answers */
  keptAt_ms: number | null;
}

const PERSON = "jarvok.person";
let state: State = { shell: window.isSecureContext ? "not kept" : "plain http", isNewer: false, keptAt_ms: null };
let waiting: ServiceWorker | null = null;
let isTouched = false;
for (const touch of ["pointerdown", "keydown"]) window.addEventListener(touch, () => (isTouched = true), { once: true });
const watchers = new Set<() => void>();

function now(change: Partial<State>): void {
  state = { ...state, ...change };
  for (const tell of watchers) tell();
}

/** Keep the pages of this version on the device. A newer version waits until a person, or the next start, takes it. */
export async function keepShell(): Promise<void> {
  if (!("serviceWorker" in navigator) || !window.isSecureContext) return;
  const kept = await navigator.serviceWorker.register("/worker.js", { scope: "/" }).catch(() => null);
  if (!kept) return;
  const found = () => {
    if (!kept.waiting || !kept.active) return; // the first of all waits for nobody
    waiting = kept.waiting;
    now({ isNewer: true });
  };
  if (kept.waiting && !isTouched) {
    waiting = kept.waiting;
    return takeNewer(); // nothing is typed yet
  }
  found();
  kept.addEventListener("updatefound", () => kept.installing?.addEventListener("statechange", found));
  document.addEventListener("visibilitychange", () => {
    if (!document.hidden) void kept.update().catch(() => undefined);
  });
  await navigator.serviceWorker.ready;
  now({ shell: "kept" });
}

/** Load the newer version; what waits to be sent is kept beyond the page. */
export function takeNewer(): void {
  navigator.serviceWorker.addEventListener("controllerchange", () => window.location.reload(), { once: true });
  waiting?.postMessage("take over");
}

/** What an answer says of where it comes from. */
export function heard(answer: Response): void {
  const kept = answer.headers.get(KEPT_AT);
  const keptAt_ms = kept === null ? null : Number(kept);
  if (keptAt_ms !== null) now({ keptAt_ms: Math.min(keptAt_ms, state.keptAt_ms ?? keptAt_ms) });
  else if (state.keptAt_ms !== null) now({ keptAt_ms: null });
}

/** Nothing that one person has read is shown to the next on this device. */
export function keptFor(person: string): void {
  if (localStorage.getItem(PERSON) === person) return;
  localStorage.setItem(PERSON, person);
  if ("caches" in window) void caches.delete(READ);
}

/** Keep an answer to a write as what reading would have given. */
export function keepAnswer(path: string, data: unknown): void {
  if (state.shell !== "kept") return;
  const headers = { "Content-Type": "application/json", [KEPT_AT]: String(Date.now()) };
  void caches.open(READ).then((read) => read.put(path, new Response(JSON.stringify(data), { headers })));
}

export const shell = {
  state: () => state,
  watch: (tell: () => void): (() => void) => {
    watchers.add(tell);
    return () => watchers.delete(tell);
  },
};
