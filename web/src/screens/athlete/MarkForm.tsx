import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { useMe, useResultExercises } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { ConditionFields } from "../../parts/ConditionFields";
import { Failed, Loading, Trouble } from "../../parts/states";

type Athlete = Schemas["AthleteOut"];
type Mark = Schemas["MarkOut"];
type NewMark = Schemas["NewMark"];

const number = (text: string) => typedNumber(text) ?? 0;

interface Props {
  athlete: Athlete;
  wrong?: Mark;
  onDone: () => void;
}

/** A mark of any kind; with `wrong` the mark it corrects, which stays in the history. */
export function MarkForm(props: Props) {
  const exercises = useResultExercises();
  // read again in vain, what is there stays: something may be typed
  if (exercises.data) return <TypedMark {...props} exercises={exercises.data} />;
  if (exercises.isLoadingError) return <Failed error={exercises.error} again={() => void exercises.refetch()} />;
  return <Loading what="the exercises" />;
}

function TypedMark({ athlete, exercises, wrong, onDone }: Props & { exercises: Schemas["ChoiceOut"][] }) {
  const me = useMe().data;
  const today = me?.today ?? "";
  const [kind, setKind] = useState(wrong?.kind ?? "rep_max");
  const [exercise, setExercise] = useState(wrong?.exercise_id ?? athlete.lifts[0]?.exercise_id ?? "back_squat");
  const [day, setDay] = useState(wrong?.day ?? today);
  const [load, setLoad] = useState(wrong?.load ?? "");
  const [unit, setUnit] = useState((wrong?.unit ?? me?.unit) === "lb" ? "lb" : "kg");
  const [sets, setSets] = useState(String(wrong?.sets ?? 3));
  const [reps, setReps] = useState(String(wrong?.reps ?? 5));
  const [rir, setRir] = useState(String(wrong?.rir ?? 2));
  const [byRpe, setByRpe] = useState(false);
  const [side, setSide] = useState(wrong?.side ?? "");
  const [measures, setMeasures] = useState<Record<string, string>>(
    Object.fromEntries(Object.entries(wrong?.measures ?? {}).map(([k, v]) => [k, String(v)])),
  );
  const [way, setWay] = useState(wrong && "flight_s" in wrong.measures ? 1 : 0);
  const [conditions, setConditions] = useState<Record<string, string>>(wrong?.conditions ?? {});
  const [note, setNote] = useState(wrong?.note ?? "");
  const save = useAction((body: NewMark) =>
    wrong
      ? need(api.PUT("/api/marks/{mark_id}", { params: { path: { mark_id: wrong.id } }, body }))
      : need(api.POST("/api/athletes/{athlete_id}/marks", { params: { path: { athlete_id: athlete.id } }, body })),
  );
  const kinds = athlete.kind_choices;
  const chosen = kinds.find((k) => k.id === kind) ?? kinds[0];
  const fitting = exercises.filter((c) => chosen?.exercise_kinds.includes(c.kind));
  const at = fitting.some((c) => c.id === exercise) ? exercise : ((chosen?.usual || fitting[0]?.id) ?? "");
  const kindsOf = fitting.find((c) => c.id === at)?.conditions ?? [];
  const loaded = chosen?.exercise_kinds.includes("loaded") ?? true;
  const asked = chosen?.measures[Math.min(way, chosen.measures.length - 1)] ?? [];
  const asks = (figure: string) => chosen?.figures.includes(figure) ?? false;

  function submit() {
    const confirm = save.problem?.status === 428;
    const body: NewMark = {
      exercise_id: at,
      kind: kind as NewMark["kind"],
      day,
      load_kg: 0,
      load: loaded ? number(load) : null,
      unit: unit === "lb" ? "lb" : "kg",
      sets: asks("sets") ? number(sets) : 1,
      reps: asks("reps") ? number(reps) : 1,
      rir: asks("rir") && !byRpe ? number(rir) : 0,
      rpe: asks("rir") && byRpe ? number(rir) : null,
      side,
      measures: Object.fromEntries(asked.filter((m) => measures[m.id]?.trim()).map((m) => [m.id, number(measures[m.id] ?? "")])),
      conditions: Object.fromEntries(Object.entries(conditions).filter(([k]) => kindsOf.some((c) => c.id === k))),
      note,
      confirm,
    };
    save.run(body, onDone);
  }

  return (
    <Form
      className="sheet pad mb-2"
      aria-label={wrong ? `Correct ${wrong.exercise} ${wrong.words}` : "Add a result"}
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <div className="d-flex flex-wrap gap-2 align-items-end">
        <Field label="Kind" id="mark-kind">
          <Form.Select value={kind} onChange={(e) => setKind(e.target.value)}>
            {kinds.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Form.Select>
        </Field>
        <Field label="Lift" id="mark-lift">
          <Form.Select value={at} onChange={(e) => setExercise(e.target.value)}>
            {fitting.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Form.Select>
        </Field>
        <Field label="Day" id="mark-day">
          <Form.Control type="date" value={day} onChange={(e) => setDay(e.target.value)} required />
        </Field>
        {loaded && <LoadFields load={load} unit={unit} onLoad={setLoad} onUnit={setUnit} />}
        {asks("sets") && (
          <Field label="sets" id="mark-sets" width={64}>
            <Form.Control inputMode="numeric" value={sets} onChange={(e) => setSets(e.target.value)} required />
          </Field>
        )}
        {asks("reps") && (
          <Field label="reps" id="mark-reps" width={70}>
            <Form.Control inputMode="numeric" value={reps} onChange={(e) => setReps(e.target.value)} required />
          </Field>
        )}
        {asks("rir") && <EffortFields byRpe={byRpe} rir={rir} onByRpe={setByRpe} onRir={setRir} />}
        <MeasureFields ways={chosen?.measures ?? []} way={way} asked={asked} typed={measures} onWay={setWay} onType={setMeasures} />
        <SideField side={side} onSide={setSide} />
        {loaded && <ConditionFields kinds={kindsOf} chosen={conditions} onChoose={setConditions} />}
        <Field label="Note" id="mark-note" width={150}>
          <Form.Control value={note} maxLength={200} onChange={(e) => setNote(e.target.value)} />
        </Field>
        <Button type="submit" disabled={save.isPending}>
          {save.problem?.status === 428 ? "Save it again" : "Save"}
        </Button>
        {wrong && (
          <Button variant="plain" onClick={onDone}>
            Cancel
          </Button>
        )}
      </div>
      {save.problem && (
        <div className="mt-2">
          <Trouble problem={save.problem} />
        </div>
      )}
      {chosen?.caution && <p className="soft small mb-0 mt-2">{chosen.caution}</p>}
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

interface LoadProps {
  load: string;
  unit: string;
  onLoad: (text: string) => void;
  onUnit: (unit: string) => void;
}

/** A load in the unit it was lifted in. */
function LoadFields({ load, unit, onLoad, onUnit }: LoadProps) {
  return (
    <>
      <Field label="Load" id="mark-load" width={84}>
        <Form.Control inputMode="decimal" value={load} onChange={(e) => onLoad(e.target.value)} required />
      </Field>
      <Field label="in" id="mark-unit" width={72}>
        <Form.Select value={unit} onChange={(e) => onUnit(e.target.value)}>
          <option value="kg">kg</option>
          <option value="lb">lb</option>
        </Form.Select>
      </Field>
    </>
  );
}

interface EffortProps {
  byRpe: boolean;
  rir: string;
  onByRpe: (byRpe: boolean) => void;
  onRir: (text: string) => void;
}

/** How hard it was, in one of the two ways it is said. */
function EffortFields({ byRpe, rir, onByRpe, onRir }: EffortProps) {
  return (
    <>
      <Field label="Effort as" id="mark-effort" width={132}>
        <Form.Select value={byRpe ? "rpe" : "rir"} onChange={(e) => onByRpe(e.target.value === "rpe")}>
          <option value="rir">reps in reserve</option>
          <option value="rpe">RPE</option>
        </Form.Select>
      </Field>
      <Field label={byRpe ? "RPE" : "in reserve"} id="mark-rir" width={84}>
        <Form.Control inputMode="decimal" value={rir} onChange={(e) => onRir(e.target.value)} required />
      </Field>
    </>
  );
}

type Measure = Schemas["MeasureOut"];

interface MeasureProps {
  ways: Measure[][];
  way: number;
  asked: Measure[];
  typed: Record<string, string>;
  onWay: (way: number) => void;
  onType: (typed: Record<string, string>) => void;
}

/** What is measured, and which of several ways it was measured in. */
function MeasureFields({ ways, way, asked, typed, onWay, onType }: MeasureProps) {
  return (
    <>
      {ways.length > 1 && (
        <Field label="Measured by" id="mark-way">
          <Form.Select value={way} onChange={(e) => onWay(Number(e.target.value))}>
            {ways.map((w, i) => (
              <option key={i} value={i}>
                {w.map((m) => m.name).join(", ")}
              </option>
            ))}
          </Form.Select>
        </Field>
      )}
      {asked.map((m) => (
        <Field key={m.id} label={`${m.name}, ${m.unit}`} id={`mark-${m.id}`} width={120}>
          <Form.Control
            inputMode="decimal"
            value={typed[m.id] ?? ""}
            onChange={(e) => onType({ ...typed, [m.id]: e.target.value })}
            required
          />
        </Field>
      ))}
    </>
  );
}

function SideField({ side, onSide }: { side: string; onSide: (side: string) => void }) {
  return (
    <Field label="Side" id="mark-side" width={96}>
      <Form.Select value={side} onChange={(e) => onSide(e.target.value)}>
        <option value="">both</option>
        <option value="left">left</option>
        <option value="right">right</option>
      </Form.Select>
    </Field>
  );
}
