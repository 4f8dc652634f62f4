import { useQuery } from "@tanstack/react-query";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";

type Shared = Schemas["SharedSession"];

const OPEN_MS = 3_000; // while a room is open
const SHUT_MS = 15_000;

/** The sessions of the day with the rooms opened and who has come meanwhile: asked every few seconds while a room is open. */
export function useArrivals(sessions: Shared[]): Shared[] {
  const arrivals = useQuery({
    queryKey: keys.arrivals,
    enabled: sessions.length > 0,
    refetchInterval: (query) => (query.state.data && Object.keys(query.state.data.rooms).length > 0 ? OPEN_MS : SHUT_MS),
    queryFn: () => need(api.GET("/api/today/arrivals")),
  });
  const fresh = new Map(arrivals.data?.people.map((p) => [p.athlete_id, p]));
  const rooms: Record<string, number | undefined> = arrivals.data?.rooms ?? {};
  return sessions.map((s) => ({
    ...s,
    room_id: rooms[s.squad_id] ?? s.room_id,
    people: s.people.map((p) => {
      const now = fresh.get(p.athlete_id);
      const isSame = now !== undefined && (now.key === "" || now.key === p.key);
      return isSame ? { ...p, state: now.state, plan: now.plan, session_id: now.session_id ?? p.session_id } : p;
    }),
  }));
}
