import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useMe } from "../../api/hooks";
import { keys } from "../../api/keys";
import { firstProblem, useAction } from "../../api/useAction";
import { dayYear } from "../../parts/dates";
import { Trouble } from "../../parts/states";

/** Which squad they are in, since when, and where they go: today, or on a day ahead. */
export function SquadMoves({ record: r }: { record: Schemas["RecordOut"] }) {
  const today = useMe().data?.today ?? "";
  const path = { athlete_id: r.athlete_id };
  const moves = useQuery({
    queryKey: keys.squadMoves(r.athlete_id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/squad-moves", { params: { path } })),
  });
  const [squad, setSquad] = useState("");
  const [day, setDay] = useState(today);
  const move = useAction(() =>
    need(api.POST("/api/athletes/{athlete_id}/squad-moves", { params: { path }, body: { squad_id: Number(squad), day } })),
  );
  const back = useAction((id: number) =>
    need(api.POST("/api/athletes/{athlete_id}/squad-moves/{move_id}/withdraw", { params: { path: { ...path, move_id: id } } })),
  );
  const since = moves.data?.filter((m) => m.is_done && m.squad === r.squad).at(-1);
  const problem = firstProblem(move, back);
  return (
    <section className="sheet pad mb-3" aria-label="Squad">
      <h2>Squad</h2>
      <p className="mb-2">
        {r.squad}
        {since && <span className="soft"> · since {dayYear(since.day)}</span>}
      </p>
      {moves.data
        ?.filter((m) => !m.is_done)
        .map((m) => (
          <p key={m.id} className="says mb-2">
            Goes to {m.squad} on {dayYear(m.day)}, by itself.{" "}
            <button type="button" className="btn btn-link p-0 align-baseline" onClick={() => back.run(m.id)}>
              Take back
            </button>
          </p>
        ))}
      <form
        className="d-flex flex-wrap gap-2 align-items-end"
        aria-label="Move to another squad"
        onSubmit={(e) => {
          e.preventDefault();
          move.run(undefined, () => {
            setSquad("");
            setDay(today);
          });
        }}
      >
        <Form.Group controlId="move-squad">
          <Form.Label className="small mb-0">Move to</Form.Label>
          <Form.Select size="sm" value={squad} onChange={(e) => setSquad(e.target.value)}>
            <option value="">choose …</option>
            {r.squads
              .filter((s) => s.id !== String(r.squad_id))
              .map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="move-day">
          <Form.Label className="small mb-0">from</Form.Label>
          <Form.Control size="sm" type="date" required value={day} onChange={(e) => setDay(e.target.value)} />
        </Form.Group>
        <Button size="sm" type="submit" variant="plain" disabled={!squad || move.isPending}>
          Move
        </Button>
      </form>
      {problem && <Trouble problem={problem} />}
      <p className="soft small mb-0 mt-1">From that day they have what lies ahead of the squad; what they did stays with them.</p>
    </section>
  );
}
