/** How pages read: what is tried again, what a page keeps when reading it again fails, and what is taken from it. */
import { type Query, QueryCache, QueryClient } from "@tanstack/react-query";

import { ProblemError } from "./problem";

/** Asked once more it would say the same: it is not there, not theirs, or not of the kind. */
export const CANNOT_HELP = [403, 404, 409, 422];

const MORE_TRIES = 3;

function isRefused(error: unknown): boolean {
  return error instanceof ProblemError && CANNOT_HELP.includes(error.problem.status);
}

function isAskedAgain(tried: number, error: unknown): boolean {
  return !(error instanceof ProblemError && error.problem.status >= 400 && error.problem.status < 500) && tried < MORE_TRIES;
}

/** A page that has been read stays, with what is typed in it, when it cannot be read again; unless the answer is that it may not be seen. */
export function reader(): QueryClient {
  const cache = new QueryCache({
    onError: (error, query) => {
      if (isRefused(error)) query.setState({ data: undefined });
    },
  });
  return new QueryClient({ queryCache: cache, defaultOptions: { queries: { staleTime: 5_000, retry: isAskedAgain } } });
}

/** Whether something is shown that could not be read again. */
function isOld(query: Query): boolean {
  return query.isActive() && query.state.status === "error" && query.state.data !== undefined;
}

/** When the oldest was read of what is shown and could not be read again: milliseconds, or nothing. */
export function oldest_ms(client: QueryClient): number | null {
  const old = client.getQueryCache().getAll().filter(isOld);
  return old.length > 0 ? Math.min(...old.map((query) => query.state.dataUpdatedAt)) : null;
}

export function readOldAgain(client: QueryClient): Promise<void> {
  return client.refetchQueries({ predicate: isOld });
}
