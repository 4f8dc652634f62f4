import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import type { Rep } from "../../api/hooks";
import { rackHeaders, send } from "../../api/outbox";
import { serverTime } from "../../api/serverTime";
import { ToldReps, withRep } from "../../logic/session";

export type Room = Schemas["RoomOut"];
export type Person = Schemas["RoomPersonOut"];
export type Lanes = Schemas["LanesOut"];
export type LaneData = Schemas["LaneOut"];
export type Turn = Schemas["TurnOut"];
export type ClockData = Schemas["ClockOut"];
export type Answers = Schemas["AnswersIn"];

export function useRoom(id: number) {
  const client = useQueryClient();
  const room = useQuery({
    queryKey: keys.room(id),
    queryFn: () => need(api.GET("/api/room/{room_id}", { params: { path: { room_id: id } } })),
  });
  const write = useCallback(
    (path: string, body: unknown) => send<Room>(`/api/room/${id}/${path}`, body, (fresh) => client.setQueryData(keys.room(id), fresh)),
    [id, client],
  );
  useEvents(id, "now", "", ROOM_ONLY, () => void client.invalidateQueries({ queryKey: keys.room(id) }));
  return { room, write };
}

interface LiveRep extends Rep {
  session_id: number;
  received_ms: number;
  top_ms: number;
}

const ROOM_ONLY = ["changed", "finished", "room"];
const ALL = [...ROOM_ONLY, "sensor", "jump", "split", "heart", "velocity"];

/** Listen to a gathering from an event on; `tell` is called for some kinds, at most ten times a second, repetitions one by one. */
export function useEvents(
  id: number,
  after: number | "now" | null,
  link: string,
  kinds: string[],
  tell: () => void,
  onRep?: (rep: LiveRep, event: number) => void,
): boolean {
  const [connected, setConnected] = useState(true);
  const from = useRef(after);
  from.current ??= after;
  const ready = after !== null;
  useEffect(() => {
    if (!id || !ready) return;
    let waiting: ReturnType<typeof setTimeout> | null = null;
    const soon = () => {
      waiting ??= setTimeout(() => {
        waiting = null;
        tell();
      }, 100);
    };
    const source = new EventSource(`/api/room/${id}/events?after=${from.current}${link ? `&link=${encodeURIComponent(link)}` : ""}`);
    let first = true;
    source.onopen = () => {
      setConnected(true);
      if (!first) soon();
      first = false;
    };
    source.onerror = () => setConnected(false);
    source.addEventListener("rep", (e) => onRep?.(JSON.parse(String(e.data)) as LiveRep, Number(e.lastEventId)));
    for (const kind of kinds) source.addEventListener(kind, soon);
    return () => {
      source.close();
      if (waiting) clearTimeout(waiting);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the callbacks close over the client only
  }, [id, link, ready]);
  return connected;
}

/** The lanes with a repetition in the set of whoever is up. */
function onLane(lanes: Lanes, rep: LiveRep): Lanes {
  return { ...lanes, lanes: lanes.lanes.map((l) => (l.up?.id === rep.session_id ? { ...l, up: withRep(l.up, rep) } : l)) };
}

/** The racks of a gathering, kept up to date by its events; all of them, or one; signed in, or over a rack's link. */
export function useLanes(id: number, rack: number | null, link = "") {
  const client = useQueryClient();
  const key = keys.lanes(id, rack);
  const told = useRef(new ToldReps<LiveRep>());
  const lanes = useQuery({
    queryKey: key,
    enabled: id > 0,
    queryFn: async () => {
      const fresh = await (rack === null
        ? need(api.GET("/api/room/{room_id}/racks", { params: { path: { room_id: id } } }))
        : need(api.GET("/api/room/{room_id}/racks/{rack}", { params: { path: { room_id: id, rack } }, headers: rackHeaders() })));
      serverTime.learn(fresh.now_ms);
      return told.current.after(fresh.last_event_id).reduce(onLane, fresh);
    },
    staleTime: Infinity,
  });
  const refresh = () => void client.invalidateQueries({ queryKey: key });
  const connected = useEvents(id, lanes.data?.last_event_id ?? null, link, ALL, refresh, (rep, event) => {
    told.current.add(event, rep);
    client.setQueryData<Lanes>(key, (old) => old && onLane(old, rep));
    requestAnimationFrame(() =>
      performance.mark("rep-shown", { detail: { shown_ms: Date.now(), received_ms: rep.received_ms, top_ms: rep.top_ms } }),
    );
  });
  const write = useCallback(
    (url: string, body: unknown) => send<unknown>(url, body, () => client.invalidateQueries({ queryKey: keys.lanes(id) })),
    [id, client],
  );
  return { lanes, connected, write };
}
