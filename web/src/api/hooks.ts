import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";

import { admit } from "./admit";
import { api, need, type Schemas } from "./client";
import { keep, keys, stale } from "./keys";
import { useAction } from "./useAction";

export type Season = Schemas["SeasonOut"];
export type Sheet = Schemas["SheetOut"];
export type Line = Schemas["LineOut"];
export type Floor = Schemas["FloorOut"];
export type FloorLine = Schemas["FloorLineOut"];
export type FloorSet = Schemas["FloorSetOut"];
export type FloorStep = Schemas["FloorStepOut"];
export type Rep = Schemas["RepOut"];
export type WorkingData = Schemas["WorkingOut"];

export function useMe() {
  return useQuery({
    queryKey: keys.me,
    queryFn: async () => {
      const me = await need(api.GET("/api/me"));
      admit(me);
      return me;
    },
    staleTime: Infinity,
  });
}

/** In which masses stand where no room is meant: kg or lb, as whoever is signed in has it. */
export function useUnit(): string {
  return useMe().data?.unit ?? "kg";
}

/** Whether whoever is signed in may do a kind of thing, such as "plan"; the server decides, this shows no more than it says. */
export function useMay(): (need: string) => boolean {
  const me = useMe();
  return (need) => me.data?.may.includes(need) ?? false;
}

/** Whether whoever is signed in may change a session: it has not begun, and plans are theirs to change. */
export function useCanChange(sheet: Sheet): boolean {
  return useMay()("plan") && sheet.state === "planned";
}

export function useToday() {
  return useQuery({ queryKey: keys.today, queryFn: () => need(api.GET("/api/today")) });
}

/** Who there is, squad by squad: names alone, quick enough for every page. */
export function useNames(enabled = true) {
  return useQuery({ enabled, queryKey: keys.names, queryFn: () => need(api.GET("/api/names")), staleTime: 60_000 });
}

