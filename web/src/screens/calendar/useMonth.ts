import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, need, problemOf, type Schemas } from "../../api/client";
import { keep, keys, stale } from "../../api/keys";

export type Month = Schemas["MonthOut"];
export type Item = Schemas["CalendarItemOut"];
export type Day = Schemas["CalendarDayOut"];
export type Whose = "athlete" | "squad";

/** A month as its address says it: 2026-12. */
export function monthOf(day: string): string {
  return day.slice(0, 7);
}

/** A month of a calendar, and everything that can be done on it: each answers with the month as it stands after it. */
export function useMonth(whose: Whose, id: number, month: string) {
  const client = useQueryClient();
  const params = { path: { whose, pk: id } };
  const read = useQuery({
    queryKey: keys.month(whose, id, month),
    placeholderData: (before) => before,
    queryFn: () => need(api.GET("/api/calendar/{whose}/{pk}", { params: { ...params, query: { month } } })),
  });
  const change = useMutation({
    mutationFn: (act: () => Promise<Month>) => act(),
    onSuccess: (answer) => {
      stale.afterCalendar(client);
      keep(client, keys.month(whose, id, month), answer);
    },
  });
  const run = (act: () => Promise<Month>, done?: () => void) => change.mutate(act, { onSuccess: done });
  return {
    read,
    problem: change.error ? problemOf(change.error) : null,
    isPending: change.isPending,
    write: (body: Schemas["DayNoteIn"], done: () => void) =>
      run(() => need(api.POST("/api/calendar/{whose}/{pk}/write", { params, body: { ...body, month } })), done),
    move: (body: Omit<Schemas["MoveItem"], "month">) =>
      run(() => need(api.POST("/api/calendar/{whose}/{pk}/move", { params, body: { ...body, month } }))),
    rename: (body: Omit<Schemas["RenameItem"], "month">, done: () => void) =>
      run(() => need(api.POST("/api/calendar/{whose}/{pk}/rename", { params, body: { ...body, month } })), done),
    takeOut: (body: Omit<Schemas["TakeOutItem"], "month">) =>
      run(() => need(api.POST("/api/calendar/{whose}/{pk}/take-out", { params, body: { ...body, month } }))),
    undo: (scope: string) => run(() => need(api.POST("/api/calendar/{whose}/{pk}/undo", { params, body: { scope, month } }))),
    redo: (scope: string) => run(() => need(api.POST("/api/calendar/{whose}/{pk}/redo", { params, body: { scope, month } }))),
  };
}

/** How something written on a day would be understood; nothing while nothing is written. */
export function useReading(text: string, day: string) {
  return useQuery({
    queryKey: keys.note(text, day),
    enabled: text.trim() !== "",
    placeholderData: (before) => before,
    queryFn: () => need(api.GET("/api/calendar/read", { params: { query: { text, day } } })),
    staleTime: Infinity,
  });
}
