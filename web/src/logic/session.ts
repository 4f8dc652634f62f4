/** A session on the floor as the page moves it on by itself: repetitions joined to their set, a logged set, the next one. */
export interface SetState {
  kind: string;
  number: number;
  done: unknown;
  over?: boolean;
}

export interface LineState {
  id: number;
  ended: boolean;
  sets: SetState[];
}

export interface Place {
  line_id: number;
  kind: string;
  number: number;
}

/** A step: the sets that one tap logs, in the order in which they are done. */
export interface StepState {
  sets: Place[];
  is_one_bar: boolean;
}

/**
 * The first set, in the order of the steps, that is neither done nor over nor of a line that was ended; a warm-up set is left out once a
 * work set of its line is done.
 */
export function nextSet(steps: StepState[], lines: LineState[]): Place | null {
  const byId = new Map(lines.map((l) => [l.id, l]));
  for (const step of steps) {
    for (const place of step.sets) {
      const line = byId.get(place.line_id);
      const set = line?.sets.find((s) => s.kind === place.kind && s.number === place.number);
      if (!line || !set || line.ended || set.done || set.over) continue;
      if (place.kind === "ramp" && line.sets.some((s) => s.kind === "work" && s.done)) continue;
      return { line_id: place.line_id, kind: place.kind, number: place.number };
    }
  }
  return null;
}

/** The step that holds a set. */
export function stepWith<S extends StepState>(steps: S[], place: Place | null): S | undefined {
  return place
    ? steps.find((step) => step.sets.some((s) => s.line_id === place.line_id && s.kind === place.kind && s.number === place.number))
    : undefined;
}

interface Measured extends SetState {
  measured: { id: number }[];
}
interface MeasuredRep {
  id: number;
  line_id: number;
  kind: string;
  set_number: number;
}

/** Put a repetition into its set, unless it is there already: events may come twice. */
export function withRep<S extends { lines: { id: number; sets: Measured[] }[] }>(session: S, rep: MeasuredRep): S {
  const into = (s: Measured): Measured =>
    s.kind === rep.kind && s.number === rep.set_number && s.measured.every((m) => m.id !== rep.id)
      ? { ...s, measured: [...s.measured, rep] }
      : s;
  return { ...session, lines: session.lines.map((line) => (line.id === rep.line_id ? { ...line, sets: line.sets.map(into) } : line)) };
}

/**
 * Repetitions as they are told, by the number of their event. A reading that was under way when one came answers without it:
 * `after` gives those told since what a reading knows, to be put in again, and forgets the older ones.
 */
export class ToldReps<R extends { event_id: number; session_id: number }> {
  private readonly told = new Map<number, R>();

  add(rep: R): void {
    this.told.set(rep.event_id, rep);
  }

  /** Those that an answer does not hold yet; it says of each session which event is the newest that it knows. */
  after(known: (session: number) => number): R[] {
    for (const [event, rep] of this.told) if (event <= known(rep.session_id)) this.told.delete(event);
    return [...this.told.values()];
  }
}

/** The newest event of each session, as the server says how far an answer or a stream has come: `session:event`, comma between. */
export function readHeard(heard: string): (session: number) => number {
  const newest = new Map(heard.split(",").map((pair) => pair.split(":").map(Number) as [number, number]));
  return (session) => newest.get(session) ?? 0;
}

/** Of what is shown and what has just come, the one that knows more: a reading asked before a set was stored may answer after it. */
export function newerOf<S extends { last_event_id: number }>(shown: S | undefined, come: S): S {
  return shown && shown.last_event_id > come.last_event_id ? shown : come;
}

export interface Logged {
  line_id: number;
  kind: string;
  number: number;
  reps: number;
  load_kg?: number | null;
  load?: number | null;
  rir?: number | null;
  trouble?: string;
  note?: string;
  left_reps?: number | null;
  right_reps?: number | null;
  parts?: number[];
  measures?: Record<string, number>;
  form?: string;
  pain_area?: string;
  carries_on?: boolean;
}

