import { useMemo, useSyncExternalStore } from "react";

import type { Floor } from "../../api/hooks";
import { waitingFor, waitingKey, watchOutbox } from "../../api/outbox";
import { withDone, type Logged } from "../../logic/session";

/** The session as stored, with what still waits to be sent put on top. */
export function useWithWaiting(floor: Floor | undefined): Floor | undefined {
  const url = floor ? `/api/floor/sessions/${floor.id}/sets` : "";
  const key = useSyncExternalStore(watchOutbox, () => waitingKey(url));
  return useMemo(
    () => (floor && key ? waitingFor(url).reduce<Floor>((so_far, body) => withDone(so_far, body as Logged), floor) : floor),
    [floor, key, url],
  );
}
