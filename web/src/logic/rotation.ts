/** A rack as the page moves it on by itself while nothing is heard of the server: along the rotation that the server worked out. */
import { movedOn, type Place } from "./session";

type Session = Parameters<typeof movedOn>[0] & { id: number };

interface Turn {
  athlete_id: number;
  session_id: number;
  is_up: boolean;
  is_over: boolean;
  last_done_at: string | null;
}

interface AheadTurn<T> extends Place {
  turn: T;
}

interface LaneState<S, T> {
  rack: number;
  up: S | null;
  turns: T[];
}

export interface Ahead<S, T> {
  lanes: { rack: number; turns: AheadTurn<T>[] }[];
  floors: S[];
}

export interface Write {
  url: string;
  body: unknown;
  /** when it was typed, by the server's clock */
  at_ms: number;
}

const OF_SESSION = /^\/api\/floor\/sessions\/(\d+)\/(.+)$/;

/** Whether a write is one that moves a rotation on, or back. */
export function moves(write: Write): boolean {
  const found = OF_SESSION.exec(write.url);
  return found !== null && /^(undo|sets|lines\/\d+\/(skip|stop))$/.test(found[2] ?? "");
}

/** What of the waiting writes still stands: an undo takes away the newest of its session that came before it. */
export function stillStanding<W extends Write>(writes: W[]): W[] {
  return writes.reduce<W[]>((left, write) => {
    const found = OF_SESSION.exec(write.url);
    if (found?.[2] !== "undo") return [...left, write];
    const mine = left.filter((w) => moves(w) && OF_SESSION.exec(w.url)?.[1] === found[1]);
    return left.filter((w) => w !== mine.at(-1));
  }, []);
}

function isOpen(session: Session, place: Place): boolean {
  const line = session.lines.find((l) => l.id === place.line_id);
  const set = line?.sets.find((s) => s.kind === place.kind && s.number === place.number);
  return line !== undefined && set !== undefined && !line.ended && !set.done && !set.over;
}

const sessionOf = (write: Write): number => Number(OF_SESSION.exec(write.url)?.[1]);

/**
 * The lanes with what was typed taken in: each session moved on, the next of the rotation up, everybody behind in their order. Nothing is
 * worked out: who follows whom, loads and plates are the server's, from when it was last heard. `writes` are all since the rotation was
 * read, `unread` those of them that the lanes do not hold yet: the lanes of the others stand as the server said them.
 */
export function advanced<S extends Session, T extends Turn, L extends LaneState<S, T>>(
  lanes: L[],
  ahead: Ahead<S, T>,
  writes: Write[],
  unread: Write[],
): L[] {
  const moved = new Set(unread.map(sessionOf));
  const sessions = new Map<number, S>(ahead.floors.map((s) => [s.id, s]));
  for (const lane of lanes) if (lane.up) sessions.set(lane.up.id, lane.up);
  for (const write of stillStanding(writes)) {
    const session = sessions.get(sessionOf(write));
    if (session) sessions.set(session.id, movedOn(session, OF_SESSION.exec(write.url)?.[2] ?? "", write.body, write.at_ms));
  }
  return lanes.map((lane) => {
    if (!lane.turns.some((t) => moved.has(t.session_id))) return lane;
    const coming = (ahead.lanes.find((l) => l.rack === lane.rack)?.turns ?? []).filter((t) => {
      const session = sessions.get(t.turn.session_id);
      return session !== undefined && isOpen(session, t);
    });
    const first = new Map<number, T>();
    for (const { turn } of coming) {
      const last_done_at = sessions.get(turn.session_id)?.last_done_at ?? turn.last_done_at; // they rest from here
      if (!first.has(turn.athlete_id)) first.set(turn.athlete_id, { ...turn, last_done_at, is_up: first.size === 0 });
    }
    const over = lane.turns.filter((t) => !first.has(t.athlete_id)).map((t) => ({ ...t, is_up: false, is_over: true }));
    const up = coming[0];
    const session = up && sessions.get(up.turn.session_id);
    const current = up ? { line_id: up.line_id, kind: up.kind, number: up.number } : null;
    return { ...lane, turns: [...first.values(), ...over], up: session ? { ...session, current } : null };
  });
}
