import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useSquadWeek } from "../../api/hooks";
import { dayMonth, shortDay, toCompetition } from "../../parts/dates";
import { Empty, Failed, Loading } from "../../parts/states";
import { counted } from "../../parts/counted";

type Row = Schemas["SquadRowOut"];
const WIDE: Record<string, string> = { high: "●●●", middle: "●●", low: "●" };

/** Everybody's week on one page: who trains when, how hard, with which loads. */
export default function SquadWeekScreen() {
  const params = useParams();
  const id = Number(params.id);
  const navigate = useNavigate();
  const week = useSquadWeek(id, params.start);
  const [group, setGroup] = useState("");
  if (week.isPending) return <Loading what="the squad's week" />;
  if (week.isLoadingError) return <Failed error={week.error} again={() => void week.refetch()} />;
  const w = week.data;
  const rows = w.rows.filter((r) => !group || r.group === group);
  const go = (to: string) => void navigate(`/squads/${id}/week/${to}`);
  return (
    <div className="page">
      <div className="d-flex flex-wrap gap-3 align-items-end mb-2">
        <div>
          <h1>
            {w.squad}, week of {dayMonth(w.start)}
          </h1>
          <p className="soft m-0">
            {counted(rows.length, "athlete")} · dots say how hard each day is meant: three high, two medium, one low
          </p>
        </div>
        <div className="ms-auto d-flex gap-2 align-items-center">
          {w.groups.length > 0 && (
            <select
              className="form-select form-select-sm w-auto"
              aria-label="Group"
              value={group}
              onChange={(e) => setGroup(e.target.value)}
            >
              <option value="">all groups</option>
              {w.groups.map((g) => (
                <option key={g}>{g}</option>
              ))}
            </select>
          )}
          <div className="btn-group">
            <button type="button" className="btn btn-plain" onClick={() => go(w.previous)}>
              ← Earlier
            </button>
            <button type="button" className="btn btn-plain" onClick={() => go(w.following)}>
              Later →
            </button>
          </div>
        </div>
      </div>
      {rows.length === 0 && <Empty title="Nobody has a season in this week.">Add a competition on the season screen first.</Empty>}
      {rows.length > 0 && (
        <div className="sheet squad-week">
          <table className="board">
            <thead>
              <tr>
                <th>Athlete</th>
                {w.days.map((d) => (
                  <th key={d} className={d === w.today ? "clay" : undefined}>
                    {shortDay(d)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <AthleteRow key={r.athlete_id} row={r} days={w.days} start={w.start} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {w.without_season.length > 0 && <p className="soft small mt-2">Without a season in this week: {w.without_season.join(", ")}.</p>}
    </div>
  );
}

function AthleteRow({ row: r, days, start }: { row: Row; days: string[]; start: string }) {
  return (
    <tr>
      <th scope="row" className="text-body">
        <Link to={`/athletes/${r.athlete_id}/week/${start}`}>{r.name}</Link>
        <div className="soft small fw-normal">
          {r.phase_name} · {toCompetition(r.days_to_go)}
        </div>
      </th>
      {days.map((d) => {
        const cell = r.cells.find((c) => c.day === d);
        return (
          <td key={d}>
            {cell && (
              <Link
                to={`/athletes/${r.athlete_id}/session/${d}/${cell.key}`}
                className="squad-cell"
                style={{ borderLeftColor: `var(--ph-${r.phase})` }}
              >
                <span className="fw-semibold">{cell.theme}</span> <span title={`${cell.load} day`}>{WIDE[cell.load]}</span>
                {cell.lines.map((x) => (
                  <span key={x.slot} className="d-block num">
                    {x.exercise} {x.loads && <b>{x.loads}</b>}
                  </span>
                ))}
                <span className="soft small d-block">
                  {cell.minutes} min{cell.more > 0 && `, ${cell.more} more lines`}
                  {cell.is_own && " · yours"}
                </span>
              </Link>
            )}
          </td>
        );
      })}
    </tr>
  );
}
