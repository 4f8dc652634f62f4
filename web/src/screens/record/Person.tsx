import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { useNavigate } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { Needs } from "../../parts/Needs";
import { Trouble } from "../../parts/states";
import { Merge } from "./Merge";

type Rec = Schemas["RecordOut"];

const text = (v: string | number | null) => (v === null ? "" : String(v));

function typedOf(r: Rec) {
  return {
    name: r.athlete_name,
    group: r.group,
    position: r.position,
    sex: r.sex,
    birth_date: text(r.birth_date),
    training_age_years: text(r.training_age_years),
    body_mass_class: r.body_mass_class,
    class_limit: text(r.class_limit),
    kit_id: text(r.kit_id),
    sessions_a_week: text(r.sessions_a_week),
    minutes_a_session: text(r.minutes_a_session),
    supervised: r.supervised,
    note: r.note,
    dominant_side: r.dominant_side,
    limb_note: r.limb_note,
    height_cm: text(r.height_cm),
    goals: r.goals,
  };
}

function bodyOf(typed: ReturnType<typeof typedOf>, unit: string): Schemas["NewRecord"] {
  return {
    name: typed.name,
    group: typed.group,
    position: typed.position,
    sex: typed.sex,
    birth_date: typed.birth_date || null,
    training_age_years: typedNumber(typed.training_age_years) ?? 0,
    body_mass_class: typed.body_mass_class,
    class_limit: typedNumber(typed.class_limit),
    unit: unit === "lb" ? "lb" : "kg",
    kit_id: typedNumber(typed.kit_id),
    sessions_a_week: typedNumber(typed.sessions_a_week),
    minutes_a_session: typedNumber(typed.minutes_a_session),
    supervised: typed.supervised,
    note: typed.note,
    dominant_side: typed.dominant_side,
    limb_note: typed.limb_note,
    height_cm: typedNumber(typed.height_cm),
    goals: typed.goals,
  };
}

/** Who the athlete is: what was typed stays while other parts of the record are saved. */
export function Person({ record: r }: { record: Rec }) {
  const [typed, setThese] = useState(() => typedOf(r));
  const { problem, isPending, isDone, clear, run } = useAction((body: Schemas["NewRecord"]) =>
    need(api.PATCH("/api/athletes/{athlete_id}/record", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  const setTyped = (next: typeof typed) => {
    setThese(next);
    if (isDone || problem) clear();
  };
  const field = (key: keyof typeof typed, label: string, extra: Partial<React.ComponentProps<typeof Form.Control>> = {}) => (
    <Form.Group controlId={`rec-${key}`} className="col-6">
      <Form.Label className="small mb-0">{label}</Form.Label>
      <Form.Control
        size="sm"
        value={String(typed[key])}
        isInvalid={problem?.where === key}
        onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
        {...extra}
      />
    </Form.Group>
  );
  const choice = (key: "kit_id" | "sex" | "dominant_side", label: string, options: { id: string; name: string }[]) => (
    <Form.Group controlId={`rec-${key}`} className="col-6">
      <Form.Label className="small mb-0">{label}</Form.Label>
      <Form.Select size="sm" value={typed[key]} onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}>
        {options.map((o) => (
          <option key={o.id} value={o.id}>
            {o.name}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
  return (
    <section className="sheet pad mb-3">
      <Head athleteId={r.athlete_id} name={r.athlete_name} />
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          run(bodyOf(typed, r.unit));
        }}
      >
        <div className="row g-2">
          {field("name", "Name")}
          {field("group", "Group")}
          {field("position", "Position")}
          {field("birth_date", "Born", { type: "date" })}
          {choice("sex", "Sex, if you wish", [
            { id: "", name: "not recorded" },
            { id: "female", name: "female" },
            { id: "male", name: "male" },
          ])}
          {field("training_age_years", "Years of lifting", { inputMode: "decimal" })}
          {choice("kit_id", "Kit", [{ id: "", name: "fully equipped room" }, ...r.kits])}
          {field("body_mass_class", "Class")}
          {field("class_limit", `Class limit, ${r.unit}`, { inputMode: "decimal" })}
          {field("sessions_a_week", "Sessions a week", { inputMode: "numeric" })}
          {field("minutes_a_session", "Minutes a session", { inputMode: "numeric" })}
          {choice("dominant_side", "Dominant side", [
            { id: "", name: "not recorded" },
            { id: "left", name: "left" },
            { id: "right", name: "right" },
          ])}
          {field("height_cm", "Height, cm", { inputMode: "decimal" })}
          {field("limb_note", "Build, in words (such as long legs)", { maxLength: 120 })}
          <Form.Group controlId="rec-goals" className="col-12">
            <Form.Label className="small mb-0">Goals</Form.Label>
            <Form.Control size="sm" value={typed.goals} maxLength={200} onChange={(e) => setTyped({ ...typed, goals: e.target.value })} />
          </Form.Group>
          <div className="col-12">
            <Form.Check
              id="rec-supervised"
              label="Supervised (asked for before a minor or novice tests a single)"
              checked={typed.supervised}
              onChange={(e) => setTyped({ ...typed, supervised: e.target.checked })}
            />
          </div>
          <Form.Group controlId="rec-note" className="col-12">
            <Form.Label className="small mb-0">Note</Form.Label>
            <Form.Control size="sm" value={typed.note} maxLength={200} onChange={(e) => setTyped({ ...typed, note: e.target.value })} />
          </Form.Group>
        </div>
        {problem && (
          <div className="mt-2">
            <Trouble problem={problem} />
          </div>
        )}
        <Button type="submit" className="mt-2" disabled={isPending}>
          Save
        </Button>
        <span className="soft small ms-2" role="status">
          {isDone && "Saved."}
        </span>
      </Form>
    </section>
  );
}

/** Above who they are: the way out of the lists for somebody who has left, or was written down twice. */
function Head({ athleteId, name }: { athleteId: number; name: string }) {
  const navigate = useNavigate();
  const [isTwice, setTwice] = useState(false);
  const archive = useAction(() => need(api.POST("/api/athletes/{athlete_id}/archive", { params: { path: { athlete_id: athleteId } } })), {
    after: async (client) => {
      await stale.afterPlan(client);
      void navigate("/squads"); // from where they come back
    },
  });
  return (
    <>
      <div className="d-flex">
        <h2>Who</h2>
        <Needs may="plan">
          <Button
            size="sm"
            variant="link"
            className="ms-auto p-0"
            aria-label={`Archive ${name}`}
            disabled={archive.isPending}
            onClick={() => archive.run(undefined)}
          >
            Archive
          </Button>
          <Button size="sm" variant="link" className="ms-3 p-0" aria-expanded={isTwice} onClick={() => setTwice(!isTwice)}>
            Written down twice …
          </Button>
        </Needs>
      </div>
      {archive.problem && <Trouble problem={archive.problem} />}
      {isTwice && <Merge id={athleteId} name={name} onClose={() => setTwice(false)} />}
    </>
  );
}
