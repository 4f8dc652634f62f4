import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { useNavigate } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useNames } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { NumberField } from "../../parts/NumberField";
import { Trouble } from "../../parts/states";

/** An athlete by hand: a name and a squad are enough; a squad of a new name is made. */
export function AddAthlete({ onDone }: { onDone: () => void }) {
  const squads = useNames().data ?? [];
  const go = useNavigate();
  const [name, setName] = useState("");
  const [squad, setSquad] = useState("");
  const [sport, setSport] = useState("");
  const [born, setBorn] = useState("");
  const [years, setYears] = useState("");
  const add = useAction((body: Schemas["NewAthlete"]) => need(api.POST("/api/athletes", { body })));
  const isNew = squad.trim() !== "" && !squads.some((s) => s.name.toLowerCase() === squad.trim().toLowerCase());
  return (
    <form
      className="sheet pad mb-3"
      aria-label="Add an athlete"
      onSubmit={(e) => {
        e.preventDefault();
        const training_age_years = years.trim() ? typedNumber(years) : null;
        const body = { name, squad, sport, birth_date: born || null, training_age_years };
        add.run(body, (added) => void go(`/athletes/${added.id}/season`));
      }}
    >
      <div className="d-flex flex-wrap gap-3 align-items-end">
        <Form.Group controlId="new-name">
          <Form.Label className="small mb-0">Name</Form.Label>
          <Form.Control size="sm" value={name} maxLength={80} required onChange={(e) => setName(e.target.value)} />
        </Form.Group>
        <Form.Group controlId="new-squad">
          <Form.Label className="small mb-0">Squad</Form.Label>
          <Form.Control size="sm" list="known-squads" value={squad} maxLength={80} required onChange={(e) => setSquad(e.target.value)} />
          <datalist id="known-squads">
            {squads.map((s) => (
              <option key={s.id} value={s.name} />
            ))}
          </datalist>
        </Form.Group>
        {isNew && (
          <Form.Group controlId="new-sport">
            <Form.Label className="small mb-0">Sport of the new squad</Form.Label>
            <Form.Control size="sm" list="known-sports" value={sport} maxLength={40} onChange={(e) => setSport(e.target.value)} />
            <datalist id="known-sports">
              {[...new Set(squads.map((s) => s.sport))].map((s) => (
                <option key={s} value={s} />
              ))}
            </datalist>
          </Form.Group>
        )}
        <Form.Group controlId="new-born">
          <Form.Label className="small mb-0">Born, if known</Form.Label>
          <Form.Control size="sm" type="date" value={born} onChange={(e) => setBorn(e.target.value)} />
        </Form.Group>
        <NumberField label="Years of lifting" width={110} value={years} onChange={(e) => setYears(e.target.value)} />
        <Button size="sm" type="submit" disabled={add.isPending}>
          Add and plan
        </Button>
        <Button size="sm" variant="plain" onClick={onDone}>
          Cancel
        </Button>
      </div>
      {add.problem && (
        <div className="mt-2">
          <Trouble problem={add.problem} />
        </div>
      )}
    </form>
  );
}
