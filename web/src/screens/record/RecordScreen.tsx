import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { useMe, usePlanChange, useRecord } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { dayYear, kg } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { AthleteTabs } from "../athlete/AthleteTabs";
import { PracticeList } from "./PracticeList";

type Rec = Schemas["RecordOut"];

export default function RecordScreen() {
  const id = Number(useParams().id);
  const record = useRecord(id);
  if (record.isPending) return <Loading what="the record" />;
  if (record.isError) return <Failed error={record.error} again={() => void record.refetch()} />;
  const r = record.data;
  return (
    <div className="page">
      <h1>{r.athlete_name}</h1>
      <AthleteTabs id={id} />
      <div className="row g-3">
        <div className="col-lg-5">
          <Person key={r.athlete_id} record={r} />
          <Masses record={r} />
        </div>
        <div className="col-lg-7">
          <Restrictions record={r} />
          <Faults record={r} />
          <PracticeList record={r} />
        </div>
      </div>
    </div>
  );
}

function useSaved<In>(act: (input: In) => Promise<unknown>) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const change = usePlanChange(act);
  return {
    problem,
    pending: change.isPending,
    isSaved: change.isSuccess,
    again: change.reset,
    save: (input: In, after?: () => void) =>
      change.mutate(input, {
        onSuccess: () => {
          setProblem(null);
          after?.();
        },
        onError: (e) => setProblem(problemOf(e)),
      }),
  };
}

