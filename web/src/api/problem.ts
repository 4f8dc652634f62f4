import type { components } from "./schema";

export type Problem = components["schemas"]["Problem"];

/** What the server said was wrong: one shape for every failure. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }
}

export const UNREACHED: Problem = {
  title: "The server cannot be reached.",
  status: 0,
  where: "",
  accepted: "What you typed is still here; try again in a moment.",
  position: null,
  suggestion: "",
  stored_id: null,
  stored: "",
  newest: null,
};

export function problemOf(error: unknown): Problem {
  if (error instanceof ProblemError) return error.problem;
  return UNREACHED;
}
