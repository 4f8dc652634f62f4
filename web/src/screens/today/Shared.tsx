import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useMay } from "../../api/hooks";
import { useOpenRoom } from "../../api/useOpenRoom";
import { dayName } from "../../parts/dates";
import { Trouble } from "../../parts/states";

type Session = Schemas["SharedSession"];
type Person = Schemas["TodayPerson"];

const STATES: Record<Person["state"], [sign: string, words: string]> = {
  planned: ["□", "not here yet"],
  here: ["■", "here"],
  started: ["▶", "training"],
  finished: ["✓", "done"],
};

/** One row for each session that is done together: when, what, who, and the way to the floor. */
export function Shared({ sessions, day }: { sessions: Session[]; day: string }) {
  return (
    <ul className="sheet shared-list" aria-label="Training today">
      {sessions.map((s) => (
        <li key={`${s.squad_id}${s.starts}${s.theme}`}>
          <div className="shared-hour num">{s.starts || <small className="soft">no time set</small>}</div>
          <div>
            <div>
              <b className="shared-name">{s.name}</b> <span className="soft">· {title(s)}</span>
            </div>
            <ul className="shared-people" aria-label={`${s.name}: ${s.theme}`}>
              {s.people.map((p) => (
                <li key={p.athlete_id}>
                  <PersonChip person={p} day={day} />
                </li>
              ))}
            </ul>
          </div>
          <div className="shared-way">
            <span className="soft small" role="status">
              {come(s)}
            </span>
            <Way session={s} day={day} />
          </div>
        </li>
      ))}
    </ul>
  );
}

function title(s: Session): string {
  const key = s.people.every((p) => p.key === s.people[0]?.key) ? dayName(s.people[0]?.key ?? "") : "";
  return [key, s.theme, s.words].filter(Boolean).join(" · ");
}

function come(s: Session): string {
  const done = s.people.filter((p) => p.state === "finished").length;
  const here = s.people.filter((p) => p.state !== "planned").length;
  if (done === s.people.length) return "all done";
  return s.room_id === null && here === 0 ? "not open yet" : `${here} of ${s.people.length} here`;
}

function PersonChip({ person: p, day }: { person: Person; day: string }) {
  const [sign, words] = STATES[p.state];
  const to =
    p.session_id === null
      ? `/athletes/${p.athlete_id}/session/${day}/${p.key}`
      : p.state === "finished"
        ? `/floor/${p.session_id}/review`
        : p.is_planned && p.state !== "started"
          ? `/athletes/${p.athlete_id}/session/${day}/${p.key}`
          : `/floor/${p.session_id}`;
  return (
    <Link to={to} className={`person-chip is-${p.state}`} title={`${p.athlete_name}: ${words}`}>
      <span aria-hidden>{sign}</span>
      {p.plan && <b className="plan-letter">{p.plan}</b>} {p.athlete_name}
      <span className="visually-hidden">
        , {words}
        {p.plan && `, plan ${p.plan}`}
      </span>
    </Link>
  );
}

function Way({ session: s, day }: { session: Session; day: string }) {
  const may = useMay();
  const room = useOpenRoom();
  const first = s.people[0];
  if (may("run") && s.room_id !== null) {
    return (
      <Link className="btn btn-primary" to={`/room/${s.room_id}`}>
        To the floor
      </Link>
    );
  }
  if (may("run") && s.people.some((p) => p.state === "planned")) {
    return (
      <>
        <button type="button" className="btn btn-plain" onClick={() => void room.open(s.squad_id)}>
          Open arrival
        </button>
        {room.problem && <Trouble problem={room.problem} />}
      </>
    );
  }
  if (!first || !may("training")) return null;
  return (
    <Link className="btn btn-plain" to={`/athletes/${first.athlete_id}/session/${day}/${first.key}/squad`}>
      The sheet
    </Link>
  );
}
