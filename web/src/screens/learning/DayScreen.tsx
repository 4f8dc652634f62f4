import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link, useParams, useSearchParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { longDay, shortDay } from "../../parts/dates";
import { Empty, Failed, Loading } from "../../parts/states";
import { NoteFinding } from "./NoteFinding";

type Day = Schemas["DayReviewOut"];
type Session = Schemas["DaySessionOut"];

/** A day looked back on in the evening: every session on one page, with one line for what it taught. */
export default function DayScreen() {
  const day = useParams().day ?? "";
  const [search, setSearch] = useSearchParams();
  const squad = Number(search.get("squad")) || null;
  const found = useQuery({
    queryKey: keys.day(day, squad),
    queryFn: () => need(api.GET("/api/days/{day}/review", { params: { path: { day }, query: { squad } } })),
  });
  const of = squad === null ? "" : `?squad=${squad}`;
  if (found.isPending) return <Loading what="the day" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  const d = found.data;
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-3">
        <div className="me-auto">
          <h1 className="mb-0">{longDay(d.day)}, looked back on</h1>
          <p className="soft m-0">{d.words}</p>
        </div>
        {d.squads.length > 1 && (
          <Form.Group controlId="day-of">
            <Form.Label className="small mb-0">Of</Form.Label>
            <Form.Select
              size="sm"
              value={d.squad_id ?? ""}
              onChange={(e) => setSearch(e.target.value ? { squad: e.target.value } : {}, { replace: true })}
            >
              {d.may_show_all && <option value="">all squads</option>}
              {d.squads.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        <nav aria-label="Other days" className="d-flex gap-2">
          {d.previous && (
            <Link className="btn btn-plain btn-sm" to={`/learning/day/${d.previous}${of}`}>
              ← {shortDay(d.previous)}
            </Link>
          )}
          {d.following && (
            <Link className="btn btn-plain btn-sm" to={`/learning/day/${d.following}${of}`}>
              {shortDay(d.following)} →
            </Link>
          )}
        </nav>
      </div>
      {d.sessions.length === 0 && d.missed.length === 0 && (
        <Empty title="Nobody trained on this day.">What is planned stands on the weeks; what was done stands here.</Empty>
      )}
      <Missed day={d} />
      {together(d.sessions).map((some) => (
        <Together key={some[0]?.session_id} sessions={some} day={d} />
      ))}
    </div>
  );
}

/** Who was planned and never began; the reason is said where the weeks are. */
function Missed({ day }: { day: Day }) {
  if (day.missed.length === 0) return null;
  return (
    <section className="sheet pad mb-3" aria-label="Missed">
      <h2 className="mb-1">Missed</h2>
      <ul className="list-unstyled m-0">
        {day.missed.map((m) => (
          <li key={`${m.athlete_id} ${m.theme}`}>
            <Link to={`/learning/athlete/${m.athlete_id}`}>{m.athlete}</Link> <span className="soft">{m.theme} ·</span>{" "}
            {m.reason || <span className="soft">no reason said</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Who trained together, one under another. */
function Together({ sessions, day }: { sessions: Session[]; day: Day }) {
  const first = sessions[0];
  if (!first) return null;
  return (
    <section className="sheet mb-3" aria-label={`${first.squad}, ${first.theme}`}>
      <h2 className="pad pb-1 m-0">
        {first.squad} <span className="soft fw-normal">· {first.theme}</span>
      </h2>
      <ul className="list-unstyled m-0 looked-back">
        {sessions.map((s) => (
          <OneSession key={s.session_id} session={s} day={day} />
        ))}
      </ul>
    </section>
  );
}

function OneSession({ session: s, day }: { session: Session; day: Day }) {
  const [writes, setWrites] = useState(false);
  return (
    <li>
      <div className="pad py-2 d-flex flex-wrap gap-2 align-items-baseline">
        <Link to={`/floor/${s.session_id}/review`} className="fw-semibold">
          {s.athlete}
        </Link>
        <span className="num me-auto">{s.is_over ? s.words : `still running · ${s.words}`}</span>
        {day.may_note && !writes && (
          <Button variant="plain" size="sm" onClick={() => setWrites(true)} aria-label={`What did this teach of ${s.athlete}?`}>
            What did this teach?
          </Button>
        )}
        <Beside session={s} />
      </div>
      {writes && (
        <NoteFinding whose="athlete" id={s.athlete_id} kinds={day.kinds} session={s.session_id} isFirst onKept={() => setWrites(false)} />
      )}
    </li>
  );
}

/** What a coach would want to know of a session beside how far it came. */
function Beside({ session: s }: { session: Session }) {
  const rows: [string, string][] = [
    ["New best", s.bests.join(" · ")],
    ["Not as planned", s.not_as_planned.join(" · ")],
    ["Said at the rack", s.said.map((w) => `“${w}”`).join(", ")],
    ["Taught", s.taught.join(" · ")],
  ];
  const said = rows.filter(([, words]) => words !== "");
  if (said.length === 0 && s.pains.length === 0) return null;
  return (
    <div className="w-100 small">
      {s.pains.map((p) => (
        <p key={p} className="note asks mb-1">
          <b>Pain.</b> {p}. <Link to={`/floor/${s.session_id}/review`}>Decide in the review</Link>
        </p>
      ))}
      {said.map(([name, words]) => (
        <p key={name} className="m-0">
          <b>{name}:</b> {words}
        </p>
      ))}
    </div>
  );
}

/** Sessions of one squad and theme, in the order they came. */
function together(sessions: Session[]): Session[][] {
  const groups = new Map<string, Session[]>();
  for (const s of sessions) {
    const key = `${s.squad} ${s.theme}`;
    groups.set(key, [...(groups.get(key) ?? []), s]);
  }
  return [...groups.values()];
}
