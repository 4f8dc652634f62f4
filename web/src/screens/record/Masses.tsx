import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useMe } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { dayYear } from "../../parts/dates";
import { NumberField } from "../../parts/NumberField";
import { Trouble } from "../../parts/states";

type Rec = Schemas["RecordOut"];

export function Masses({ record: r }: { record: Rec }) {
  const today = useMe().data?.today ?? "";
  const [day, setDay] = useState(today);
  const [mass, setMass] = useState("");
  const { problem, isPending, run } = useAction((body: Schemas["NewMass"]) =>
    need(api.POST("/api/athletes/{athlete_id}/masses", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  return (
    <section className="sheet pad mb-3">
      <h2>Body mass</h2>
      <Form
        className="d-flex gap-2 align-items-end"
        onSubmit={(e) => {
          e.preventDefault();
          run({ day, mass: typedNumber(mass) ?? 0, unit: r.unit === "lb" ? "lb" : "kg" }, () => setMass(""));
        }}
      >
        <Form.Group controlId="mass-day">
          <Form.Label className="small mb-0">Day</Form.Label>
          <Form.Control size="sm" type="date" value={day} onChange={(e) => setDay(e.target.value)} required />
        </Form.Group>
        <NumberField
          id="mass-kg"
          label={`Body mass, ${r.unit}`}
          width={90}
          value={mass}
          onChange={(e) => setMass(e.target.value)}
          required
        />
        <Button size="sm" type="submit" variant="plain" disabled={isPending}>
          Save body mass
        </Button>
      </Form>
      {problem && <Trouble problem={problem} />}
      <ul className="chips mt-2">
        {r.masses.slice(0, 12).map((m) => (
          <li key={m.day}>
            <span className="soft">{dayYear(m.day)}</span> <b className="num">{m.words}</b>
          </li>
        ))}
      </ul>
      <p className="soft small mb-0">
        Recorded only. No weight cut is planned here: a gap to a class is a matter for licensed professionals.
      </p>
    </section>
  );
}
