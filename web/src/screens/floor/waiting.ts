import { useMemo, useSyncExternalStore } from "react";

import type { Schemas } from "../../api/client";
import type { Floor } from "../../api/hooks";
import { waitingFor, waitingKey, watchOutbox } from "../../api/outbox";

type LogSet = Schemas["LogSet"];

/** A session with one more set logged, as the page shows it until the server has answered: nothing is worked out, only moved on. */
export function withDone(floor: Floor, body: LogSet): Floor {
  const lines = floor.lines.map((line) =>
    line.id !== body.line_id
      ? line
      : {
          ...line,
          sets: line.sets.map((s) =>
            s.kind === body.kind && s.number === body.number && !s.done
              ? {
                  ...s,
                  done: { id: 0, load_kg: body.load_kg ?? null, reps: body.reps, rir: body.rir ?? null, trouble: body.trouble ?? "", note: body.note ?? "", left_reps: body.left_reps ?? null, right_reps: body.right_reps ?? null },
                }
              : s,
          ),
        },
  );
  for (const line of lines) {
    if (line.ended) continue;
    const worked = line.sets.some((s) => s.kind === "work" && s.done);
    const next = line.sets.find((s) => !s.done && !(s.kind === "ramp" && worked));
    if (next) return { ...floor, lines, current: { line_id: line.id, kind: next.kind, number: next.number } };
  }
  return { ...floor, lines, current: null };
}

/** The session as stored, with what still waits to be sent put on top. */
export function useWithWaiting(floor: Floor | undefined): Floor | undefined {
  const url = floor ? `/api/floor/sessions/${floor.id}/sets` : "";
  const key = useSyncExternalStore(watchOutbox, () => waitingKey(url));
  return useMemo(
    () => (floor && key ? waitingFor(url).reduce<Floor>((so_far, body) => withDone(so_far, body as LogSet), floor) : floor),
    [floor, key, url],
  );
}
