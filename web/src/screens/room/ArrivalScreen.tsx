import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useNavigate, useParams } from "react-router";

import { problemOf, type Problem, type Schemas } from "../../api/client";
import { send } from "../../api/outbox";
import { longDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { PersonPanel } from "./PersonPanel";
import { useRoom, type Person, type Room } from "./useRoom";

/** Who is here, how they are, what the day makes of their session, where they lift. */
export default function ArrivalScreen() {
  const id = Number(useParams().id);
  const { room, write } = useRoom(id);
  if (room.isPending) return <Loading what="the room" />;
  if (room.isLoadingError) return <Failed error={room.error} again={() => void room.refetch()} />;
  return <Arrival room={room.data} write={write} refetch={() => void room.refetch()} />;
}

export type Write = (path: string, body: unknown) => Promise<Room>;

function Arrival({ room, write, refetch }: { room: Room; write: Write; refetch: () => void }) {
  const navigate = useNavigate();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [said, setSaid] = useState("");
  const [chosen, setChosen] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const person = room.people.find((p) => p.athlete_id === chosen) ?? room.people.find((p) => p.is_here) ?? room.people[0];
  const act = (path: string, body: unknown) => {
    setProblem(null);
    return write(path, body).catch((e: unknown) => {
      setProblem(problemOf(e));
      throw e;
    });
  };
  const quiet = (path: string, body: unknown) => void act(path, body).catch(() => undefined);
  const here = room.people.filter((p) => p.is_here);
  const count = (plan: string) => here.filter((p) => (p.word?.plan ?? p.suggestion.plan) === plan && p.said).length;
  const waiting = here.filter((p) => p.session?.state === "planned");
  const running = here.filter((p) => p.session?.state === "running");
  function begin() {
    setBusy(true);
    setProblem(null);
    send<Schemas["BegunOut"]>(`/api/room/${room.id}/begin`, {})
      .then((answer) => {
        setSaid(`${answer.began.length} began.${answer.left.length ? ` Not: ${answer.left.join("; ")}.` : ""}`);
        refetch();
        if (answer.began.length && answer.room.people.some((p) => p.is_here && p.rack !== null)) void navigate(`/room/${room.id}/racks`);
      })
      .catch((e: unknown) => setProblem(problemOf(e)))
      .finally(() => setBusy(false));
  }
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>
            {room.squad} · {longDay(room.day)}
          </h1>
          <p className="m-0" role="status">
            <b className="num fs-5">{here.length}</b> of {room.people.length} here · plan <b>A</b> {count("A")} · <b>B</b> {count("B")} ·{" "}
            <b>C</b> {count("C")}
            {here.length > 0 && ` · ${here.filter((p) => !p.said).length} still to answer`}
            {said && <span className="soft"> · {said}</span>}
          </p>
        </div>
        <div className="ms-auto d-flex flex-wrap gap-2">
          <Button
            variant="plain"
            className="tap"
            disabled={here.length === room.people.length}
            onClick={() => quiet("here", { athlete_ids: room.people.map((p) => p.athlete_id), is_here: true })}
          >
            All here
          </Button>
          <Button className="tap px-3" disabled={busy || waiting.length === 0} onClick={begin}>
            Begin {waiting.length > 0 && waiting.length} {waiting.length === 1 ? "session" : "sessions"}
          </Button>
          <Link className={`btn tap ${running.length ? "btn-primary" : "btn-plain"}`} to={`/room/${room.id}/racks`}>
            To the racks
          </Link>
        </div>
      </div>
      {problem && (
        <div className="mb-2">
          <Trouble problem={problem} />
        </div>
      )}
      <Racks room={room} act={quiet} />
      <div className="arrival">
        <div className="sheet">
          <table className="board">
            <caption className="visually-hidden">Athletes of the squad: here or not, answers, plan, rack</caption>
            <thead>
              <tr>
                <th>Here</th>
                <th>Athlete</th>
                <th className="d-none d-md-table-cell">Today</th>
                <th>
                  Answers <span className="fw-normal small">sleep sore stress energy</span>
                </th>
                <th>Plan</th>
                <th>Rack</th>
              </tr>
            </thead>
            <tbody>
              {room.people.map((p) => (
                <Row
                  key={p.athlete_id}
                  p={p}
                  room={room}
                  chosen={p.athlete_id === person?.athlete_id}
                  choose={() => setChosen(p.athlete_id)}
                  act={quiet}
                />
              ))}
            </tbody>
          </table>
        </div>
        {person && <PersonPanel key={person.athlete_id} room={room} person={person} act={act} />}
      </div>
    </div>
  );
}

