import { useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";

import { problemOf, type Problem } from "./client";
import { stale } from "./keys";

interface How<Out> {
  /** What is read again once it is done; everything that hangs on a plan, if nothing is said. */
  after?: (client: QueryClient, out: Out) => unknown;
  /** Told of the problem, and of none when it went well, where several things of a screen share one place for it. */
  say?: (problem: Problem | null) => void;
}

/** One thing a person does. `problem` is what went wrong with the last try, until the next one, or until `clear`. */
export function useAction<In, Out>(act: (input: In) => Promise<Out>, { after = (c) => stale.afterPlan(c), say }: How<Out> = {}) {
  const client = useQueryClient();
  const { mutate, reset, error, isPending, isSuccess, variables } = useMutation({
    mutationFn: act,
    onSuccess: (out: Out) => {
      say?.(null);
      return after(client, out);
    },
    onError: (e: unknown) => say?.(problemOf(e)),
  });
  return {
    run: (input: In, done?: (out: Out) => void) => mutate(input, { onSuccess: done }),
    input: variables,
    problem: error ? problemOf(error) : null,
    isPending,
    isDone: isSuccess && !isPending,
    clear: reset,
  };
}

/** The first of several things that went wrong, to be said in one place. */
export function firstProblem(...actions: { problem: Problem | null }[]): Problem | null {
  return actions.find((a) => a.problem)?.problem ?? null;
}
