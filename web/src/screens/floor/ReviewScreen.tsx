import Button from "react-bootstrap/Button";
import { Link, useParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useMay, useReview } from "../../api/hooks";
import { stale } from "../../api/keys";
import { send } from "../../api/outbox";
import { useAction } from "../../api/useAction";
import { longDay, shortDay, toCompetition } from "../../parts/dates";
import { RiseAnswers } from "../../parts/RiseAnswers";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { Taught } from "../learning/Taught";

type Review = Schemas["ReviewOut"];

export default function ReviewScreen() {
  const id = Number(useParams().id);
  const review = useReview(id);
  const mayRead = useMay()("training");
  if (review.isPending) return <Loading what="the review" />;
  if (review.isLoadingError) return <Failed error={review.error} again={() => void review.refetch()} />;
  const r = review.data;
  return (
    <div className="page">
      <h1>
        {r.athlete_name} · {longDay(r.day)} {r.days_to_go !== null && `· ${toCompetition(r.days_to_go)}`}
      </h1>
      <p className="soft">
        {r.theme}
        {r.minutes !== null && r.load_au === null && ` · ${Math.round(r.minutes)} min`}
        {r.load_au !== null
          ? ` · session load ${r.load_au} AU (RPE ${r.srpe} × ${Math.round(r.minutes ?? 0)} min)`
          : r.srpe !== null && ` · session RPE ${r.srpe}`}
        {mayRead && (
          <>
            {" · "}
            <Link to={`/learning/day/${r.day}`}>everybody’s that day</Link>
          </>
        )}
      </p>
      <Pains review={r} />
      <div className="row g-3">
        <div className="col-lg-6">
          <Done review={r} />
        </div>
        <div className="col-lg-6">
          <Bests review={r} />
          <Taught athlete={r.athlete_id} session={id} />
          <Estimates review={r} />
          <Next review={r} />
        </div>
      </div>
    </div>
  );
}

/** What hurt in the session: the next plan waits for a person's word on it. */
function Pains({ review }: { review: Review }) {
  const answer = useAction(
    (to: { id: number; answer: string }) => send<Review>(`/api/floor/pains/${to.id}/answer`, { answer: to.answer }),
    {
      after: (client) => stale.afterSession(client),
    },
  );
  if (review.pains.length === 0) return null;
  return (
    <div className="mb-3">
      {answer.problem && <Trouble problem={answer.problem} />}
      {review.pains.map((p) => (
        <div key={p.id} className="note asks mb-2">
          <b>Pain.</b> {p.words}. {p.carried_on ? `Carried on: ${p.carried_on}.` : "Stopped there."}
          {p.answer ? (
            <div className="soft">{SAID[p.answer]}</div>
          ) : (
            <>
              <div>Decide before it is loaded again; it is asked about on the next arrival too.</div>
              <div className="d-flex flex-wrap gap-2 mt-1">
                {p.may_restrict && (
                  <Button className="tap" disabled={answer.isPending} onClick={() => answer.run({ id: p.id, answer: "restricted" })}>
                    Restrict until it is cleared
                  </Button>
                )}
                <Button
                  variant="plain"
                  className="tap"
                  disabled={answer.isPending}
                  onClick={() => answer.run({ id: p.id, answer: "cleared" })}
                >
                  Looked at: train as written
                </Button>
              </div>
            </>
          )}
        </div>
      ))}
    </div>
  );
}

const SAID: Record<string, string> = {
  cleared: "Answered: train as written.",
  restricted: "Answered: restricted until a licensed professional clears it.",
  asked: "Asked again on a later arrival.",
};

