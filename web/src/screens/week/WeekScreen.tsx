import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { usePlanChange, useWeek } from "../../api/hooks";
import { dayMonth, hour, kg, longDay, shortDay, toGo } from "../../parts/dates";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { Missed } from "./Missed";

type Day = Schemas["DayOut"];
type Week = Schemas["WeekViewOut"];
const BANDS: Record<string, string> = { high: "high day", middle: "middle", low: "low day", off: "off" };
const TALLEST = 18; // hardness × hours that fills the column

export function WeekScreen() {
  const params = useParams();
  const id = Number(params.id);
  const week = useWeek(id, params.start);
  if (week.isPending) return <Loading what="the week" />;
  if (week.isError) return <Failed error={week.error} again={() => void week.refetch()} />;
  if (!week.data.week) {
    return (
      <div className="page">
        <Empty title={week.data.reason}>
          <Link to={`/athletes/${id}/season`} className="btn btn-primary mt-1">
            Open the season
          </Link>
        </Empty>
      </div>
    );
  }
  return <WeekView id={id} week={week.data.week} />;
}

function WeekView({ id, week }: { id: number; week: Week }) {
  const navigate = useNavigate();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [dragged, setDragged] = useState<Day | null>(null);
  const move = usePlanChange(({ from, to }: { from: Day; to: string }) =>
    need(
      api.PUT("/api/athletes/{athlete_id}/sessions/{day}/{key}/day", {
        params: { path: { athlete_id: id, day: from.day, key: from.sheet?.key ?? "" } },
        body: { day: to },
      }),
    ),
  );
  const moveTo = (from: Day, to: string) => {
    setProblem(null);
    move.mutate({ from, to }, { onError: (e) => setProblem(problemOf(e)) });
  };
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>
            Week of {dayMonth(week.start)} · {toGo(week.days_to_go)}
          </h1>
          <p className="soft m-0">
            {week.athlete_name} · {week.phase_name}, week {week.week_of_phase} of {week.weeks_in_phase}
            {week.is_easy && " · easy week"} · two days around practice
          </p>
        </div>
        <dl className="d-flex gap-4 m-0 ms-auto">
          <Sum name="hard sets" value={week.hard_sets} />
          <Sum name="volume load, kg" value={week.volume_kg.toLocaleString("en-GB")} />
          <Sum name="minutes" value={week.minutes} />
        </dl>
        <div className="btn-group">
          <button
            type="button"
            className="btn btn-plain"
            disabled={!week.previous}
            onClick={() => void navigate(`/athletes/${id}/week/${week.previous}`)}
          >
            ← Earlier
          </button>
          <Link className="btn btn-plain" to={`/athletes/${id}/week`}>
            Now
          </Link>
          <button
            type="button"
            className="btn btn-plain"
            disabled={!week.following}
            onClick={() => void navigate(`/athletes/${id}/week/${week.following}`)}
          >
            Later →
          </button>
        </div>
      </div>
      <Missed
        id={id}
        missed={week.missed}
        onMove={(day, to) => {
          const from = week.days.find((d) => d.day === day);
          if (from) moveTo(from, to);
        }}
      />
      {problem && (
        <div className="mb-2">
          <Trouble problem={problem} />
        </div>
      )}
      <div className="week">
        {week.days.map((day) => (
          <section
            key={day.day}
            className={`day${day.is_today ? " today" : ""}${dragged && dragged.day !== day.day ? " drop" : ""}`}
            aria-label={longDay(day.day)}
            onDragOver={(e) => dragged && e.preventDefault()}
            onDrop={() => {
              if (dragged && dragged.day !== day.day) moveTo(dragged, day.day);
              setDragged(null);
            }}
          >
            <div>
              <b>{shortDay(day.day)}</b>
              {day.is_today && <span className="clay fw-semibold"> today</span>}
              <div className="soft small">{toGo(day.days_to_go)}</div>
            </div>
            <Weight day={day} />
            {day.is_competition && <div className="clay fw-semibold">▶ {week.competition}</div>}
            {day.practices.map((p) => (
              <div key={p.hour} className="practice">
                practice {hour(p.hour)}
                <br />
                {p.minutes} min, hard {p.hardness}
              </div>
            ))}
            {day.sheet && <Card id={id} day={day} week={week} onMove={moveTo} onDrag={setDragged} />}
          </section>
        ))}
      </div>
      <p className="soft small mt-2 mb-0">
        Height is how heavy the day is: practice (grey) by hardness and hours, the session (colour of its phase) by the cost of its sets.
      </p>
    </div>
  );
}

function Sum({ name, value }: { name: string; value: React.ReactNode }) {
  return (
    <div className="text-end">
      <dd className="num m-0" style={{ fontSize: "1.35rem", lineHeight: 1 }}>
        {value}
      </dd>
      <dt className="soft small fw-normal">{name}</dt>
    </div>
  );
}

function Weight({ day }: { day: Day }) {
  const phase = day.sheet?.phase ?? "base";
  const px = (value: number) => Math.min(70, (value / TALLEST) * 70);
  return (
    <div className="weight" role="img" aria-label={`${BANDS[day.band]}: practice ${day.practice_weight}, session ${day.session_weight}`}>
      <div className="small soft text-center" aria-hidden>
        {BANDS[day.band]}
      </div>
      <div style={{ height: px(day.session_weight), background: `var(--ph-${phase})` }} />
      <div style={{ height: px(day.practice_weight), background: "var(--practice)" }} />
    </div>
  );
}

interface CardProps {
  id: number;
  day: Day;
  week: Week;
  onMove: (from: Day, to: string) => void;
  onDrag: (day: Day | null) => void;
}

function Card({ id, day, week, onMove, onDrag }: CardProps) {
  const sheet = day.sheet;
  if (!sheet) return null;
  const open = sheet.state === "planned";
  const main = sheet.lines.filter((l) => l.is_main);
  return (
    <article
      className="session-card"
      draggable={open}
      onDragStart={() => onDrag(day)}
      onDragEnd={() => onDrag(null)}
      style={{ borderLeftColor: `var(--ph-${sheet.phase})` }}
    >
      <Link to={`/athletes/${id}/session/${day.day}/${sheet.key}`} className="fw-semibold">
        {sheet.key} · {sheet.theme}
      </Link>
      <div className="soft">
        {Math.round(sheet.minutes)} min · {sheet.day_reason}
      </div>
      <ul>
        {main.map((line) => {
          const loads = [...new Set(line.sets.map((s) => s.load_kg).filter((v) => v !== null))];
          return (
            <li key={line.slot}>
              {line.exercise}
              <div className="num">
                {line.text}
                {loads.length > 0 && <b> = {loads.map(kg).join("–")} kg</b>}
              </div>
            </li>
          );
        })}
        {sheet.lines.length > main.length && <li className="soft">and {sheet.lines.length - main.length} more lines</li>}
      </ul>
      {sheet.state === "started" && <Link to={`/floor/${sheet.session_id}`}>Running: go on</Link>}
      {sheet.state === "finished" && <Link to={`/floor/${sheet.session_id}/review`}>Done: review</Link>}
      {open && (
        <select
          className="form-select form-select-sm mt-1"
          aria-label={`Move session ${sheet.key} to another day`}
          value=""
          onChange={(e) => e.target.value && onMove(day, e.target.value)}
        >
          <option value="">Move to …</option>
          {week.days
            .filter((d) => d.day !== day.day && !d.is_competition)
            .map((d) => (
              <option key={d.day} value={d.day}>
                {shortDay(d.day)}
              </option>
            ))}
        </select>
      )}
    </article>
  );
}
