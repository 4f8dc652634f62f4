import { useQuery } from "@tanstack/react-query";
import Button from "react-bootstrap/Button";
import { Link } from "react-router";

import { api, need } from "../../api/client";
import { keys } from "../../api/keys";
import { useToday } from "../../api/hooks";
import { useOpenRoom } from "../../api/useOpenRoom";
import { longDay } from "../../parts/dates";
import { OfflineReady } from "../../parts/OfflineReady";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { counted } from "../../parts/counted";

/** Which session to run: the ones that are running first, then today's. */
export default function FloorEntry() {
  const today = useToday();
  if (today.isPending) return <Loading what="today's sessions" />;
  if (today.isLoadingError) return <Failed error={today.error} again={() => void today.refetch()} />;
  const sessions = today.data.shared
    .flatMap((s) => s.people.map((p) => ({ ...p, theme: s.theme, words: s.words })))
    .sort((a, b) => Number(b.state === "started") - Number(a.state === "started"));
  return (
    <div className="page" style={{ maxWidth: 760 }}>
      <h1>On the floor · {longDay(today.data.day)}</h1>
      <Rooms />
      <h2>Single sessions</h2>
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
            <div className="soft small">{[s.theme, s.words].filter(Boolean).join(" · ")}</div>
          </div>
          <div className="ms-auto">
            {s.state === "started" && (
              <Link className="btn btn-primary tap" to={`/floor/${s.session_id}`}>
                Resume
              </Link>
            )}
            {s.state !== "started" && s.state !== "finished" && (
              <Link className="btn btn-plain tap" to={`/athletes/${s.athlete_id}/session/${today.data.day}/${s.key}`}>
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
      <OfflineReady day={today.data.day} sessions={sessions} saysWhyNot />
    </div>
  );
}

/** A squad in the room: arrival, racks, clocks. */
function Rooms() {
  const { open, problem } = useOpenRoom();
  const entries = useQuery({ queryKey: keys.roomEntries, queryFn: () => need(api.GET("/api/room/entries")) });
  return (
    <div className="mb-4">
      {problem && <Trouble problem={problem} />}
      {entries.data?.map((e) => (
        <div key={e.squad_id} className="sheet pad d-flex align-items-center gap-3 mb-2">
          <div>
            <div className="fw-semibold">{e.squad}</div>
            <div className="soft small">
              {e.room_id ? `${e.here} of ${e.athletes} here` : `${counted(e.athletes, "athlete")}, the room is not open yet`}
            </div>
          </div>
          <div className="ms-auto d-flex gap-2">
            <Button className="tap" variant={e.room_id ? "plain" : "primary"} onClick={() => void open(e.squad_id)}>
              {e.room_id ? "Arrival" : "Open the room"}
            </Button>
            {e.room_id !== null && (
              <Link className="btn btn-primary tap" to={`/room/${e.room_id}/racks`}>
                Racks
              </Link>
            )}
          </div>
        </div>
      ))}
      <p className="small m-0">
        <Link className="tap" to="/sensors">
          Sensors of the room
        </Link>
      </p>
    </div>
  );
}
