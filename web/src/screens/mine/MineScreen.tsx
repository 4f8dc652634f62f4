import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useAthlete } from "../../api/hooks";
import { keys } from "../../api/keys";
import { dayMonth, shortDay } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { OwnAnswers } from "../room/OwnAnswers";

type Session = Schemas["TodaySession"];

/** An athlete's own page on a phone: today, the days ahead, the questions of the day, what they can lift. */
export default function MineScreen() {
  const mine = useQuery({ queryKey: keys.mine, queryFn: () => need(api.GET("/api/mine")), retry: false });
  if (mine.isPending) return <Loading what="your training" />;
  if (mine.isLoadingError) return <Failed error={mine.error} again={() => void mine.refetch()} />;
  const m = mine.data;
  return (
    <div className="page" style={{ maxWidth: 560, margin: "0 auto" }}>
      <h1>{m.name}</h1>
      <p className="soft">{m.squad}</p>
      {m.ready && <Questions ready={m.ready} />}
      <h2>Today</h2>
      {m.today.length === 0 && <p className="soft">No session today.</p>}
      {m.today.map((s) => (
        <SessionCard key={s.key} session={s} />
      ))}
      {m.ahead.length > 0 && <h2 className="mt-3">Ahead</h2>}
      {m.ahead.map((s) => (
        <SessionCard key={`${s.day}${s.key}`} session={s} />
      ))}
      <p className="mt-3">
        <Link to={`/report/athlete/${m.athlete_id}`}>My last weeks</Link>
      </p>
      <Lifts id={m.athlete_id} />
    </div>
  );
}

function SessionCard({ session: s }: { session: Session }) {
  const done = s.state === "finished" && s.session_id;
  return (
    <Link
      className="sheet pad d-flex gap-3 align-items-center mb-2 text-body text-decoration-none"
      style={{ minHeight: 56 }}
      to={done ? `/floor/${s.session_id}/review` : s.state === "started" ? `/floor/${s.session_id}` : `/session/${s.day}/${s.key}`}
    >
      <div>
        <b>{s.theme}</b>
        <div className="soft small">{[shortDay(s.day), s.phase_name].filter(Boolean).join(" · ")}</div>
      </div>
      <span className="ms-auto soft">{done ? "done" : s.state === "started" ? "running" : "open"}</span>
    </Link>
  );
}

function Questions({ ready }: { ready: Schemas["ReadyOut"] }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(ready.said === null);
  return (
    <section className="sheet pad mb-3" aria-label="How are you today">
      <h2>How are you today?</h2>
      {!open ? (
        <p className="m-0">
          Your coach has it.{" "}
          <button type="button" className="btn btn-link p-0" onClick={() => setOpen(true)}>
            Answer again
          </button>
        </p>
      ) : (
        <OwnAnswers<Schemas["MineOut"]>
          ready={ready}
          path="/api/mine/answers"
          onSent={(fresh) => {
            client.setQueryData(keys.mine, fresh);
            setOpen(false);
          }}
        />
      )}
    </section>
  );
}

/** What the athlete can lift, and the sessions behind them. */
function Lifts({ id }: { id: number }) {
  const athlete = useAthlete(id);
  if (!athlete.data) return null;
  const a = athlete.data;
  return (
    <>
      {a.lifts.length > 0 && (
        <>
          <h2 className="mt-3">What you can lift</h2>
          <div className="sheet">
            <table className="board">
              <thead>
                <tr>
                  <th>Lift</th>
                  <th className="right">e1RM</th>
                </tr>
              </thead>
              <tbody>
                {a.lifts.map((l) => (
                  <tr key={l.exercise_id}>
                    <td>{l.exercise}</td>
                    <td className="right num">
                      {Math.round(l.max)} {l.unit}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      {a.sessions.length > 0 && (
        <>
          <h2 className="mt-3">Behind you</h2>
          {a.sessions
            .filter((s) => s.finished)
            .map((s) => (
              <Link key={s.id} className="d-flex py-2 border-top" style={{ minHeight: 44 }} to={`/floor/${s.id}/review`}>
                {dayMonth(s.day)} · {s.theme}
                <span className="ms-auto soft">{s.sets} work sets</span>
              </Link>
            ))}
        </>
      )}
    </>
  );
}
