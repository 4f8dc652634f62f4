import { useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";

import { problemOf } from "./client";
import { stale } from "./keys";

/** One thing a person does. `problem` is what went wrong with the last try, until the next one, or until `clear`. */
export function useAction<In, Out>(
  act: (input: In) => Promise<Out>,
  after: (client: QueryClient, out: Out) => unknown = (client) => stale.afterPlan(client),
) {
  const client = useQueryClient();
  const { mutate, reset, error, isPending, isSuccess } = useMutation({ mutationFn: act, onSuccess: (out: Out) => after(client, out) });
  return {
    run: (input: In, done?: (out: Out) => void) => mutate(input, { onSuccess: done }),
    problem: error ? problemOf(error) : null,
    isPending,
    isDone: isSuccess && !isPending,
    clear: reset,
  };
}
