import { Link } from "react-router";

import { useToday } from "../../api/hooks";
import { longDay } from "../../parts/dates";
import { Empty, Failed, Loading } from "../../parts/states";

/** Which session to run: the ones that are running first, then today's. */
export default function FloorEntry() {
  const today = useToday();
  if (today.isPending) return <Loading what="today's sessions" />;
  if (today.isError) return <Failed error={today.error} again={() => void today.refetch()} />;
  const sessions = [...today.data.sessions].sort((a, b) => Number(b.state === "started") - Number(a.state === "started"));
  return (
    <div className="page" style={{ maxWidth: 760 }}>
      <h1>On the floor · {longDay(today.data.day)}</h1>
      <p className="soft">A running session goes on where it was. A planned one is started from its sheet.</p>
      {sessions.length === 0 && (
        <Empty title="No session today.">
          <Link to="/">Look at the next days</Link>
        </Empty>
      )}
      {sessions.map((s) => (
        <div key={`${s.athlete_id}${s.key}`} className="sheet pad d-flex align-items-center gap-3 mb-2">
          <div>
            <div className="fw-semibold">{s.athlete_name}</div>
            <div className="soft small">
              {s.key} · {s.theme} · {s.phase_name} · {s.days_to_go} to go
            </div>
          </div>
          <div className="ms-auto">
            {s.state === "started" && (
              <Link className="btn btn-primary tap" to={`/floor/${s.session_id}`}>
                Go on
              </Link>
            )}
            {s.state === "planned" && (
              <Link className="btn btn-plain tap" to={`/athletes/${s.athlete_id}/session/${s.day}/${s.key}`}>
                Open the sheet
              </Link>
            )}
            {s.state === "finished" && (
              <Link className="btn btn-plain tap" to={`/floor/${s.session_id}/review`}>
                Review
              </Link>
            )}
          </div>
        </div>
      ))}
    </div>
  );
}
