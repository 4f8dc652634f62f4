/** What every reading is kept under, and what a change makes stale: said here once, used everywhere. */
import type { QueryClient, QueryKey } from "@tanstack/react-query";

export const keys = {
  me: ["me"],
  today: ["today"],
  arrivals: ["arrivals"],
  names: ["names"],
  athletes: ["athletes"],
  athletesFound: (q: string) => ["athletes", "found", q],
  athlete: (id: number) => ["athlete", id],
  record: (id: number) => ["record", id],
  chosen: (id: number) => ["chosen", id],
  standing: (id: number, limited: string) => ["standing", id, limited],
  season: (id: number | null) => ["season", id],
  bench: (id: number, body: unknown) => ["bench", id, body],
  contest: (id: number, competition: number | null) => ["contest", id, competition],
  calendar: (id: number) => ["calendar", id],
  month: (whose: string, id: number, month: string) => ["month", whose, id, month],
  allSquads: (month: string) => ["month", "all", month],
  bests: (whose: string, id: number, group: string, weeks: number) => ["learning", "bests", whose, id, group, weeks],
  report: (whose: string, id: number, of: string, weeks: number) => ["learning", "report", whose, id, of, weeks],
  progress: (whose: string, id: number, group: string, first: string, last: string) => [
    "learning",
    "progress",
    whose,
    id,
    group,
    first,
    last,
  ],
  beside: (whose: string, id: number, group: string, first: string, second: string, day: string) => [
    "learning",
    "beside",
    whose,
    id,
    group,
    first,
    second,
    day,
  ],
  phases: (id: number) => ["learning", "phases", id],
  learning: (whose: string, id: number, group: string, weeks: number) => ["learning", whose, id, group, weeks],
  day: (day: string, squad: number | null) => ["learning", "day", day, squad],
  after: (entry: number) => ["after", entry],
  findings: (whose: string, id: number) => ["findings", whose, id],
  history: (whose: string) => ["history", whose],
  note: (text: string, day: string) => ["note", text, day],
  arrangements: ["arrangements"],
  week: (id: number, start?: string) => ["week", id, start ?? "now"],
  weeks: (id: number) => ["week", id],
  weekArrangements: (id: number) => ["week-arrangements", id],
  goals: ["goals"],
  sheet: (id: number, day: string, key: string) => ["sheet", id, day, key],
  methods: (where: unknown) => ["methods", where],
  squadSeason: (id: number) => ["squad-season", id],
  squadWeek: (id: number, start?: string) => ["squad-week", id, start ?? "now"],
  squadTable: (id: number, day: string, key: string, group: string) => ["squad-table", id, day, key, group],
  rackSheet: (id: number, day: string, key: string, racks: number | null) => ["squad-table", id, day, key, "racks", racks],
  lines: (ask: unknown) => ["lines", ask],
  groupings: ["groupings"],
  templates: ["templates"],
  library: ["library"],
  resultExercises: ["library", "results"],
  exercise: (id: string, athlete: number | null) => ["exercise", id, athlete],
  settings: ["settings"],
  shorthand: ["shorthand"],
  tests: (id: number, exercise: string, hasPain: boolean) => ["tests", id, exercise, hasPain],
  testDay: (squad: number, lifts: string) => ["test-day", squad, lifts],
  test: (id: number) => ["test", id],
  trials: (athlete: number) => ["trials", athlete],
  trial: (id: number) => ["trial", id],
  effort: (athlete: number) => ["effort", athlete],
  floor: (session: number) => ["floor", session],
  review: (session: number) => ["review", session],
  roomEntries: ["room-entries"],
  room: (id: number) => ["room", id],
  lanes: (id: number, rack?: number | null) => (rack === undefined ? ["lanes", id] : ["lanes", id, rack]),
  ahead: (room: number, rack: number | null) => ["ahead", room, rack],
  silent: (id: number) => ["silent", id],
  untilMiss: (id: number, day: string, key: string, line: string, asked: unknown) => ["until-miss", id, day, key, line, asked],
  measured: (trial: number) => ["measured", trial],
  swaps: (session: number, line: number) => ["swaps", session, line],
  joining: (room: number, rack: number) => ["joining", room, rack],
  board: (room: number) => ["board", room],
  clockForms: ["clock-forms"],
  sensors: ["sensors"],
  upkeep: ["upkeep"],
  find: (text: string, athlete: number | null) => ["find", text, athlete],
  squads: ["squads"],
  people: ["people"],
  tables: ["tables"],
  imports: ["imports"],
  squadMoves: (id: number) => ["squad-moves", id],
  merge: (id: number, other: number) => ["merge", id, other],
  importColumns: ["import-columns"],
  backups: ["backups"],
  backup: (name: string) => ["backup", name],
  links: ["links"],
  signIns: ["sign-ins"],
  welcome: (token: string) => ["welcome", token],
  mine: ["mine"],
  ready: (token: string) => ["ready", token],
} satisfies Record<string, QueryKey | ((...asked: never[]) => QueryKey)>;

type Filter = { predicate: (q: { queryKey: QueryKey }) => boolean };
const begins = (names: string[]): Filter => ({ predicate: (q) => names.includes(String(q.queryKey[0])) });
const all_but = (names: string[]): Filter => ({ predicate: (q) => !names.includes(String(q.queryKey[0])) });

/** Read again what is on the screen. A reading under way was asked before the change and may hold what was so then: it is begun again. */
function now(client: QueryClient, filter: Filter): Promise<void> {
  void client.cancelQueries(filter);
  return client.invalidateQueries(filter);
}

/** Read again when its screen is opened, so that a row of quick changes is not slowed; readings under way are begun again. */
function later(client: QueryClient, filter: Filter): void {
  const underWay = client.getQueryCache().findAll({ ...filter, fetchStatus: "fetching" });
  void client.cancelQueries(filter);
  void client.invalidateQueries({ refetchType: "none", ...filter });
  for (const query of underWay) if (query.isActive()) void client.refetchQueries({ queryKey: query.queryKey, exact: true });
}

/** Keeps what a change answered with; a reading asked before it cannot overwrite it, and is begun again. */
export function keep(client: QueryClient, key: QueryKey, answer: object): void {
  const exactly = { queryKey: key, exact: true };
  const wasRead = client.isFetching(exactly) > 0;
  void client.cancelQueries(exactly);
  client.setQueryData(key, answer);
  if (wasRead) void client.refetchQueries({ ...exactly, type: "active" });
}

/** What is read again after a change. */
export const stale = {
  /** How things are said has changed: whatever was read says it as before. */
  everything: (client: QueryClient) => now(client, { predicate: () => true }),
  afterPlan: (client: QueryClient) => now(client, all_but(["me", "floor"])),
  afterSeason: (client: QueryClient) => {
    later(client, all_but(["me", "floor", "season", "bench", "contest", "calendar", "note"]));
    void now(client, begins(["bench", "contest", "calendar"]));
  },
  afterCalendar: (client: QueryClient) => {
    later(client, all_but(["me", "floor", "note", "calendar"]));
    void now(client, begins(["calendar"]));
  },
  afterSheet: (client: QueryClient) => later(client, begins(["week", "squad-week", "squad-table", "today", "season"])),
  afterMove: (client: QueryClient) => later(client, begins(["sheet", "squad-week", "squad-table", "today", "season"])),
  afterLearning: (client: QueryClient) => {
    later(client, begins(["week", "sheet", "squad-week", "squad-table", "today", "athlete", "lanes", "ahead"]));
    return now(client, begins(["learning", "findings"]));
  },
  afterSession: (client: QueryClient) => now(client, all_but(["me"])),
};
