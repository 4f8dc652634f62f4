import { api, need, type Problem, type Schemas } from "../../api/client";
import { keep, keys, stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import type { Clip } from "./clip";
import type { Dragged, Week } from "./DayColumn";

type Say = (problem: Problem | null) => void;

/** A change of a week answers with the week: it is drawn at once, the rest is read again when looked at. */
function useWeekChange<In>(id: number, start: string, act: (input: In) => Promise<Schemas["WeekAnswer"]>, say: Say) {
  return useAction(act, {
    say,
    after: (client, answer) => {
      for (const [key] of client.getQueriesData({ queryKey: keys.weeks(id) }))
        if (key[2] === start || key[2] === "now") keep(client, key, answer);
      stale.afterMove(client);
    },
  });
}

/** Everything a coach does on a week beside reading it; what goes wrong is said in one place. */
export function useWeekActions(id: number, week: Week, clip: Clip | null, say: Say) {
  const how = { say };
  const at = { athlete_id: id };
  const move = useWeekChange(
    id,
    week.start,
    ({ from, to }: { from: Dragged; to: string }) =>
      from.line
        ? need(
            api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/lines/{line}/move", {
              params: { path: { ...at, day: from.day, key: from.key, line: from.line } },
              body: { day: to },
            }),
          )
        : need(
            api.PUT("/api/athletes/{athlete_id}/sessions/{day}/{key}/day", {
              params: { path: { ...at, day: from.day, key: from.key } },
              body: { day: to },
            }),
          ),
    say,
  );
  const out = useWeekChange(
    id,
    week.start,
    (sheet: Schemas["SheetOut"]) =>
      need(
        api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/take-out", {
          params: { path: { ...at, day: sheet.day, key: sheet.key } },
        }),
      ),
    say,
  );
  const begin = useAction(
    (day: string) => need(api.POST("/api/athletes/{athlete_id}/sessions", { params: { path: at }, body: { day, theme: "" } })),
    how,
  );
  const paste = useAction(({ day, scope }: { day: string; scope: string }) => {
    const body = { day, scope: scope === "athlete" ? "athlete" : scope, to_athlete: scope === "athlete" ? id : null };
    const from = clip?.athlete ?? id;
    return clip?.kind === "week"
      ? need(api.POST("/api/athletes/{athlete_id}/week/{monday}/copy", { params: { path: { athlete_id: from, monday: clip.day } }, body }))
      : need(
          api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/copy", {
            params: { path: { athlete_id: from, day: clip?.day ?? day, key: clip?.key ?? "" } },
            body,
          }),
        );
  }, how);
  const undo = useAction(() => need(api.POST("/api/athletes/{athlete_id}/plan/undo", { params: { path: at } })), how);
  const fix = useAction((f: Schemas["FixOut"]) => {
    const values = f.values as Record<string, string>;
    return need(
      api.POST("/api/athletes/{athlete_id}/sessions/{day}/{key}/fix", {
        params: { path: { ...at, day: values["day"] ?? week.start, key: values["key"] ?? "A" } },
        body: { kind: f.kind, values },
      }),
    );
  }, how);
  const keepWord = useAction(
    (body: Schemas["KeepIn"]) => need(api.POST("/api/athletes/{athlete_id}/plan/flags", { params: { path: at }, body })),
    how,
  );
  const lift = useAction((word: number) => need(api.DELETE("/api/plan-flags/{word_id}", { params: { path: { word_id: word } } })), how);
  return { move, out, begin, paste, undo, fix, keep: keepWord, lift };
}
