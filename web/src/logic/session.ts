/** A session on the floor as the page moves it on by itself: repetitions joined to their set, a logged set, the next one. */
export interface SetState {
  kind: string;
  number: number;
  done: unknown;
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

/** The first set in order that is neither done nor left out: a warm-up is, once a work set of its line is done. */
export function nextSet(lines: LineState[]): Place | null {
  for (const line of lines) {
    if (line.ended) continue;
    const worked = line.sets.some((s) => s.kind === "work" && s.done);
    const next = line.sets.find((s) => !s.done && !(s.kind === "ramp" && worked));
    if (next) return { line_id: line.id, kind: next.kind, number: next.number };
  }
  return null;
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
export class ToldReps<R extends MeasuredRep> {
  private readonly told = new Map<number, R>();

  add(event: number, rep: R): void {
    this.told.set(event, rep);
  }

  after(event: number): R[] {
    for (const known of this.told.keys()) if (known <= event) this.told.delete(known);
    return [...this.told.values()];
  }
}

export interface Logged {
  line_id: number;
  kind: string;
  number: number;
  reps: number;
  load_kg?: number | null;
  rir?: number | null;
  trouble?: string;
  note?: string;
  left_reps?: number | null;
  right_reps?: number | null;
}

/** The session with one more set logged, until the server has answered: nothing is worked out, only moved on. */
export function withDone<S extends { lines: LineState[]; current: Place | null }>(session: S, logged: Logged): S {
  const done = {
    id: 0,
    load_kg: logged.load_kg ?? null,
    reps: logged.reps,
    rir: logged.rir ?? null,
    trouble: logged.trouble ?? "",
    note: logged.note ?? "",
    left_reps: logged.left_reps ?? null,
    right_reps: logged.right_reps ?? null,
  };
  const lines = session.lines.map((line) =>
    line.id !== logged.line_id
      ? line
      : { ...line, sets: line.sets.map((s) => (s.kind === logged.kind && s.number === logged.number && !s.done ? { ...s, done } : s)) },
  );
  return { ...session, lines, current: nextSet(lines) };
}
