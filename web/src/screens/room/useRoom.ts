import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";

import { api, need, type Schemas } from "../../api/client";
import { keep, keys } from "../../api/keys";
import type { Floor, Rep } from "../../api/hooks";
import { rackHeaders, send, waitingFor, waitingKey, watchOutbox } from "../../api/outbox";
import { serverTime } from "../../api/serverTime";
import { advanced, moves, type Write } from "../../logic/rotation";
import { readHeard, ToldReps, withRep } from "../../logic/session";

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
    (path: string, body: unknown) => send<Room>(`/api/room/${id}/${path}`, body, (fresh) => keep(client, keys.room(id), fresh)),
    [id, client],
  );
  useEvents(id, "now", "", ROOM_ONLY, () => void client.invalidateQueries({ queryKey: keys.room(id) }));
  return { room, write };
}

interface LiveRep extends Rep {
  event_id: number;
  session_id: number;
  received_ms: number;
  top_ms: number;
}

const ROOM_ONLY = ["changed", "finished", "room"];
const ALL = [...ROOM_ONLY, "sensor", "jump", "split", "heart", "velocity"];

/** Listen to a gathering from where an answer left it; `tell` is called for some kinds, at most ten times a second, repetitions one by one. */
export function useEvents(
  id: number,
  after: string | null,
  link: string,
  kinds: string[],
  tell: () => void,
  onRep?: (rep: LiveRep) => void,
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
    const source = new EventSource(`/api/room/${id}/events?after=${from.current ?? ""}`); // over a rack's link its cookie goes with it
    let first = true;
    source.onopen = () => {
      setConnected(true);
      if (!first) soon();
      first = false;
    };
    source.onerror = () => setConnected(false);
    source.addEventListener("rep", (e) => onRep?.(JSON.parse(String(e.data)) as LiveRep));
    for (const kind of kinds) source.addEventListener(kind, soon);
    return () => {
      source.close();
      if (waiting) clearTimeout(waiting);
    };
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- the callbacks close over the client only
  }, [id, link, ready]);
  return connected;
}

/** The lanes with a repetition in the set of whoever is up. */
function onLane(lanes: Lanes, rep: LiveRep): Lanes {
  return { ...lanes, lanes: lanes.lanes.map((l) => (l.up?.id === rep.session_id ? { ...l, up: withRep(l.up, rep) } : l)) };
}

/** What is said of a sensor at the racks that has fallen silent, by its id; asked again every ten seconds. */
export function useSilent(id: number, isAsked: boolean): Map<number, string> {
  const silent = useQuery({
    queryKey: keys.silent(id),
    enabled: isAsked,
    refetchInterval: 10_000,
    queryFn: () => need(api.GET("/api/room/{room_id}/silent", { params: { path: { room_id: id } }, headers: rackHeaders() })),
  });
  return new Map(silent.data?.map((s) => [s.sensor_id, s.words]));
}

/** The racks of a gathering, kept up to date by its events; all of them, or one; signed in, or over a rack's link. */
export function useLanes(id: number, rack: number | null, link = "") {
  const client = useQueryClient();
  const key = keys.lanes(id, rack);
  const told = useRef(new ToldReps<LiveRep>());
  const [read_ms, setRead] = useState(0);
  const lanes = useQuery({
    queryKey: key,
    enabled: id > 0,
    queryFn: async () => {
      const began_ms = performance.now();
      const fresh = await (rack === null
        ? need(api.GET("/api/room/{room_id}/racks", { params: { path: { room_id: id } } }))
        : need(api.GET("/api/room/{room_id}/racks/{rack}", { params: { path: { room_id: id, rack } }, headers: rackHeaders() })));
      serverTime.learn(fresh.now_ms);
      setRead(began_ms);
      return told.current.after(readHeard(fresh.heard)).reduce(onLane, fresh);
    },
    staleTime: Infinity,
  });
  const refresh = () => void client.invalidateQueries({ queryKey: key });
  const connected = useEvents(id, lanes.data?.heard ?? null, link, ALL, refresh, (rep) => {
    told.current.add(rep);
    client.setQueryData<Lanes>(key, (old) => old && onLane(old, rep));
    requestAnimationFrame(() =>
      performance.mark("rep-shown", { detail: { shown_ms: Date.now(), received_ms: rep.received_ms, top_ms: rep.top_ms } }),
    );
  });
  const { taken, shown } = useMovedOn(id, rack, lanes, read_ms, connected);
  const write = useCallback(
    (url: string, body: unknown) => {
      const at_ms = serverTime.now();
      return send<unknown>(url, body, () => {
        taken({ url, body, at_ms });
        return client.invalidateQueries({ queryKey: keys.lanes(id) });
      });
    },
    [id, client, taken],
  );
  return { lanes, shown, connected, write };
}

const SESSIONS = "/api/floor/sessions/";
const QUIET_MS = 1500;
const AT_MOST_EVERY_MS = 10_000;

/** The racks with what waits on this device taken in: the page goes along the rotation that it read while the server was there. */
function useMovedOn(
  id: number,
  rack: number | null,
  lanes: { data?: Lanes; dataUpdatedAt: number },
  lanesRead_ms: number,
  connected: boolean,
) {
  const [since, setSince] = useState<(Write & { taken_ms: number })[]>([]); // taken by the server after the rotation was read
  const read_ms = useRef(Number.NEGATIVE_INFINITY);
  const { data: ahead, refetch } = useQuery({
    queryKey: keys.ahead(id, rack),
    enabled: lanes.data !== undefined,
    staleTime: Infinity,
    queryFn: async () => {
      const began_ms = performance.now();
      read_ms.current = began_ms;
      const fresh = await (rack === null
        ? need(api.GET("/api/room/{room_id}/ahead", { params: { path: { room_id: id } } }))
        : need(api.GET("/api/room/{room_id}/racks/{rack}/ahead", { params: { path: { room_id: id, rack } }, headers: rackHeaders() })));
      setSince((all) => all.filter((w) => w.taken_ms >= began_ms));
      return fresh;
    },
  });
  useEffect(() => {
    if (!connected || lanes.dataUpdatedAt === 0) return;
    const due_ms = Math.max(QUIET_MS, read_ms.current + AT_MOST_EVERY_MS - performance.now());
    const timer = setTimeout(() => void refetch(), due_ms);
    return () => clearTimeout(timer);
  }, [connected, lanes.dataUpdatedAt, refetch]);
  const waiting = useSyncExternalStore(watchOutbox, () => waitingKey(SESSIONS));
  const taken = useCallback((write: Write) => {
    if (moves(write)) setSince((all) => [...all, { ...write, taken_ms: performance.now() }]);
  }, []);
  const shown = useMemo(() => {
    const writes = waiting ? waitingFor(SESSIONS).filter(moves) : [];
    const unread = [...since.filter((w) => w.taken_ms > lanesRead_ms), ...writes];
    if (!lanes.data || !ahead || unread.length === 0) return lanes.data;
    return { ...lanes.data, lanes: advanced<Floor, Turn, LaneData>(lanes.data.lanes, ahead, [...since, ...writes], unread) };
  }, [lanes.data, lanesRead_ms, ahead, waiting, since]);
  return { taken, shown };
}