function Person({ record: r }: { record: Rec }) {
  const text = (v: string | number | null) => (v === null ? "" : String(v));
  const [typed, setThese] = useState({
    name: r.athlete_name,
    squad_id: String(r.squad_id),
    group: r.group,
    position: r.position,
    sex: r.sex,
    birth_date: text(r.birth_date),
    training_age_years: text(r.training_age_years),
    body_mass_class: r.body_mass_class,
    class_limit_kg: text(r.class_limit_kg),
    kit_id: text(r.kit_id),
    sessions_a_week: text(r.sessions_a_week),
    minutes_a_session: text(r.minutes_a_session),
    supervised: r.supervised,
    note: r.note,
    dominant_side: r.dominant_side,
    limb_note: r.limb_note,
    height_cm: text(r.height_cm),
    goals: r.goals,
  });
  const { problem, pending, isSaved, again, save } = useSaved((body: Schemas["NewRecord"]) =>
    need(api.PATCH("/api/athletes/{athlete_id}/record", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  const setTyped = (next: typeof typed) => {
    setThese(next);
    if (isSaved) again();
  };
  const number = typedNumber;
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
  const choice = (key: "squad_id" | "kit_id" | "sex" | "dominant_side", label: string, options: { id: string; name: string }[]) => (
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
    <Form
      className="sheet pad mb-3"
      onSubmit={(e) => {
        e.preventDefault();
        save({
          name: typed.name,
          squad_id: Number(typed.squad_id),
          group: typed.group,
          position: typed.position,
          sex: typed.sex,
          birth_date: typed.birth_date || null,
          training_age_years: number(typed.training_age_years) ?? 0,
          body_mass_class: typed.body_mass_class,
          class_limit_kg: number(typed.class_limit_kg),
          kit_id: number(typed.kit_id),
          sessions_a_week: number(typed.sessions_a_week),
          minutes_a_session: number(typed.minutes_a_session),
          supervised: typed.supervised,
          note: typed.note,
          dominant_side: typed.dominant_side,
          limb_note: typed.limb_note,
          height_cm: number(typed.height_cm),
          goals: typed.goals,
        });
      }}
    >
      <h2>Who</h2>
      <div className="row g-2">
        {field("name", "Name")}
        {choice("squad_id", "Squad", r.squads)}
        {field("group", "Group")}
        {field("position", "Position")}
        {field("birth_date", "Born", { type: "date" })}
        {choice("sex", "Sex, if you wish", [
          { id: "", name: "not recorded" },
          { id: "female", name: "female" },
          { id: "male", name: "male" },
        ])}
        {field("training_age_years", "Years of lifting", { inputMode: "decimal" })}
        {choice("kit_id", "Kit", [{ id: "", name: "furnished room" }, ...r.kits])}
        {field("body_mass_class", "Class")}
        {field("class_limit_kg", "Class limit, kg", { inputMode: "decimal" })}
        {field("sessions_a_week", "Sessions a week", { inputMode: "numeric" })}
        {field("minutes_a_session", "Minutes a session", { inputMode: "numeric" })}
        {choice("dominant_side", "Stronger side", [
          { id: "", name: "not recorded" },
          { id: "left", name: "left" },
          { id: "right", name: "right" },
        ])}
        {field("height_cm", "Height, cm", { inputMode: "decimal" })}
        {field("limb_note", "Limb lengths, in words", { maxLength: 120 })}
        <Form.Group controlId="rec-goals" className="col-12">
          <Form.Label className="small mb-0">Goals</Form.Label>
          <Form.Control size="sm" value={typed.goals} maxLength={200} onChange={(e) => setTyped({ ...typed, goals: e.target.value })} />
        </Form.Group>
        <div className="col-12">
          <Form.Check
            id="rec-supervised"
            label="Supervision noted (asked for before a minor or novice tests a single)"
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
      <Button type="submit" className="mt-2" disabled={pending}>
        Save
      </Button>
      <span className="soft small ms-2" role="status">
        {isSaved && !pending && "Saved."}
      </span>
    </Form>
  );
}

function Masses({ record: r }: { record: Rec }) {
  const today = useMe().data?.today ?? "";
  const [day, setDay] = useState(today);
  const [mass, setMass] = useState("");
  const { problem, pending, save } = useSaved((body: Schemas["NewMass"]) =>
    need(api.POST("/api/athletes/{athlete_id}/masses", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  return (
    <section className="sheet pad mb-3">
      <h2>Body mass</h2>
      <Form
        className="d-flex gap-2 align-items-end"
        onSubmit={(e) => {
          e.preventDefault();
          save({ day, mass_kg: typedNumber(mass) ?? 0 }, () => setMass(""));
        }}
      >
        <Form.Group controlId="mass-day">
          <Form.Label className="small mb-0">Day</Form.Label>
          <Form.Control size="sm" type="date" value={day} onChange={(e) => setDay(e.target.value)} required />
        </Form.Group>
        <Form.Group controlId="mass-kg" style={{ width: 90 }}>
          <Form.Label className="small mb-0">Body mass, kg</Form.Label>
          <Form.Control size="sm" inputMode="decimal" value={mass} onChange={(e) => setMass(e.target.value)} required />
        </Form.Group>
        <Button size="sm" type="submit" variant="plain" disabled={pending}>
          Add the mass
        </Button>
      </Form>
      {problem && <Trouble problem={problem} />}
      <ul className="chips mt-2">
        {r.masses.slice(0, 12).map((m) => (
          <li key={m.day}>
            <span className="soft">{dayYear(m.day)}</span> <b className="num">{kg(m.mass_kg)}</b>
          </li>
        ))}
      </ul>
      <p className="soft small mb-0">Recorded, never planned down: gaps to a class are a matter for licensed professionals.</p>
    </section>
  );
}

function Restrictions({ record: r }: { record: Rec }) {
  const today = useMe().data?.today ?? "";
  const empty = { tag: r.tags[0]?.id ?? "", words: "", side: "", set_by: "", since: today, until: "" };
  const [open, setOpen] = useState(false);
  const [clearing, setClearing] = useState<number | null>(null);
  const [typed, setTyped] = useState(empty);
  const { problem, pending, save } = useSaved((body: Schemas["NewRestriction"]) =>
    need(api.POST("/api/athletes/{athlete_id}/restrictions", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  const lift = useSaved((id: number) =>
    need(api.POST("/api/restrictions/{restriction_id}/lift", { params: { path: { restriction_id: id } } })),
  );
  const set = (part: Partial<typeof typed>) => setTyped({ ...typed, ...part });
  return (
    <section className="sheet pad mb-3">
      <div className="d-flex">
        <h2>Restrictions</h2>
        <Button size="sm" variant="plain" className="ms-auto" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Close" : "Add a restriction"}
        </Button>
      </div>
      {r.restrictions.length === 0 && (
        <p className="soft mb-1">None. Exercises that break one are replaced by the nearest that does not.</p>
      )}
      {r.restrictions.map((x) => (
        <div key={x.id} className="d-flex gap-2 border-top py-1" style={x.is_open ? undefined : { opacity: 0.75 }}>
          <span>
            <b>{x.words}</b>
            {x.side && ` (${x.side})`}{" "}
            <span className="soft">
              · takes out {x.tag.replace("_", " ")} · set by the {x.set_by}, {dayYear(x.since)}
              {x.until ? ` to ${dayYear(x.until)}` : ", until lifted"}
              {x.cleared_by &&
                ` · cleared for the conservative test by the ${x.cleared_by}${x.cleared_on ? `, ${dayYear(x.cleared_on)}` : ""}`}
            </span>
          </span>
          {x.is_open && (
            <span className="ms-auto text-nowrap">
              {!x.cleared_by && (
                <button
                  type="button"
                  className="btn btn-link btn-sm p-0 me-3"
                  aria-label={`Cleared to test: ${x.words}`}
                  onClick={() => setClearing(x.id)}
                >
                  Cleared to test
                </button>
              )}
              <button type="button" className="btn btn-link btn-sm p-0" aria-label={`Lifted: ${x.words}`} onClick={() => lift.save(x.id)}>
                Lifted
              </button>
            </span>
          )}
        </div>
      ))}
      {clearing !== null && <Clearing id={clearing} onDone={() => setClearing(null)} />}
      {open && (
        <Form
          className="row g-2 mt-1"
          onSubmit={(e) => {
            e.preventDefault();
            save({ ...typed, until: typed.until || null }, () => {
              setTyped(empty);
              setOpen(false);
            });
          }}
        >
          <Form.Group controlId="res-words" className="col-6">
            <Form.Label className="small mb-0">What</Form.Label>
            <Form.Control
              size="sm"
              value={typed.words}
              maxLength={120}
              placeholder="Left knee: no deep bending"
              onChange={(e) => set({ words: e.target.value })}
              required
            />
          </Form.Group>
          <Form.Group controlId="res-tag" className="col-3">
            <Form.Label className="small mb-0">Takes out</Form.Label>
            <Form.Select size="sm" value={typed.tag} onChange={(e) => set({ tag: e.target.value })}>
              {r.tags.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="res-side" className="col-3">
            <Form.Label className="small mb-0">Side</Form.Label>
            <Form.Select size="sm" value={typed.side} onChange={(e) => set({ side: e.target.value })}>
              <option value="">both</option>
              <option value="left">left</option>
              <option value="right">right</option>
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="res-by" className="col-4">
            <Form.Label className="small mb-0">Set by</Form.Label>
            <Form.Control
              size="sm"
              value={typed.set_by}
              maxLength={60}
              placeholder="physiotherapist"
              onChange={(e) => set({ set_by: e.target.value })}
              required
            />
          </Form.Group>
          <Form.Group controlId="res-since" className="col-4">
            <Form.Label className="small mb-0">Since</Form.Label>
            <Form.Control size="sm" type="date" value={typed.since} onChange={(e) => set({ since: e.target.value })} required />
          </Form.Group>
          <Form.Group controlId="res-until" className="col-4">
            <Form.Label className="small mb-0">Until, if known</Form.Label>
            <Form.Control size="sm" type="date" value={typed.until} onChange={(e) => set({ until: e.target.value })} />
          </Form.Group>
          {problem && <Trouble problem={problem} />}
          <div>
            <Button size="sm" type="submit" disabled={pending}>
              Save the restriction
            </Button>
          </div>
        </Form>
      )}
      {lift.problem && <Trouble problem={lift.problem} />}
    </section>
  );
}

/** Who cleared the athlete for the 10–15RM test while the restriction stands. */
function Clearing({ id, onDone }: { id: number; onDone: () => void }) {
  const [who, setWho] = useState("");
  const { problem, pending, save } = useSaved((cleared_by: string) =>
    need(api.POST("/api/restrictions/{restriction_id}/clear-for-test", { params: { path: { restriction_id: id } }, body: { cleared_by } })),
  );
  return (
    <Form
      className="d-flex flex-wrap gap-2 align-items-end border-top py-2"
      onSubmit={(e) => {
        e.preventDefault();
        save(who, onDone);
      }}
    >
      <Form.Group controlId="clear-by">
        <Form.Label className="small mb-0">Cleared for the conservative test by</Form.Label>
        <Form.Control
          size="sm"
          value={who}
          maxLength={60}
          placeholder="physiotherapist"
          onChange={(e) => setWho(e.target.value)}
          required
          autoFocus
        />
      </Form.Group>
      <Button size="sm" type="submit" disabled={pending}>
        Note the clearance
      </Button>
      <Button size="sm" variant="plain" onClick={onDone}>
        Leave it
      </Button>
      {problem && <Trouble problem={problem} />}
    </Form>
  );
}

function Faults({ record: r }: { record: Rec }) {
  const today = useMe().data?.today ?? "";
  const [lift, setLift] = useState(r.lift_choices[0]?.id ?? "");
  const [fault, setFault] = useState(r.fault_choices[0]?.id ?? "");
  const { problem, pending, save } = useSaved((body: Schemas["NewFault"]) =>
    need(api.POST("/api/athletes/{athlete_id}/faults", { params: { path: { athlete_id: r.athlete_id } }, body })),
  );
  const end = useSaved((id: number) => need(api.POST("/api/faults/{fault_id}/end", { params: { path: { fault_id: id } } })));
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
              aria-label={`Gone: ${f.fault} in the ${f.exercise}`}
              onClick={() => end.save(f.id)}
            >
              Gone
            </button>
          )}
        </div>
      ))}
      <Form
        className="d-flex flex-wrap gap-2 align-items-end mt-2"
        onSubmit={(e) => {
          e.preventDefault();
          save({ exercise_id: lift, fault, since: today });
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
            {r.fault_choices.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Button size="sm" type="submit" variant="plain" disabled={pending}>
          Record the fault
        </Button>
      </Form>
      {problem && <Trouble problem={problem} />}
      {end.problem && <Trouble problem={end.problem} />}
    </section>
  );
}
