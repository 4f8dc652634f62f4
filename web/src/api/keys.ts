/** What every reading is kept under, and what a change makes stale: said here once, used everywhere. */
import type { QueryClient, QueryKey } from "@tanstack/react-query";

export const keys = {
  me: ["me"],
  today: ["today"],
  athletes: ["athletes"],
  athlete: (id: number) => ["athlete", id],
  record: (id: number) => ["record", id],
  standing: (id: number, limited: string) => ["standing", id, limited],
  season: (id: number | null) => ["season", id],
  bench: (id: number, body: unknown) => ["bench", id, body],
  contest: (id: number, competition: number | null) => ["contest", id, competition],
  calendar: (id: number) => ["calendar", id],
  arrangements: ["arrangements"],
  week: (id: number, start?: string) => ["week", id, start ?? "now"],
  weeks: (id: number) => ["week", id],
  weekArrangements: ["week-arrangements"],
  sheet: (id: number, day: string, key: string) => ["sheet", id, day, key],
  methods: (where: unknown) => ["methods", where],
  squadSeason: (id: number) => ["squad-season", id],
  squadWeek: (id: number, start?: string) => ["squad-week", id, start ?? "now"],
  squadTable: (id: number, day: string, key: string, group: string) => ["squad-table", id, day, key, group],
  lines: (ask: unknown) => ["lines", ask],
  groupings: ["groupings"],
  templates: ["templates"],
  library: ["library"],
  exercise: (id: string, athlete: number | null) => ["exercise", id, athlete],
  settings: ["settings"],
  shorthand: ["shorthand"],
  tests: (id: number, exercise: string, hasPain: boolean) => ["tests", id, exercise, hasPain],
  test: (id: number) => ["test", id],
  trials: (athlete: number) => ["trials", athlete],
  trial: (id: number) => ["trial", id],
  effort: (athlete: number) => ["effort", athlete],
  floor: (session: number) => ["floor", session],
  review: (session: number) => ["review", session],
  roomEntries: ["room-entries"],
  room: (id: number) => ["room", id],
  lanes: (id: number, rack?: number | null) => (rack === undefined ? ["lanes", id] : ["lanes", id, rack]),
  clockForms: ["clock-forms"],
  sensors: ["sensors"],
  ready: (token: string) => ["ready", token],
} satisfies Record<string, QueryKey | ((...asked: never[]) => QueryKey)>;

const begins = (names: string[]) => ({ predicate: (q: { queryKey: QueryKey }) => names.includes(String(q.queryKey[0])) });
const all_but = (names: string[]) => ({ predicate: (q: { queryKey: QueryKey }) => !names.includes(String(q.queryKey[0])) });

/** What is read again after a change; "later" waits until its screen is opened, so that a row of quick changes is not slowed. */
export const stale = {
  afterPlan: (client: QueryClient) => client.invalidateQueries(all_but(["me", "floor"])),
  afterSeason: (client: QueryClient) => {
    void client.invalidateQueries({ refetchType: "none", ...all_but(["me", "floor", "season"]) });
    void client.invalidateQueries(begins(["bench", "contest", "calendar"]));
  },
  afterSheet: (client: QueryClient) =>
    void client.invalidateQueries({ refetchType: "none", ...begins(["week", "squad-week", "squad-table", "today", "season"]) }),
  afterMove: (client: QueryClient) =>
    void client.invalidateQueries({ refetchType: "none", ...begins(["sheet", "squad-week", "squad-table", "today", "season"]) }),
  afterSession: (client: QueryClient) => client.invalidateQueries(all_but(["me"])),
};
