import { api, need, type Schemas } from "../../api/client";
import { firstProblem, useAction } from "../../api/useAction";
import { shortDay } from "../../parts/dates";
import { Trouble } from "../../parts/states";

/** Sessions whose day passed without them, with the ways on; the proposed one first. Nothing is crammed. */
export function Missed({ id, missed, onMove }: { id: number; missed: Schemas["MissedOut"][]; onMove: (day: string, to: string) => void }) {
  const leave = useAction((where: string) =>
    need(
      api.POST("/api/athletes/{athlete_id}/season/flags", {
        params: { path: { athlete_id: id } },
        body: { check_id: "missed", where, reason: "left out" },
      }),
    ),
  );
  const merge = useAction(({ m, to }: { m: Schemas["MissedOut"]; to: string }) =>
    need(
      api.PUT("/api/athletes/{athlete_id}/sessions/{day}/{key}/merge", {
        params: { path: { athlete_id: id, day: m.day, key: m.key } },
        body: { day: to },
      }),
    ),
  );
  const problem = firstProblem(merge, leave);
  return (
    <>
      {problem && <Trouble problem={problem} />}
      {missed.map((m) => (
        <div className="note asks mb-2" key={`${m.day}${m.key}`}>
          <b>
            {m.theme} of {shortDay(m.day)} was missed.
          </b>{" "}
          {m.options.map((o) => o.words).join(" ")}
          <div className="d-flex gap-3 mt-1">
            {m.options.map((o) =>
              o.choice === "move" && o.day ? (
                <button key={o.choice} type="button" className="btn btn-link p-0 fw-semibold" onClick={() => onMove(m.day, o.day ?? "")}>
                  Move it to {shortDay(o.day)}
                </button>
              ) : o.choice === "merge" && o.day ? (
                <button key={o.choice} type="button" className="btn btn-link p-0" onClick={() => merge.run({ m, to: o.day ?? "" })}>
                  Its main lift into {shortDay(o.day)}
                </button>
              ) : (
                <button
                  key={o.choice}
                  type="button"
                  className="btn btn-link p-0"
                  aria-label={`Skip it: ${m.theme}`}
                  onClick={() => leave.run(`${m.day}:${m.key}`)}
                >
                  Skip it
                </button>
              ),
            )}
          </div>
        </div>
      ))}
    </>
  );
}
