import createClient from "openapi-fetch";

import { holdAnswers } from "../logic/unchanged";
import { heard } from "../offline/shell";
import { door } from "./door";
import { PAGE, PAGE_ID, PLAN, plans, SEEN, whose } from "./plans";
import { ProblemError, UNREACHED, type Problem } from "./problem";
import type { components, paths } from "./schema";

export { problemOf, ProblemError, type Problem } from "./problem";

export type Schemas = components["schemas"];
let csrfToken = "";

/** Who is signed in, and the token that their changes are sent with. */
export function keepMe(me: Schemas["Me"]): void {
  csrfToken = me.csrf_token;
  if (signedIn !== me.person_id) answers.forget();
  signedIn = me.person_id;
}

export const api = createClient<paths>({ baseUrl: "/", credentials: "same-origin", fetch: sendSignedIn });

/** Send, and where the sign-in has ended meanwhile, once more when somebody has signed in again: what was typed stays where it is. */
async function sendSignedIn(request: Request): Promise<Response> {
  const again = request.clone();
  let answer = await sendAsSeen(request.method === "GET" ? request : request.clone());
  if (answer.status === 403 && request.method !== "GET" && (await tokenAnew())) answer = await sendAsSeen(request);
  if (answer.status !== 401 || !door.isOurs(new URL(request.url).pathname)) return answer;
  if (await tokenAnew()) answer = await sendAsSeen(again.clone()); // it was asked under a sign-in that another has followed
  if (answer.status !== 401) return answer;
  if (request.method === "GET" && !door.mayAsk()) return answer;
  await aMoment(); // or is about to follow: a new password is answered a moment after the old sign-in has ended
  if (await tokenAnew()) answer = await sendAsSeen(again.clone());
  if (answer.status !== 401) return answer;
  if (!(await door.ask())) return answer;
  return sendAsSeen(again);
}

const MOMENT_MS = 1500;

function aMoment(): Promise<void> {
  return new Promise((over) => setTimeout(over, MOMENT_MS));
}

/** Send a change with what this page has seen of the plan; where somebody else has changed it since, the person chooses. */
async function sendAsSeen(request: Request): Promise<Response> {
  const path = new URL(request.url).pathname;
  if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken);
  if (request.method === "GET") {
    const answer = await readUnlessHeld(request);
    heard(answer);
    plans.heard(path, answer.headers.get(PLAN));
    return answer;
  }
  const again = request.clone();
  const seen = plans.seenOn(window.location.pathname);
  request.headers.set(PAGE, PAGE_ID);
  if (seen !== null) request.headers.set(SEEN, String(seen));
  let answer = await fetch(request);
  if (answer.status === 409) {
    const problem = (await answer.clone().json()) as Problem;
    const newest = problem.newest ?? null;
    const choice = newest === null ? null : await whose.ask(problem);
    if (choice === "mine") {
      again.headers.set(PAGE, PAGE_ID);
      again.headers.set(SEEN, String(newest));
      answer = await fetch(again);
    } else if (choice === "theirs") {
      plans.heard(window.location.pathname, String(newest)); // told in words, and read anew now
    }
  }
  if (answer.ok) {
    plans.nothingTyped();
    plans.heard(path, answer.headers.get(PLAN));
  }
  return answer;
}

const MOST_HELD = 8_000_000; // characters, of all answers together
const answers = holdAnswers(MOST_HELD);

/** Read; where the server says that nothing has changed, give what it answered before. Nothing of it outlives the page. */
async function readUnlessHeld(request: Request): Promise<Response> {
  const mark = answers.markOf(request.url);
  const again = request.clone();
  if (mark !== null) request.headers.set("If-None-Match", mark);
  const answer = await fetch(request);
  if (answer.status === 304 && mark !== null) {
    const body = answers.held(request.url, mark);
    if (body === null) return fetch(again); // it made room for others meanwhile
    return ofText(body, answer);
  }
  const given = answer.headers.get("ETag");
  if (answer.status !== 200 || given === null || !answer.headers.get("Content-Type")?.startsWith("application/json")) return answer;
  const body = await answer.text();
  answers.hold(request.url, given, body);
  return ofText(body, answer);
}

function ofText(body: string, answer: Response): Response {
  const headers = new Headers(answer.headers);
  headers.set("Content-Type", "application/json");
  headers.delete("Content-Length"); // it was that of what travelled: nothing, or packed
  return new Response(body, { headers });
}

let signedIn: number | null = null;

/** Take the sign-in of another tab in this browser for this page too; false where it is somebody else's, or nobody's. */
export async function tokenAnew(): Promise<boolean> {
  const answer = await fetch("/api/me", { credentials: "same-origin", cache: "no-store" });
  if (!answer.ok) return false;
  const me = (await answer.json()) as Schemas["Me"];
  if (me.person_id === null || me.person_id !== signedIn) return false;
  csrfToken = me.csrf_token;
  return true;
}

/** Who is signed in here, by number; null for nobody. */
export function signedInAs(): number | null {
  return signedIn;
}

export function csrf(): string {
  return csrfToken;
}

/** Return the data of an answer or throw its problem. */
export async function need<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call;
  if (data !== undefined) return data;
  const said = error as Partial<Problem> | undefined;
  throw new ProblemError({ ...UNREACHED, title: "Something failed on the server.", accepted: "", ...said, status: response.status });
}