/** The athletes with what stands beside each (their competition, their maxes, their last session), a page at a time. */
export function useAthletes(q: string) {
  return useInfiniteQuery({
    queryKey: keys.athletesFound(q),
    queryFn: ({ pageParam }) => need(api.GET("/api/athletes", { params: { query: { q, start: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next_start,
    placeholderData: (before) => before,
    staleTime: 60_000,
  });
}

export function useAthlete(id: number) {
  return useQuery({
    queryKey: keys.athlete(id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}", { params: { path: { athlete_id: id } } })),
  });
}

export function useTestDay(squad: number, lifts: string) {
  return useQuery({
    queryKey: keys.testDay(squad, lifts),
    queryFn: () => need(api.GET("/api/squads/{squad_id}/test-day", { params: { path: { squad_id: squad }, query: { lifts } } })),
    placeholderData: keepPreviousData,
  });
}

export function useChosen(id: number) {
  return useQuery({
    queryKey: keys.chosen(id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/chosen", { params: { path: { athlete_id: id } } })),
  });
}

export function useSeason(id: number | null) {
  return useQuery({
    queryKey: keys.season(id),
    enabled: id !== null,
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/season", { params: { path: { athlete_id: id ?? 0 } } })),
  });
}

export function useWeek(id: number, start: string | undefined) {
  return useQuery({
    queryKey: keys.week(id, start),
    queryFn: () =>
      need(
        api.GET("/api/athletes/{athlete_id}/week", {
          params: { path: { athlete_id: id }, query: start ? { start } : {} },
        }),
      ),
  });
}

export function useSheet(id: number, day: string, key: string) {
  return useQuery({
    queryKey: keys.sheet(id, day, key),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/sessions/{day}/{key}", { params: { path: { athlete_id: id, day, key } } })),
  });
}

export function useMethods(where: { athlete_id: number; day: string; key: string; line: string }) {
  return useQuery({
    queryKey: keys.methods(where),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{line}/methods", { params: { path: where } })),
  });
}

export function useStanding(id: number, limited: string) {
  return useQuery({
    queryKey: keys.standing(id, limited),
    placeholderData: (before) => before,
    queryFn: () =>
      need(api.GET("/api/athletes/{athlete_id}/standing", { params: { path: { athlete_id: id }, query: limited ? { limited } : {} } })),
  });
}

export function useTests(id: number, exerciseId: string, hasPain: boolean) {
  return useQuery({
    queryKey: keys.tests(id, exerciseId, hasPain),
    placeholderData: (before) => before,
    queryFn: () =>
      need(
        api.GET("/api/athletes/{athlete_id}/tests", {
          params: { path: { athlete_id: id }, query: { exercise_id: exerciseId, has_pain: hasPain } },
        }),
      ),
  });
}

export function useTest(id: number) {
  return useQuery({
    queryKey: keys.test(id),
    queryFn: () => need(api.GET("/api/tests/{test_id}", { params: { path: { test_id: id } } })),
  });
}

export function useRecord(id: number) {
  return useQuery({
    queryKey: keys.record(id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/record", { params: { path: { athlete_id: id } } })),
  });
}

export function useSettings() {
  return useQuery({ queryKey: keys.settings, queryFn: () => need(api.GET("/api/settings")) });
}

export function useShorthand() {
  return useQuery({ queryKey: keys.shorthand, queryFn: () => need(api.GET("/api/shorthand")), staleTime: Infinity });
}

export function useReview(id: number) {
  return useQuery({
    queryKey: keys.review(id),
    queryFn: () => need(api.GET("/api/floor/sessions/{session_id}/review", { params: { path: { session_id: id } } })),
  });
}

export function useBench(id: number, body: Schemas["BenchIn"]) {
  return useQuery({
    queryKey: keys.bench(id, body),
    placeholderData: (before) => before,
    queryFn: () => need(api.POST("/api/athletes/{athlete_id}/taper-bench", { params: { path: { athlete_id: id } }, body })),
  });
}

export function useSquadSeason(id: number) {
  return useQuery({
    queryKey: keys.squadSeason(id),
    queryFn: () => need(api.GET("/api/squads/{squad_id}/season", { params: { path: { squad_id: id } } })),
  });
}

export function useContest(id: number, competition: number | null) {
  return useQuery({
    queryKey: keys.contest(id, competition),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/contest", { params: { path: { athlete_id: id }, query: { competition } } })),
  });
}

export function useCalendar(id: number) {
  return useQuery({
    queryKey: keys.calendar(id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/calendar", { params: { path: { athlete_id: id } } })),
  });
}

export function useArrangements() {
  return useQuery({ queryKey: keys.arrangements, queryFn: () => need(api.GET("/api/arrangements")), staleTime: Infinity });
}

/** A change of a season answers with the whole season: it is drawn at once, and what else hangs on it is read again. */
export function useSeasonChange<In>(id: number, act: (input: In) => Promise<Schemas["SeasonAnswer"]>) {
  return useAction(act, {
    after: (client, answer) => {
      keep(client, keys.season(id), answer);
      stale.afterSeason(client);
    },
  });
}

export function useLibrary() {
  return useQuery({ queryKey: keys.library, queryFn: () => need(api.GET("/api/library")), staleTime: 60_000 });
}

/** The exercises that a result can be of. */
export function useResultExercises() {
  return useQuery({ queryKey: keys.resultExercises, queryFn: () => need(api.GET("/api/result-exercises")), staleTime: 60_000 });
}

export function useExercise(id: string, athlete: number | null) {
  return useQuery({
    queryKey: keys.exercise(id, athlete),
    enabled: id !== "",
    placeholderData: (before) => before,
    queryFn: () =>
      need(api.GET("/api/library/{exercise_id}", { params: { path: { exercise_id: id }, query: athlete ? { athlete_id: athlete } : {} } })),
  });
}

export function useGroupings() {
  return useQuery({ queryKey: keys.groupings, queryFn: () => need(api.GET("/api/groupings")), staleTime: Infinity });
}

export function useGoals() {
  return useQuery({ queryKey: keys.goals, queryFn: () => need(api.GET("/api/goals")), staleTime: Infinity });
}

/** The ways to arrange a week, with what an athlete lacks of what each asks for. */
export function useWeekArrangements(id: number) {
  return useQuery({
    queryKey: keys.weekArrangements(id),
    queryFn: () => need(api.GET("/api/week-arrangements", { params: { query: { athlete_id: id } } })),
  });
}

export function useTemplates() {
  return useQuery({ queryKey: keys.templates, queryFn: () => need(api.GET("/api/templates")) });
}

export function useSquadWeek(id: number, start: string | undefined) {
  return useQuery({
    queryKey: keys.squadWeek(id, start),
    placeholderData: (before) => before,
    queryFn: () => need(api.GET("/api/squads/{squad_id}/week", { params: { path: { squad_id: id }, query: start ? { start } : {} } })),
  });
}

export function useSquadTable(id: number, day: string, key: string, group: string) {
  return useQuery({
    queryKey: keys.squadTable(id, day, key, group),
    placeholderData: (before) => before,
    queryFn: () =>
      need(
        api.GET("/api/athletes/{athlete_id}/sessions/{day}/{key}/squad", {
          params: { path: { athlete_id: id, day, key }, query: group ? { group } : {} },
        }),
      ),
  });
}

/** A change of a session says what it needs; the rest is empty. */
type SheetEdit = Pick<Schemas["EditIn"], "op"> & Partial<Schemas["EditIn"]>;
const EMPTY = {
  line: "",
  exercise_id: "",
  text: "",
  block: "",
  to: "",
  is_main: false,
  grouping: "",
  conditions: {},
  number: 0,
  note: "",
  easier: "",
  harder: "",
};

/** A change of one session answers with its sheet: it is drawn at once, the rest is read again when looked at. */
export function useSheetEdit(id: number, day: string, key: string) {
  const path = { athlete_id: id, day, key };
  return useAction(
    (body: SheetEdit) =>
      need(api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/edit", { params: { path }, body: { ...EMPTY, ...body } })),
    {
      after: (client, sheet) => {
        keep(client, keys.sheet(id, day, key), sheet);
        stale.afterSheet(client);
      },
    },
  );
}
