import { scaleTime } from "d3-scale";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { dayMonth } from "../../parts/dates";
import { counted } from "../../parts/counted";

type Goal = Schemas["GoalOut"];

const BEHIND_PCT = 24; // so much of the line lies behind today
const LAST_PCT = 93; // the days to the furthest stand behind its mark

/** The competitions ahead on one line of time: the phases to each, and the days that are left. */
export function Goals({ goals, today }: { goals: Goal[]; today: string }) {
  if (goals.length === 0) return null;
  const at = (day: string) => Date.parse(`${day}T00:00:00Z`);
  const scale = scaleTime([at(today), Math.max(...goals.map((g) => at(g.day)))], [BEHIND_PCT, LAST_PCT]);
  const x = (day: string) => Math.max(0, scale(at(day)));
  return (
    <section className="sheet pad mt-3" aria-label="Competitions ahead">
      <ul className="goal-lines">
        {goals.map((g, i) => (
          <li key={`${g.competition}${g.day}`}>
            <div className="goal-name">
              <Link to={`/athletes/${g.athlete_ids[0]}/season`} className="fw-semibold">
                {g.competition}
              </Link>
              <div className="soft small" title={`${g.squad}, ${g.names.join(", ")}`}>
                {dayMonth(g.day)} · {g.names.length} of {g.squad}
              </div>
            </div>
            <div className="goal-way">
              <span className="visually-hidden">
                {counted(g.days_to_go, "day")} to go{g.phase_name && `, now ${g.phase_name}`}
              </span>
              <div aria-hidden>
                {g.phases
                  .filter((p) => scale(at(p.end)) > 0)
                  .map((p) => (
                    <i
                      key={p.start}
                      className={`phase-bar ph-${p.key}`}
                      style={{ left: `${x(p.start)}%`, width: `calc(${x(p.end) - x(p.start)}% - 1px)`, background: `var(--ph-${p.key})` }}
                    >
                      {p.name}
                    </i>
                  ))}
                <i className="goal-mark" style={{ left: `${x(g.day)}%` }}>
                  {g.days_to_go}
                </i>
                <i className="goal-today" style={{ left: `${BEHIND_PCT}%` }}>
                  {i === 0 && "today"}
                </i>
              </div>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
