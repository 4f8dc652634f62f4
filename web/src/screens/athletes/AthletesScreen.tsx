import { useDeferredValue, useState } from "react";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useAthletes, useUnit } from "../../api/hooks";
import { dayMonth, inDays, kg } from "../../parts/dates";
import { Empty, Failed, Loading } from "../../parts/states";
import { Working } from "../../parts/Working";
import { AddAthlete } from "./AddAthlete";
import { Needs } from "../../parts/Needs";

export function AthletesScreen() {
  const [wanted, setWanted] = useState("");
  const needle = useDeferredValue(wanted.trim());
  const athletes = useAthletes(needle);
  const [adding, setAdding] = useState(false);
  if (athletes.isPending) return <Loading what="the athletes" />;
  if (athletes.isLoadingError) return <Failed error={athletes.error} again={() => void athletes.refetch()} />;
  const { count, squad_count, found } = athletes.data.pages[0] ?? { count: 0, squad_count: 0, found: 0 };
  const shown = together(athletes.data.pages.flatMap((p) => p.squads));
  const here = shown.reduce((n, s) => n + s.athletes.length, 0);
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>Athletes</h1>
          <p className="soft m-0">
            {count} in <Link to="/squads">{squad_count === 1 ? "1 squad" : `${squad_count} squads`}</Link> · maxes are today's, each with
            its working
          </p>
        </div>
        <div className="ms-auto d-flex flex-wrap gap-2 align-items-center">
          <Needs may="plan">
            <button type="button" className="btn btn-plain btn-sm" onClick={() => setAdding(true)}>
              Add an athlete
            </button>
            <Link className="btn btn-plain btn-sm" to="/athletes/import">
              Import
            </Link>
            <a className="btn btn-plain btn-sm" href="/api/export/athletes.csv">
              CSV
            </a>
            <a className="btn btn-plain btn-sm" href="/api/export/athletes.xlsx">
              XLSX
            </a>
          </Needs>
        </div>
        <Form.Control
          aria-label="Find an athlete"
          placeholder="Name, group, position, squad"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
          style={{ width: 220 }}
        />
      </div>
      {adding && <AddAthlete onDone={() => setAdding(false)} />}
      {shown.length === 0 && <Empty title={needle ? `Nobody is called “${wanted}”.` : "No athletes yet."} />}
      {shown.map((squad) => (
        <SquadTable key={squad.id} squad={squad} />
      ))}
      {athletes.hasNextPage && (
        <p>
          {here} of {found} ·{" "}
          <button
            type="button"
            className="btn btn-plain btn-sm"
            disabled={athletes.isFetchingNextPage}
            onClick={() => void athletes.fetchNextPage()}
          >
            More
          </button>
        </p>
      )}
    </div>
  );
}

/** The athletes of a squad with what stands beside each. */
function SquadTable({ squad }: { squad: Schemas["SquadOut"] }) {
  const unit = useUnit();
  const lifts = squad.athletes[0]?.lifts ?? [];
  /** The unit of a column: none where rooms of both stand in it, and each figure says its own. */
  const oneUnit = (lift: string) => {
    const units = new Set(squad.athletes.flatMap((a) => a.lifts.filter((l) => l.exercise_id === lift).map((l) => l.unit)));
    return units.size === 1 ? [...units][0] : undefined;
  };
  const classes = squad.athletes.some((a) => a.body_mass_class);
  return (
    <div className="sheet mb-3">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          {squad.name} · <Link to={`/squads/${squad.id}/season`}>season</Link> · <Link to={`/squads/${squad.id}/week`}>week</Link> ·{" "}
          <Link to={`/squads/${squad.id}/test-day`}>test day</Link>
        </caption>
        <thead>
          <tr>
            <th style={{ width: "20%" }}>Athlete</th>
            {classes && <th className="right">Class</th>}
            <th className="right">Mass, {unit}</th>
            {lifts.map((l) => (
              <th key={l.exercise_id} className="right">
                {l.exercise}
                {oneUnit(l.exercise_id) && `, ${oneUnit(l.exercise_id)}`}
              </th>
            ))}
            <th>Next competition</th>
            <th>Phase</th>
            <th className="right">Last session</th>
          </tr>
        </thead>
        <tbody>
          {squad.athletes.map((a) => (
            <tr key={a.id}>
              <td>
                <Link to={`/athletes/${a.id}`} className="fw-semibold">
                  {a.name}
                </Link>
                {(a.group || a.note) && <div className="soft small">{[a.group, a.note].filter(Boolean).join(" · ")}</div>}
              </td>
              {classes && <td className="right num nowrap">{a.body_mass_class}</td>}
              <td className="right num">{kg(a.mass)}</td>
              {a.lifts.map((l) => (
                <td key={l.exercise_id} className="right num nowrap" style={{ fontSize: "1.08rem" }}>
                  <Working data={l.working}>{l.max === null ? "–" : Math.round(l.max)}</Working>
                  {l.max !== null && !oneUnit(l.exercise_id) && <small className="soft fw-normal"> {l.unit}</small>}
                  {l.error !== null && (
                    <span className="soft fw-normal" title="typical error">
                      {" "}
                      ±{Math.round(l.error)}
                    </span>
                  )}
                </td>
              ))}
              <td>
                {a.competition ? (
                  <Link to={`/athletes/${a.id}/season`}>
                    {a.competition.name} · {inDays(a.competition.days_to_go)}
                  </Link>
                ) : (
                  <Link to={`/athletes/${a.id}/season`} className="clay">
                    none yet
                  </Link>
                )}
              </td>
              <td>{a.competition?.phase_name}</td>
              <td className="right nowrap">{a.last_session ? dayMonth(a.last_session) : "–"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Squads of several pages, each once with all of its athletes. */
function together(squads: Schemas["SquadOut"][]): Schemas["SquadOut"][] {
  const found = new Map<number, Schemas["SquadOut"]>();
  for (const s of squads) {
    const before = found.get(s.id);
    found.set(s.id, before ? { ...s, athletes: [...before.athletes, ...s.athletes] } : s);
  }
  return [...found.values()];
}