interface RowProps {
  p: Person;
  room: Room;
  chosen: boolean;
  choose: () => void;
  act: (path: string, body: unknown) => void;
}

function Row({ p, room, chosen, choose, act }: RowProps) {
  const answers = p.said ? [p.said.sleep, p.said.soreness, p.said.stress, p.said.energy] : [];
  const plan = p.word?.plan ?? p.suggestion.plan;
  return (
    <tr className={chosen ? "chosen" : undefined} aria-current={chosen || undefined}>
      <td>
        <Button
          variant={p.is_here ? "primary" : "plain"}
          className="tap px-2"
          aria-pressed={p.is_here}
          aria-label={`${p.name} ${p.is_here ? "here" : "not here"}`}
          onClick={() => act("here", { athlete_ids: [p.athlete_id], is_here: !p.is_here })}
        >
          {p.is_here ? "here" : "–"}
        </Button>
      </td>
      <td>
        <button type="button" className="btn btn-link tap p-0 text-start fw-semibold" onClick={choose}>
          {p.name}
        </button>
        {p.guest_of && <div className="soft small">guest, {p.guest_of}</div>}
      </td>
      <td className="soft small d-none d-md-table-cell">
        {p.session ? (
          <>
            {p.session.theme}
            {p.session.state !== "planned" && <b className="text-body"> · {p.session.state}</b>}
          </>
        ) : (
          "no session today"
        )}
      </td>
      <td className="nowrap">
        {p.said ? (
          <>
            <span className="num fs-5">{answers.map((a) => a ?? "–").join("\u2002")}</span>
            {p.suggestion.referral && <b className="clay ms-2 pain-flag">pain</b>}
            {p.by_athlete && <span className="soft small"> own</span>}
          </>
        ) : (
          <span className="soft">–</span>
        )}
      </td>
      <td className="nowrap">
        {(p.said ?? p.word) && (
          <>
            <span className={`plan-letter ${p.word ? "decided" : ""}`}>{plan}</span>
            {p.word ? (
              p.word.plan !== p.suggestion.plan && <span className="soft small aside"> said {p.suggestion.plan}</span>
            ) : (
              <span className="soft small"> suggested</span>
            )}
          </>
        )}
      </td>
      <td>
        {p.is_here && (
          <select
            className="form-select form-select-sm tap"
            style={{ minWidth: 60 }}
            aria-label={`Rack of ${p.name}`}
            value={p.rack ?? ""}
            onChange={(e) => act("put", { athlete_id: p.athlete_id, rack: e.target.value ? Number(e.target.value) : null })}
          >
            <option value="">–</option>
            {room.places.map((place) => (
              <option key={place.rack} value={place.rack}>
                {place.use === "bar" ? place.rack : place.title}
              </option>
            ))}
          </select>
        )}
      </td>
    </tr>
  );
}

/** How many racks, what the rests are for, and everybody placed by like load and height. */
function Racks({ room, act }: { room: Room; act: (path: string, body: unknown) => void }) {
  const [places, setPlaces] = useState(false);
  const set = (change: { racks?: number; goal?: string; place?: boolean }) =>
    act("racks", { racks: room.racks, goal: room.goal, place: false, ...change });
  return (
    <div className="d-flex flex-wrap gap-3 align-items-end mb-2">
      <label className="small">
        Racks
        <select className="form-select tap" value={room.racks} onChange={(e) => set({ racks: Number(e.target.value) })}>
          {Array.from({ length: room.most_racks }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </select>
      </label>
      <label className="small">
        Rest for
        <select className="form-select tap" value={room.goal} onChange={(e) => set({ goal: e.target.value })}>
          {room.goals.map((g) => (
            <option key={g.key} value={g.key}>
              {g.name}
            </option>
          ))}
        </select>
      </label>
      <Button variant="plain" className="tap" disabled={!room.people.some((p) => p.is_here)} onClick={() => set({ place: true })}>
        Place by load and height
      </Button>
      <Button variant="plain" className="tap" aria-expanded={places} onClick={() => setPlaces(!places)}>
        What each place is for
      </Button>
      {places && (
        <div className="d-flex flex-wrap gap-2 w-100">
          {room.places.map((place) => (
            <label key={place.rack} className="small">
              Place {place.rack}
              <select className="form-select tap" value={place.use} onChange={(e) => act("use", { rack: place.rack, use: e.target.value })}>
                {room.uses.map((u) => (
                  <option key={u.key} value={u.key}>
                    {u.name}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </div>
      )}
    </div>
  );
}
