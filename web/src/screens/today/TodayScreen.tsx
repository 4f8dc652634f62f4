import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useToday } from "../../api/hooks";
import { dated, longDay, shortDay } from "../../parts/dates";
import { RiseAnswers } from "../../parts/RiseAnswers";
import { Empty, Failed, Loading } from "../../parts/states";

type Session = Schemas["TodaySession"];
type Goal = Schemas["GoalOut"];

export function TodayScreen() {
  const today = useToday();
  if (today.isPending) return <Loading what="today" />;
  if (today.isError) return <Failed error={today.error} again={() => void today.refetch()} />;
  const { day, sessions, next_days, decisions, goals, athletes } = today.data;
  if (athletes === 0) {
    return (
      <div className="page">
        <h1 className="visually-hidden">Today</h1>
        <Empty title="No athletes yet.">
          <Link className="btn btn-primary" to="/athletes">
            Add or import athletes
          </Link>
        </Empty>
      </div>
    );
  }
  return (
    <div className="page">
      <h1>{longDay(day)}</h1>
      <p className="soft mb-2">
        {sessions.length} {sessions.length === 1 ? "session" : "sessions"} today · {decisions.length}{" "}
        {decisions.length === 1 ? "decision" : "decisions"} for you
      </p>
      <FirstWord />
      <div className="with-margin">
        <div>
          <Goals goals={goals} />
          {sessions.length ? (
            <SessionTable caption="Training today" sessions={sessions} />
          ) : (
            <Empty title="No strength session today.">The next ones are below.</Empty>
          )}
          {next_days.length > 0 && (
            <div className="mt-3">
              <SessionTable caption="Later this week" sessions={next_days} showDay />
            </div>
          )}
        </div>
        <aside aria-label="What needs a decision">
          <h2>Needs a decision</h2>
          {decisions.length === 0 && <p className="soft">Nothing waits.</p>}
          {decisions.map((d) => (
            <div key={`${d.kind}${d.athlete_id}${d.title}`} className="note asks">
              <b>{d.athlete_name}.</b> {d.title}
              {d.title.endsWith("?") ? "" : "."} {d.rise ? <RiseAnswers rise={d.rise} /> : d.text}
              <div className="mt-1">
                <Link to={d.kind === "season" ? `/athletes/${d.athlete_id}/season` : `/athletes/${d.athlete_id}`}>
                  {d.kind === "season" ? "Build the season" : "Look at the marks"}
                </Link>
              </div>
            </div>
          ))}
        </aside>
      </div>
    </div>
  );
}

const READ = "jarvok.first-word";

/** Said once, at first start. */
function FirstWord() {
  const [read, setRead] = useState(() => localStorage.getItem(READ) === "yes");
  if (read) return null;
  return (
    <p className="says mb-3">
      Jarvok plans and calculates for a qualified coach; it neither diagnoses nor clears. Local codes, the federation's and the facility's
      rules and licensed professionals come first.{" "}
      <button
        type="button"
        className="btn btn-link p-0 align-baseline"
        onClick={() => {
          localStorage.setItem(READ, "yes");
          setRead(true);
        }}
      >
        Understood
      </button>
    </p>
  );
}

/** Next competitions, one line each: who, when, which phase. */
function Goals({ goals }: { goals: Goal[] }) {
  if (goals.length === 0) return null;
  return (
    <div className="sheet mb-3">
      <table className="board">
        <caption className="visually-hidden">Competitions ahead</caption>
        <thead>
          <tr>
            <th>Competition</th>
            <th className="right">to go</th>
            <th>Day</th>
            <th>Phase now</th>
            <th className="right">athletes</th>
          </tr>
        </thead>
        <tbody>
          {goals.map((goal) => (
            <tr key={`${goal.competition}${goal.day}`}>
              <td>
                <Link to={`/athletes/${goal.athlete_ids[0]}/season`} className="fw-semibold">
                  {goal.competition}
                </Link>
              </td>
              <td className="right num clay" style={{ fontSize: "1.25rem" }}>
                {goal.days_to_go}
              </td>
              <td>{shortDay(goal.day)}</td>
              <td>{goal.phase_name}</td>
              <td className="right num">{goal.names.length}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function SessionTable({ caption, sessions, showDay = false }: { caption: string; sessions: Session[]; showDay?: boolean }) {
  const squads = [...new Set(sessions.map((s) => s.squad))];
  return (
    <div className="sheet">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          {caption}
        </caption>
        <thead>
          <tr>
            <th>Athlete</th>
            {showDay && <th>Day</th>}
            <th>Session</th>
            <th>Phase</th>
            {!showDay && <th>Why today</th>}
            <th>State</th>
          </tr>
        </thead>
        {squads.map((squad) => (
          <tbody key={squad}>
            <tr className="block">
              <th colSpan={5} scope="colgroup">
                {squad}
              </th>
            </tr>
            {sessions
              .filter((s) => s.squad === squad)
              .map((s) => (
                <tr key={`${s.athlete_id}${s.day}${s.key}`}>
                  <td>
                    <Link to={`/athletes/${s.athlete_id}`}>{s.athlete_name}</Link>
                  </td>
                  {showDay && <td className="nowrap">{dated(s.day, s.days_to_go)}</td>}
                  <td>
                    <Link to={`/athletes/${s.athlete_id}/session/${s.day}/${s.key}`}>
                      {s.key} · {s.theme}
                    </Link>
                  </td>
                  <td>{s.phase_name}</td>
                  {!showDay && <td className="soft">{s.day_reason}</td>}
                  <td className="nowrap">
                    {s.state === "planned" && <span className="soft">planned</span>}
                    {s.state === "started" && <Link to={`/floor/${s.session_id}`}>running: go on</Link>}
                    {s.state === "finished" && <Link to={`/floor/${s.session_id}/review`}>done: review</Link>}
                  </td>
                </tr>
              ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}
