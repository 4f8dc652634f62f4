import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useMe } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { dayYear } from "../../parts/dates";
import { Trouble } from "../../parts/states";

type Rec = Schemas["RecordOut"];

export function Faults({ record: r }: { record: Rec }) {
  const today = useMe().data?.today ?? "";
  const [lift, setLift] = useState(r.lift_choices[0]?.id ?? "");
  const [wanted, setFault] = useState("");
  const possible = r.lift_choices.find((c) => c.id === lift)?.faults ?? [];
  const fault = possible.includes(wanted) ? wanted : (possible[0] ?? "");
  const { problem, isPending, run } = useAction((body: Schemas["NewFault"]) =>
    need(api.POST("/api/athletes/{athlete_id}/faults", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  const end = useAction((id: number) => need(api.POST("/api/faults/{fault_id}/end", { params: { path: { fault_id: id } } })));
  return (
    <section className="sheet pad mb-3">
      <h2>Technical faults</h2>
      {r.faults.length === 0 && <p className="soft mb-1">None recorded. A fault brings the variations that address it.</p>}
      {r.faults.map((f) => (
        <div key={f.id} className="d-flex gap-2 border-top py-1" style={f.until ? { opacity: 0.75 } : undefined}>
          <span>
            <b>{f.exercise}</b>: {f.fault.toLowerCase()}{" "}
            <span className="soft">
              · since {dayYear(f.since)}
              {f.until && `, gone ${dayYear(f.until)}`} · {f.addresses.join(", ")}
            </span>
          </span>
          {!f.until && (
            <button
              type="button"
              className="btn btn-link btn-sm p-0 ms-auto"
              aria-label={`Fixed: ${f.fault} in the ${f.exercise}`}
              onClick={() => end.run(f.id)}
            >
              Fixed
            </button>
          )}
        </div>
      ))}
      <Form
        className="d-flex flex-wrap gap-2 align-items-end mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          run({ exercise_id: lift, fault, since: today });
        }}
      >
        <Form.Group controlId="fault-lift">
          <Form.Label className="small mb-0">Lift</Form.Label>
          <Form.Select size="sm" value={lift} onChange={(e) => setLift(e.target.value)}>
            {r.lift_choices.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="fault-kind">
          <Form.Label className="small mb-0">Fault</Form.Label>
          <Form.Select size="sm" value={fault} onChange={(e) => setFault(e.target.value)}>
            {r.fault_choices
              .filter((c) => possible.includes(c.id))
              .map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
          </Form.Select>
        </Form.Group>
        <Button size="sm" type="submit" variant="plain" disabled={isPending}>
          Add the fault
        </Button>
      </Form>
      {problem && <Trouble problem={problem} />}
      {end.problem && <Trouble problem={end.problem} />}
    </section>
  );
}
