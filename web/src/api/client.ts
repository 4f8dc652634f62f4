import createClient from "openapi-fetch";

import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** What the server said was wrong: one shape for every failure. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }
}

let csrfToken = "";

export function keepCsrfToken(token: string): void {
  csrfToken = token;
}

export const api = createClient<paths>({ baseUrl: "/", credentials: "same-origin" });

api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken);
    return request;
  },
});

export function csrf(): string {
  return csrfToken;
}

const OFFLINE: Problem = {
  title: "The server cannot be reached.",
  status: 0,
  where: "",
  accepted: "What you typed is still here; try again in a moment.",
  position: null,
  suggestion: "",
  stored_id: null,
  stored: "",
};

export function problemOf(error: unknown): Problem {
  if (error instanceof ProblemError) return error.problem;
  return OFFLINE;
}

/** Return the data of an answer or throw its problem. */
export async function need<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call;
  if (data !== undefined) return data;
  const said = error as Partial<Problem> | undefined;
  throw new ProblemError({ ...OFFLINE, title: "Something failed on the server.", accepted: "", ...said, status: response.status });
}