function Done({ review }: { review: Review }) {
  return (
    <div className="sheet">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          Planned against done
        </caption>
        <thead>
          <tr>
            <th>
              <span className="visually-hidden">Slot</span>
            </th>
            <th>Exercise</th>
            <th>Planned</th>
            <th>Done</th>
            <th>Against the plan</th>
          </tr>
        </thead>
        <tbody>
          {review.lines.map((l) => (
            <tr key={l.slot}>
              <td className="slot">{l.slot}</td>
              <td>{l.exercise}</td>
              <td className="num">{l.text}</td>
              <td className="num">
                {l.sets.map((s, i) => (
                  <div key={i}>{s}</div>
                ))}
              </td>
              <td className={l.words === "as planned" ? "soft" : "clay fw-semibold"}>{l.words}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What of the session went beyond everything before. */
function Bests({ review }: { review: Review }) {
  if (review.bests.length === 0) return null;
  return (
    <section className="sheet pad mb-3" aria-label="New bests">
      <h2 className="mb-1">{review.bests.length === 1 ? "A new best" : `${review.bests.length} new bests`}</h2>
      <ul className="list-unstyled m-0">
        {review.bests.map((b) => (
          <li key={`${b.exercise} ${b.words}`}>
            <b>{b.exercise}</b> <span className="num">{b.words}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Estimates({ review }: { review: Review }) {
  return (
    <div className="sheet mb-3">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          What it says about the max
        </caption>
        <thead>
          <tr>
            <th>Lift</th>
            <th className="right">Before</th>
            <th className="right">Now</th>
            <th>By the day's velocities</th>
          </tr>
        </thead>
        <tbody>
          {review.lifts.map((l) => (
            <tr key={l.exercise}>
              <td>{l.exercise}</td>
              <td className="right num soft">{l.before || "–"}</td>
              <td className="right num nowrap" style={{ fontSize: "1.2rem" }}>
                <Working data={l.working} label={`${l.exercise} ${l.after || "–"} ${l.unit}, show the working`}>
                  {l.after || "–"}
                </Working>
                {l.after && (
                  <span className="soft fw-normal small">
                    {" "}
                    ±{l.error} {l.unit}
                  </span>
                )}
              </td>
              <td className="small">
                {l.velocity ? (
                  <>
                    <b className="num">
                      {l.velocity} {l.unit}
                    </b>
                    {l.velocity_range && ` (${l.velocity_range})`}
                  </>
                ) : (
                  <span className="soft">{l.velocity_missing.join("; ")}</span>
                )}
                {l.proposal && (
                  <div className="note asks mt-1">
                    <b>{l.proposal.question}</b>
                    <RiseAnswers rise={l.proposal} />
                  </div>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small pad mb-0">Estimates to support judgement. Open a number to see which set moved it.</p>
    </div>
  );
}

function Next({ review }: { review: Review }) {
  return (
    <div className="sheet">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          Next time
        </caption>
        <thead>
          <tr>
            <th>Day</th>
            <th>Exercise</th>
            <th>Line</th>
            <th className="right">Was</th>
            <th className="right">Now</th>
          </tr>
        </thead>
        <tbody>
          {review.next_loads.length === 0 && (
            <tr>
              <td colSpan={5} className="soft">
                None of these lifts comes back in the next two sessions.
              </td>
            </tr>
          )}
          {review.next_loads.map((n) => (
            <tr key={`${n.day}${n.slot}`}>
              <td className="nowrap">{shortDay(n.day)}</td>
              <td>{n.exercise}</td>
              <td className="num">{n.text}</td>
              <td className="right num soft nowrap">{n.before}</td>
              {n.waits ? (
                <td className="right clay fw-semibold">{n.waits}</td>
              ) : (
                <td className={`right num ${n.after_kg !== n.before_kg ? "fw-bold" : "soft"}`} style={{ fontSize: "1.1rem" }}>
                  <Working data={n.working} label={`${n.exercise} ${n.after}, show the working`}>
                    {n.after}
                  </Working>
                  {n.exact && <div className="soft small fw-normal">{n.exact}</div>}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {review.next_day && (
        <p className="pad mb-0">
          <Link to={`/athletes/${review.athlete_id}/session/${review.next_day}/${review.next_key}`} className="btn btn-primary">
            Open the next session
          </Link>
        </p>
      )}
    </div>
  );
}
