import { useMemo, useSyncExternalStore } from "react";

import type { Floor } from "../../api/hooks";
import { waitingFor, waitingKey, watchOutbox } from "../../api/outbox";
import { stillStanding } from "../../logic/rotation";
import { movedOn } from "../../logic/session";

/** The session as stored, with what still waits to be sent put on top: sets, sets passed over, lifts stopped. */
export function useWithWaiting(floor: Floor | undefined): Floor | undefined {
  const under = floor ? `/api/floor/sessions/${floor.id}/` : "-";
  const key = useSyncExternalStore(watchOutbox, () => waitingKey(under));
  return useMemo(
    () =>
      floor && key
        ? stillStanding(waitingFor(under)).reduce<Floor>((so_far, w) => movedOn(so_far, w.url.slice(under.length), w.body, w.at_ms), floor)
        : floor,
    [floor, key, under],
  );
}

export const NO_ADVICE = "No advice without the network. The next set stands as planned.";

/** Whether the page is ahead of the server in a session: what was logged waits, and nothing is advised on it. */
export function useIsAhead(session: number): boolean {
  return useSyncExternalStore(watchOutbox, () => waitingKey(`/api/floor/sessions/${session}/`)) !== "";
}