interface Planned extends SetState {
  reps: number | null;
  load_kg: number | null;
  load_words?: string;
}

/** The lines that a pain ends, as the server has said they would: the one it was felt in, and those that load the place. */
export function endedByPain(areas: { key: string; line_ids: number[] }[], logged: Logged): number[] {
  if (logged.trouble !== "pain" || logged.carries_on) return [];
  return [logged.line_id, ...(areas.find((a) => a.key === logged.pain_area)?.line_ids ?? [])];
}

/** The session with one more step logged, until the server has answered: nothing is worked out, only moved on. */
export function withDone<
  S extends {
    steps: StepState[];
    lines: (Omit<LineState, "sets"> & { sets: Planned[] })[];
    current: Place | null;
    pain_areas?: { key: string; line_ids: number[] }[];
    last_done_at?: string | null;
  },
>(session: S, logged: Logged): S {
  const step = stepWith(session.steps, logged);
  const together = step && step.sets.length > 1 ? step.sets : [logged];
  const at = (line: number, s: SetState) => together.findIndex((p) => p.line_id === line && p.kind === s.kind && p.number === s.number);
  const is = (line: number, s: SetState) => line === logged.line_id && s.kind === logged.kind && s.number === logged.number;
  const done = (own: boolean, s: Planned, part: number | undefined) => ({
    id: 0,
    load_kg: own || step?.is_one_bar ? (logged.load ?? logged.load_kg ?? null) : s.load_kg,
    load_words: own || step?.is_one_bar ? String(logged.load ?? logged.load_kg ?? "") : (s.load_words ?? ""),
    reps: part ?? (own ? logged.reps : (s.reps ?? 0)),
    rir: own ? (logged.rir ?? null) : null,
    trouble: own ? (logged.trouble ?? "") : "",
    note: own ? (logged.note ?? "") : "",
    left_reps: own ? (logged.left_reps ?? null) : null,
    right_reps: own ? (logged.right_reps ?? null) : null,
    results: [],
    result: "",
    measured: "",
    has_gap: false,
    jumps: [],
    form: own ? (logged.form ?? "") : "",
  });
  const away = endedByPain(session.pain_areas ?? [], logged);
  const lines = session.lines.map((line) => ({
    ...line,
    ...(line.id === logged.line_id && logged.kind === "work" ? { advice: null } : {}), // what was said before this set is over
    ended: line.ended || away.includes(line.id),
    sets: line.sets.map((s) => {
      const place = at(line.id, s);
      return place < 0 || s.done ? s : { ...s, done: done(is(line.id, s), s, logged.parts?.[place]) };
    }),
  }));
  const newest = "just_done" in session ? { just_done: null } : {}; // what was done before this is no longer the last
  return { ...session, ...newest, lines, current: nextSet(session.steps, lines) };
}

const OF_A_LINE = /^lines\/(\d+)\/(skip|stop)$/;

/** The session with one more write taken in, until the server has answered; what only the server can work out changes nothing. */
export function movedOn<S extends Parameters<typeof withDone>[0]>(session: S, path: string, body: unknown, at_ms: number): S {
  if (path === "sets") return { ...withDone(session, body as Logged), last_done_at: new Date(at_ms).toISOString() };
  const found = OF_A_LINE.exec(path);
  if (!found) return session;
  const skipped = body as { kind?: string; number?: number };
  const lines = session.lines.map((line) => {
    if (line.id !== Number(found[1])) return line;
    if (found[2] === "stop") return { ...line, ended: true };
    const is = (s: SetState) => s.kind === skipped.kind && s.number === skipped.number && !s.done;
    return { ...line, sets: line.sets.map((s) => (is(s) ? { ...s, over: true, skipped: true } : s)) };
  });
  return { ...session, lines, current: nextSet(session.steps, lines) };
}
