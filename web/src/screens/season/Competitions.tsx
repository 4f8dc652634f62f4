import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import type { Season } from "../../api/hooks";
import { shortDay, toGo } from "../../parts/dates";
import { CompetitionForm } from "./CompetitionForm";

interface Props {
  id: number;
  season: Season;
  answer: Schemas["SeasonAnswer"];
  scope: string;
  onScope: (scope: string) => void;
  onRank: (competition: number, rank: string) => void;
  onMove: (competition: number, day: string) => void;
  onTakeOut: (competition: number) => void;
}

/** Every competition of the season with its rank and day; a moved day is shown before and after until it is confirmed. */
export function Competitions({ id, season, answer, scope, onScope, onRank, onMove, onTakeOut }: Props) {
  const [adding, setAdding] = useState(false);
  return (
    <section className="mt-3" aria-label="Competitions">
      <Form.Group controlId="competition-scope" className="d-flex gap-2 align-items-center mb-1">
        <Form.Label className="small mb-0">What is changed here is for</Form.Label>
        <Form.Select size="sm" className="w-auto" value={scope} onChange={(e) => onScope(e.target.value)}>
          <option value="athlete">{season.athlete_name}</option>
          {answer.group && <option value="group">everybody of {answer.group} who has it</option>}
          <option value="squad">everybody of {answer.squad_name} who has it</option>
        </Form.Select>
      </Form.Group>
      <table className="board">
        <thead>
          <tr>
            <th>Competition</th>
            <th>Rank</th>
            <th>Day</th>
            <th className="right">to go</th>
            <th>
              <span className="visually-hidden">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {season.competitions.map((c) => (
            <tr key={`${c.id}${c.day}`}>
              <th scope="row" className="text-body fw-semibold">
                {c.name}
                {c.last_day && <span className="soft fw-normal"> to {shortDay(c.last_day)}</span>}
              </th>
              <td>
                <Form.Select
                  size="sm"
                  aria-label={`Rank of ${c.name}`}
                  value={c.rank}
                  onChange={(e) => onRank(c.id, e.target.value)}
                  disabled={c.days_to_go < 0}
                >
                  {answer.ranks.map((r) => (
                    <option key={r.id} value={r.id}>
                      {r.name}
                    </option>
                  ))}
                </Form.Select>
              </td>
              <td>
                {c.days_to_go > 0 ? (
                  <form
                    className="d-flex gap-1"
                    onSubmit={(e) => {
                      e.preventDefault();
                      const day = new FormData(e.currentTarget).get("day");
                      if (typeof day === "string" && day && day !== c.day) onMove(c.id, day);
                    }}
                  >
                    <input
                      type="date"
                      name="day"
                      aria-label={`Day of ${c.name}`}
                      className="form-control form-control-sm"
                      defaultValue={c.day}
                      required
                      style={{ width: 140 }}
                    />
                    <button type="submit" className="btn btn-plain btn-sm" aria-label={`Move it: ${c.name}`}>
                      Move it
                    </button>
                  </form>
                ) : (
                  shortDay(c.day)
                )}
              </td>
              <td className="right num nowrap">{toGo(c.days_to_go)}</td>
              <td className="right nowrap">
                {c.rank === "main" && c.days_to_go >= 0 && (
                  <Link
                    className="btn btn-link btn-sm p-0 me-3"
                    to={`/athletes/${id}/contest?competition=${c.id}`}
                    aria-label={`Events of ${c.name}`}
                  >
                    Events
                  </Link>
                )}
                <button
                  type="button"
                  className="btn btn-link btn-sm p-0"
                  aria-label={`Take out: ${c.name}`}
                  onClick={() => onTakeOut(c.id)}
                >
                  Take out
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {adding ? (
        <div className="mt-2">
          <CompetitionForm athleteId={id} ranks={answer.ranks} scope={scope} onDone={() => setAdding(false)} />
        </div>
      ) : (
        <Button size="sm" variant="plain" className="mt-2" onClick={() => setAdding(true)}>
          Add a competition
        </Button>
      )}
    </section>
  );
}
