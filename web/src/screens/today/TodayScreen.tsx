import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useToday } from "../../api/hooks";
import { longDay, weekdayOf } from "../../parts/dates";
import { OfflineReady } from "../../parts/OfflineReady";
import { Empty, Failed, Loading } from "../../parts/states";
import { Decisions } from "./Decisions";
import { Goals } from "./Goals";
import { Shared } from "./Shared";
import { useArrivals } from "./useArrivals";

/** The day at a glance: who trains when, what waits for a decision, what lies ahead. */
export function TodayScreen() {
  const today = useToday();
  const shared = useArrivals(today.data?.shared ?? NONE);
  if (today.isPending) return <Loading what="today" />;
  if (today.isLoadingError) return <Failed error={today.error} again={() => void today.refetch()} />;
  const t = today.data;
  if (t.athletes === 0) {
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
  const sessions = `${shared.length} ${shared.length === 1 ? "session" : "sessions"}`;
  const words = [
    shared.length > 0 ? `${t.training} of ${t.athletes} train today` : "Nobody trains today",
    shared.length > 0 ? sessions : "",
    t.changed > 0 ? `${t.changed} changed at arrival` : "",
    t.next_words,
  ];
  return (
    <div className="page">
      <h1 className="mb-0">{longDay(t.day)}</h1>
      <p className="soft mb-2">{words.filter(Boolean).join(" · ")}</p>
      <FirstWord />
      <div className="with-margin">
        <div>
          {shared.length > 0 ? (
            <Shared sessions={shared} day={t.day} />
          ) : (
            <Empty title="No strength session today.">{t.later.length > 0 ? "The next ones are below." : "None this week either."}</Empty>
          )}
          <Goals goals={t.goals} today={t.day} />
          {shared.some((s) => s.people.some((p) => p.session_id !== null)) && (
            <p className="mt-3 mb-0">
              <Link to={`/learning/day/${t.day}`}>Look back on today</Link> <span className="soft">what was done, and what it taught</span>
            </p>
          )}
          {t.later.length > 0 && <Later days={t.later} />}
          {shared.length > 0 && <OfflineReady day={t.day} sessions={shared.flatMap((s) => s.people)} />}
        </div>
        <Decisions decisions={t.decisions} />
      </div>
    </div>
  );
}

const NONE: Schemas["SharedSession"][] = [];

function Later({ days }: { days: Schemas["LaterDay"][] }) {
  return (
    <p className="mt-3">
      <span className="soft">Later this week: </span>
      {days.map((d, i) => (
        <span key={d.day}>
          {i > 0 && " · "}
          <Link to={`/calendar?month=${d.day.slice(0, 7)}`}>{weekdayOf(d.day)}</Link> {d.words}
        </span>
      ))}
    </p>
  );
}

const READ = "jarvok.first-word";

/** Said once, at first start. */
function FirstWord() {
  const [read, setRead] = useState(() => localStorage.getItem(READ) === "yes");
  if (read) return null;
  return (
    <p className="says mb-3">
      Jarvok plans and calculates for a qualified coach; it does not diagnose injuries or clear anyone to train. Local codes, the
      federation's and the facility's rules and licensed professionals come first.{" "}
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
