import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import type { Season } from "../../api/hooks";
import { inDays, shortDay } from "../../parts/dates";
import { RankSelect } from "../../parts/RankSelect";
import { BlockForm } from "./BlockForm";
import { CompetitionForm } from "./CompetitionForm";
import { Locked } from "../../parts/Locked";

interface Props {
  id: number;
  season: Season;
  answer: Schemas["SeasonAnswer"];
  scope: string;
  onScope: (scope: string) => void;
  onRank: (competition: number, rank: string) => void;
  onMove: (competition: number, day: string) => void;
  onLastDay: (competition: number, day: string | null) => void;
  onRepeat: (block: Schemas["SeasonBlockOut"]) => void;
  onTakeOut: (competition: number) => void;
}

type Row = Season["competitions"][number];

/** Every competition of the season with its rank and day; a moved day is shown before and after until it is confirmed. */
export function Competitions({ id, season, answer, scope, onScope, onRank, onMove, onLastDay, onRepeat, onTakeOut }: Props) {
  const [adding, setAdding] = useState<"" | "competition" | "block">("");
  return (
    <section className="mt-3" aria-label="Competitions">
      <Locked may="plan">
        <Form.Group controlId="competition-scope" className="d-flex flex-wrap gap-2 align-items-center mb-1">
          <Form.Label className="small mb-0">Changes count for</Form.Label>
          <Form.Select size="sm" className="w-auto" value={scope} onChange={(e) => onScope(e.target.value)}>
            <option value="athlete">{season.athlete_name}</option>
            {answer.group && <option value="group">everybody of {answer.group} who has it</option>}
            <option value="squad">everybody of {answer.squad_name} who has it</option>
          </Form.Select>
        </Form.Group>
        <div className="table-responsive">
          <table className="board">
            <thead>
              <tr>
                <th>Competition</th>
                <th>Rank</th>
                <th>Day</th>
                <th className="right">Time left</th>
                <th>
                  <span className="visually-hidden">Change</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {season.competitions.map((c) => (
                <tr key={`${c.id}${c.day}${c.last_day}`}>
                  <th scope="row" className="text-body fw-semibold">
                    {c.name}
                    {c.block && (
                      <div className="soft small fw-normal">
                        {c.block.weeks} weeks, {c.block.way_name}
                        {c.block.has_test_week ? ", tests at the end" : ""}
                      </div>
                    )}
                  </th>
                  <td>
                    {c.block ? (
                      c.rank_name
                    ) : (
                      <RankSelect
                        name={c.name}
                        value={c.rank}
                        ranks={answer.ranks}
                        disabled={c.days_to_go < 0}
                        onChange={(rank) => onRank(c.id, rank)}
                      />
                    )}
                  </td>
                  <td>
                    <Days c={c} onMove={onMove} onLastDay={onLastDay} />
                  </td>
                  <td className="right num nowrap">{inDays(c.days_to_go)}</td>
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
                    {c.block && (
                      <button
                        type="button"
                        className="btn btn-link btn-sm p-0 me-3"
                        aria-label={`Repeat: ${c.name}`}
                        onClick={() => c.block && onRepeat(c.block)}
                      >
                        Repeat
                      </button>
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
        </div>
        {adding === "competition" && (
          <div className="mt-2">
            <CompetitionForm athleteId={id} ranks={answer.ranks} scope={scope} onDone={() => setAdding("")} />
          </div>
        )}
        {adding === "block" && (
          <div className="mt-2">
            <BlockForm athleteId={id} answer={answer} scope={scope} onDone={() => setAdding("")} />
          </div>
        )}
        {adding === "" && (
          <div className="d-flex gap-2 mt-2">
            <Button size="sm" variant="plain" onClick={() => setAdding("competition")}>
              Add a competition
            </Button>
            <Button size="sm" variant="plain" onClick={() => setAdding("block")}>
              Add a block of weeks
            </Button>
          </div>
        )}
      </Locked>
    </section>
  );
}

/** The day of a competition, and the last where it lasts several; a block only says when it ends. */
function Days({ c, onMove, onLastDay }: { c: Row } & Pick<Props, "onMove" | "onLastDay">) {
  if (c.block || c.days_to_go <= 0) {
    return (
      <>
        {c.block ? "to " : ""}
        {shortDay(c.day)}
        {c.last_day && ` to ${shortDay(c.last_day)}`}
      </>
    );
  }
  return (
    <form
      className="d-flex gap-1 align-items-center"
      onSubmit={(e) => {
        e.preventDefault();
        const data = new FormData(e.currentTarget);
        const [day, last] = ["day", "last"].map((name) => data.get(name)).map((v) => (typeof v === "string" ? v : ""));
        if (day && day !== c.day) onMove(c.id, day);
        else if (last !== (c.last_day ?? "")) onLastDay(c.id, last || null);
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
      <span className="soft small">to</span>
      <input
        type="date"
        name="last"
        aria-label={`Last day of ${c.name}, if it has several`}
        className="form-control form-control-sm"
        defaultValue={c.last_day ?? ""}
        style={{ width: 140 }}
      />
      <button type="submit" className="btn btn-plain btn-sm text-nowrap" aria-label={`Move it: ${c.name}`}>
        Move it
      </button>
    </form>
  );
}
