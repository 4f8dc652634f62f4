import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import { api, need } from "../../api/client";
import { keys } from "../../api/keys";
import type { Floor, Rep } from "../../api/hooks";
import { send } from "../../api/outbox";
import { keepAnswer } from "../../offline/shell";
import { newerOf, ToldReps, withRep } from "../../logic/session";

interface LiveRep extends Rep {
  event_id: number;
  session_id: number;
  received_ms: number;
  top_ms: number;
}
interface Sensor {
  line_id: number;
  kind: string;
  set_number: number;
  state: "on" | "off" | "fault";
  message: string;
}

/** One session on the floor: what is stored, kept up to date by the server's events, and the writes. */
export function useFloor(id: number) {
  const client = useQueryClient();
  const key = keys.floor(id);
  const told = useRef(new ToldReps<LiveRep>());
  const whole = useCallback(
    (fresh: Floor) =>
      newerOf(client.getQueryData<Floor>(keys.floor(id)), told.current.after(() => fresh.last_event_id).reduce(withRep, fresh)),
    [client, id],
  );
  const floor = useQuery({
    queryKey: key,
    queryFn: async () => whole(await need(api.GET("/api/floor/sessions/{session_id}", { params: { path: { session_id: id } } }))),
    staleTime: Infinity,
  });
  const [connected, setConnected] = useState(true);
  const [sensor, setSensor] = useState<Sensor | null>(null);
  const loaded = floor.data !== undefined;

  useEffect(() => {
    if (!loaded) return;
    const known = client.getQueryData<Floor>(keys.floor(id));
    const source = new EventSource(`/api/floor/sessions/${id}/events?after=${id}:${known?.last_event_id ?? 0}`);
    source.onopen = () => setConnected(true);
    source.onerror = () => setConnected(false);
    source.addEventListener("rep", (e) => {
      const rep = JSON.parse(String(e.data)) as LiveRep;
      told.current.add(rep);
      client.setQueryData<Floor>(keys.floor(id), (old) => old && withRep(old, rep));
      requestAnimationFrame(() =>
        performance.mark("rep-shown", {
          detail: { shown_ms: Date.now(), received_ms: rep.received_ms, top_ms: rep.top_ms },
        }),
      );
    });
    source.addEventListener("sensor", (e) => setSensor(JSON.parse(String(e.data)) as Sensor));
    let waiting: ReturnType<typeof setTimeout> | null = null; // the gates of a run come within moments: read once
    const soon = () => {
      waiting ??= setTimeout(() => {
        waiting = null;
        void client.invalidateQueries({ queryKey: keys.floor(id) });
      }, 100);
    };
    for (const kind of ["changed", "finished", "jump", "split", "velocity"]) source.addEventListener(kind, soon);
    return () => {
      source.close();
      if (waiting) clearTimeout(waiting);
    };
  }, [id, loaded, client]);

  const write = useCallback(
    (path: string, body: unknown) =>
      send<Floor>(`/api/floor/sessions/${id}/${path}`, body, (fresh) => {
        keepAnswer(`/api/floor/sessions/${id}`, fresh);
        client.setQueryData(keys.floor(id), whole(fresh));
      }),
    [id, client, whole],
  );
  return { floor, connected, sensor, write };
}

export type Live = ReturnType<typeof useFloor>;
