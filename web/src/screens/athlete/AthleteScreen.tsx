import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useAthlete } from "../../api/hooks";
import { firstProblem, useAction } from "../../api/useAction";
import { dayMonth, dayYear, hour, inDays, kg } from "../../parts/dates";
import { Margin, type MarginNote } from "../../parts/Margin";
import { RiseAnswers } from "../../parts/RiseAnswers";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { AthleteTabs } from "./AthleteTabs";
import { MarkForm } from "./MarkForm";
import { ProfileChart } from "./ProfileChart";
import { TrendChart } from "./TrendChart";
import { Needs } from "../../parts/Needs";
import { counted } from "../../parts/counted";

type Athlete = Schemas["AthleteOut"];
const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export function AthleteScreen() {
  const id = Number(useParams().id);
  const athlete = useAthlete(id);
  const [lift, setLift] = useState<string | null>(null);
  if (athlete.isPending) return <Loading what="the athlete" />;
  if (athlete.isLoadingError) return <Failed error={athlete.error} again={() => void athlete.refetch()} />;
  const a = athlete.data;
  const chosen = a.lifts.find((l) => l.exercise_id === lift) ?? a.lifts.find((l) => l.profile) ?? a.lifts[0];
  const mass = a.masses.at(-1);
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3">
        <h1>{a.name}</h1>
        <p className="m-0 soft">
          {a.squad} · {a.age !== null && `${a.age} years · `}
          {a.training_age_years} years of lifting
          {a.body_mass_class && ` · class ${a.body_mass_class}`}
          {mass && ` · ${mass.words} on ${dayMonth(mass.day)}`}
        </p>
        <p className="m-0 ms-auto">
          {a.competition ? (
            <Link to={`/athletes/${id}/season`}>
              {a.competition.name} · {inDays(a.competition.days_to_go)} · {a.competition.phase_name}
            </Link>
          ) : (
            <Link to={`/athletes/${id}/season`} className="btn btn-primary">
              Add a competition
            </Link>
          )}
        </p>
      </div>
      <AthleteTabs id={id} />
      <div className="with-margin">
        <div>
          {a.lifts.length === 0 && (
            <Empty title="No results yet.">A tested max, a rep-max or a set with reps in reserve gives the first loads.</Empty>
          )}
          {a.lifts.length > 0 && (
            <div className="sheet table-responsive">
              <table className="board">
                <caption className="visually-hidden">Max of each lift today</caption>
                <thead>
                  <tr>
                    <th>Lift</th>
                    <th className="right">e1RM</th>
                    <th className="right">± typical error</th>
                    <th>Based on</th>
                    <th>Profile</th>
                  </tr>
                </thead>
                <tbody>
                  {a.lifts.map((l) => (
                    <tr
                      key={l.exercise_id}
                      aria-current={l === chosen ? "true" : undefined}
                      style={l === chosen ? { background: "var(--wash)" } : undefined}
                    >
                      <td>
                        <button type="button" className="line-text" onClick={() => setLift(l.exercise_id)}>
                          {l.exercise}
                        </button>
                      </td>
                      <td className="right num" style={{ fontSize: "1.3rem" }}>
                        <Working data={l.working} label={`${l.max} ${l.unit}, show the working`}>
                          {kg(l.max)}
                        </Working>{" "}
                        <small className="soft fw-normal">{l.unit}</small>
                      </td>
                      <td className="right num soft">
                        {l.error.toFixed(1)} {l.unit}
                      </td>
                      <td className="soft">{l.working.inputs[0]?.text}</td>
                      <td className="nowrap">
                        {l.profile ? (l.profile.quality.length ? "needs more" : `R² ${l.profile.r_squared.toFixed(2)}`) : "–"}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          {chosen && (
            <div className="row g-3 mt-0">
              <div className="col-lg-7">
                <TrendChart lift={chosen} />
              </div>
              <div className="col-lg-5">
                <ProfileChart lift={chosen} />
              </div>
            </div>
          )}
          <Marks athlete={a} />
        </div>
        <Side athlete={a} />
      </div>
    </div>
  );
}

function Side({ athlete: a }: { athlete: Athlete }) {
  const notes: MarginNote[] = a.lifts
    .filter((l) => l.proposal)
    .map((l) => ({
      id: `rise-${l.exercise_id}`,
      decision: true,
      title: `${l.exercise}: ${l.proposal?.question}`,
      text: "",
      action: l.proposal && <RiseAnswers rise={l.proposal} />,
    }));
  for (const r of a.restrictions) {
    notes.push({
      id: r.words,
      decision: false,
      title: `${r.words}.`,
      text: `Set by the ${r.set_by} on ${dayMonth(r.since)}, until cleared. Nearest free exercises stand in.`,
    });
  }
  notes.push(...a.margin);
  return (
    <div>
      <Margin notes={notes} />
      <h2 className="mt-3">Practice</h2>
      {a.practices.length === 0 && <p className="soft">No practice is recorded.</p>}
      <ul className="list-unstyled small">
        {a.practices.map((p) => (
          <li key={`${p.weekday}${p.hour}`} className="practice mb-1">
            {DAYS[p.weekday]} {hour(p.hour)} · {p.minutes} min · RPE {p.hardness}
            {p.sport && ` · ${p.sport}`}
          </li>
        ))}
      </ul>
      <h2 className="mt-3">Last sessions</h2>
      {a.sessions.length === 0 && <p className="soft">None yet.</p>}
      <ul className="list-unstyled small">
        {a.sessions.map((s) => (
          <li key={s.id}>
            <Link to={s.finished ? `/floor/${s.id}/review` : `/floor/${s.id}`}>
              {dayMonth(s.day)} · {s.theme}
            </Link>{" "}
            <span className="soft">{s.finished ? counted(s.sets, "set") : "running"}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Marks({ athlete: a }: { athlete: Athlete }) {
  const [adding, setAdding] = useState(false);
  const [wrong, setWrong] = useState<Schemas["MarkOut"] | null>(null);
  const withdraw = useAction((markId: number) =>
    need(api.POST("/api/marks/{mark_id}/withdraw", { params: { path: { mark_id: markId } } })),
  );
  const usual = useAction((body: Schemas["UsualIn"]) =>
    need(api.PUT("/api/athletes/{athlete_id}/usual-conditions", { params: { path: { athlete_id: a.id } }, body })),
  );
  const problem = firstProblem(withdraw, usual);
  return (
    <section className="mt-3">
      <div className="d-flex align-items-center gap-3 mb-1">
        <h2 className="m-0">Results</h2>
        <Needs may="plan">
          <Button
            size="sm"
            variant="plain"
            onClick={() => {
              setWrong(null);
              setAdding(!adding);
            }}
            aria-expanded={adding}
          >
            {adding ? "Close" : "Add a result"}
          </Button>
        </Needs>
      </div>
      {adding && <MarkForm athlete={a} onDone={() => setAdding(false)} />}
      {wrong && <MarkForm key={wrong.id} athlete={a} wrong={wrong} onDone={() => setWrong(null)} />}
      {problem && <Trouble problem={problem} />}
      {a.usual.map((u) => (
        <p className="small mb-1" key={u.exercise_id}>
          <b>{u.exercise}</b>, usually: {u.words}.{" "}
          <button
            type="button"
            className="btn btn-link btn-sm p-0 align-baseline"
            aria-label={`Follow the results again: ${u.exercise}`}
            onClick={() => usual.run({ exercise_id: u.exercise_id, conditions: {} })}
          >
            Follow the results again
          </button>
        </p>
      ))}
      {a.marks.length > 0 && (
        <div className="sheet table-responsive">
          <table className="board">
            <thead>
              <tr>
                <th>Day</th>
                <th>Lift</th>
                <th>Kind</th>
                <th>Result</th>
                <th>Note</th>
                <th>
                  <span className="visually-hidden">Delete</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {a.marks.map((m) => (
                <tr key={m.id} style={m.withdrawn ? { textDecoration: "line-through", opacity: 0.75 } : undefined}>
                  <td className="nowrap">{dayYear(m.day)}</td>
                  <td>{m.exercise}</td>
                  <td>{m.kind_name}</td>
                  <td className="num nowrap">
                    <Working data={m.working}>{m.words}</Working>
                    {m.replaces && <div className="soft small fw-normal">instead of {m.replaces}</div>}
                    {!m.is_as_usual && !m.withdrawn && (
                      <div className="small fw-normal">
                        <span className="soft">not as usual: not compared ·</span>{" "}
                        <button
                          type="button"
                          className="btn btn-link btn-sm p-0 align-baseline"
                          aria-label={`it is usual: ${m.exercise} ${m.words}`}
                          onClick={() => usual.run({ exercise_id: m.exercise_id, conditions: m.conditions })}
                        >
                          it is usual
                        </button>
                      </div>
                    )}
                  </td>
                  <td className="soft">{m.note}</td>
                  <td className="right">
                    {m.withdrawn ? (
                      <span className="soft">{m.replaced ? "corrected" : "deleted"}</span>
                    ) : (
                      <Needs may="plan">
                        <button
                          type="button"
                          className="btn btn-link btn-sm p-0 me-3"
                          aria-label={`Correct ${m.exercise} ${m.words}`}
                          onClick={() => {
                            setAdding(false);
                            setWrong(m);
                          }}
                        >
                          Correct
                        </button>
                        <button
                          type="button"
                          className="btn btn-link btn-sm p-0"
                          aria-label={`Delete ${m.exercise} ${m.words}`}
                          onClick={() => withdraw.run(m.id)}
                        >
                          Delete
                        </button>
                      </Needs>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
