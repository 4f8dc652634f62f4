import { Link } from "react-router";

import { api, need } from "../../api/client";
import { Trouble } from "../../parts/states";
import { type Season } from "../../api/hooks";
import { useAction } from "../../api/useAction";

/** Which week model carries the season: the one its model proposes, or another that was chosen, and then it is said. */
export function WeekModel({ id, season }: { id: number; season: Season }) {
  const m = season.week_model;
  const take = useAction(() =>
    need(
      api.PUT("/api/athletes/{athlete_id}/week-arrangement", {
        params: { path: { athlete_id: id } },
        body: { arrangement: m.proposed, days: m.proposed_days, scope: "athlete" },
      }),
    ),
  );
  const sessions = (n: number) => `${n} ${n === 1 ? "session" : "sessions"}`;
  return (
    <p className="small mb-3">
      <b>Week model:</b> <Link to={`/athletes/${id}/week`}>{m.name}</Link>, {sessions(m.days)}
      {m.is_proposed ? (
        <span className="soft">, as {season.style.arrangement_name.toLowerCase()} proposes</span>
      ) : (
        <>
          , chosen by you. {season.style.arrangement_name} proposes {m.proposed_name.toLowerCase()}, {sessions(m.proposed_days)}.{" "}
          <button type="button" className="btn btn-link btn-sm p-0 align-baseline" onClick={() => take.run(undefined)}>
            Take the proposal
          </button>
        </>
      )}
      {take.problem && <Trouble problem={take.problem} />}
    </p>
  );
}
