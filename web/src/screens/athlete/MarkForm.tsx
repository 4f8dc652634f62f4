import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { useMe, usePlanChange } from "../../api/hooks";
import { Trouble } from "../../parts/states";

const SINGLE = new Set(["one_rm", "technical_max"]);

export function MarkForm({ athlete, onDone }: { athlete: Schemas["AthleteOut"]; onDone: () => void }) {
  const today = useMe().data?.today ?? "";
  const [exercise, setExercise] = useState(athlete.lifts[0]?.exercise_id ?? athlete.exercise_choices[0]?.id ?? "");
  const [kind, setKind] = useState("rep_max");
  const [day, setDay] = useState(today);
  const [load, setLoad] = useState("");
  const [reps, setReps] = useState("5");
  const [rir, setRir] = useState("2");
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const add = usePlanChange((body: Schemas["NewMark"]) =>
    need(api.POST("/api/athletes/{athlete_id}/marks", { params: { path: { athlete_id: athlete.id } }, body })),
  );

  function submit() {
    const confirm = problem?.status === 428;
    setProblem(null);
    const body: Schemas["NewMark"] = {
      exercise_id: exercise,
      kind: kind as Schemas["NewMark"]["kind"],
      day,
      load_kg: Number(load.replace(",", ".")),
      reps: SINGLE.has(kind) ? 1 : Number(reps),
      rir: kind === "set_rir" ? Number(rir) : 0,
      note,
      confirm,
    };
    add.mutate(body, { onSuccess: onDone, onError: (e) => setProblem(problemOf(e)) });
  }

  return (
    <Form
      className="sheet pad mb-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <div className="d-flex flex-wrap gap-2 align-items-end">
        <Field label="Lift" id="mark-lift">
          <Form.Select value={exercise} onChange={(e) => setExercise(e.target.value)}>
            {athlete.exercise_choices.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Form.Select>
        </Field>
        <Field label="Kind" id="mark-kind">
          <Form.Select value={kind} onChange={(e) => setKind(e.target.value)}>
            {athlete.kind_choices
              .filter((c) => !(athlete.is_minor && c.id === "one_rm"))
              .map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
          </Form.Select>
        </Field>
        <Field label="Day" id="mark-day">
          <Form.Control type="date" value={day} onChange={(e) => setDay(e.target.value)} required />
        </Field>
        <Field label="kg" id="mark-load" width={84}>
          <Form.Control inputMode="decimal" value={load} onChange={(e) => setLoad(e.target.value)} required />
        </Field>
        {!SINGLE.has(kind) && (
          <Field label="reps" id="mark-reps" width={70}>
            <Form.Control inputMode="numeric" value={reps} onChange={(e) => setReps(e.target.value)} required />
          </Field>
        )}
        {kind === "set_rir" && (
          <Field label="in reserve" id="mark-rir" width={84}>
            <Form.Control inputMode="decimal" value={rir} onChange={(e) => setRir(e.target.value)} required />
          </Field>
        )}
        <Field label="Note" id="mark-note" width={160}>
          <Form.Control value={note} maxLength={200} onChange={(e) => setNote(e.target.value)} />
        </Field>
        <Button type="submit" disabled={add.isPending}>
          {problem?.status === 428 ? "Save it again" : "Save"}
        </Button>
      </div>
      {problem && (
        <div className="mt-2">
          <Trouble problem={problem} />
        </div>
      )}
      {kind === "one_rm" && (
        <p className="soft small mb-0 mt-2">A true max needs spotters or safeties, collars and a clear platform; stop at the first form break.</p>
      )}
    </Form>
  );
}

function Field({ label, id, width, children }: { label: string; id: string; width?: number; children: React.ReactNode }) {
  return (
    <Form.Group controlId={id} style={width ? { width } : undefined}>
      <Form.Label className="small mb-0">{label}</Form.Label>
      {children}
    </Form.Group>
  );
}
