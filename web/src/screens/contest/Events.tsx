import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useLibrary, useSeasonChange } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { ExercisePicker } from "../../parts/ExercisePicker";
import { NumberField } from "../../parts/NumberField";
import { Trouble } from "../../parts/states";
import { Locked } from "../../parts/Locked";

type Contest = Schemas["ContestOut"];
type Event = Schemas["EventOut"];
type Row = Record<
  "kind" | "name" | "exercise_id" | "contest_day" | "load" | "reps" | "metres" | "seconds" | "standing" | "divisions",
  string
>;
const AMOUNTS = [
  ["load", "Competition load"],
  ["reps", "Repetitions"],
  ["metres", "Distance, m"],
  ["seconds", "Time, s"],
] as const;

const text = (value: number | null | undefined) => (value === null || value === undefined ? "" : String(value));
const rowOf = (e: Event): Row => ({
  kind: e.kind,
  name: e.name ?? "",
  exercise_id: e.exercise_id ?? "",
  contest_day: String((e.contest_day ?? 0) + 1),
  load: text(e.load),
  reps: text(e.reps),
  metres: text(e.distance_m),
  seconds: text(e.time_s),
  standing: e.standing ?? "",
  divisions: e.divisions ?? "",
});
const number = (typed: string) => (typed.trim() ? typedNumber(typed) : null);
const eventOf = (r: Row, unit: string): Event => ({
  kind: r.kind,
  name: r.name,
  exercise_id: r.exercise_id,
  contest_day: Math.max(0, Math.round(number(r.contest_day) ?? 1) - 1),
  load_kg: null,
  load: number(r.load),
  unit: unit === "lb" ? "lb" : "kg",
  reps: number(r.reps),
  distance_m: number(r.metres),
  time_s: number(r.seconds),
  standing: r.standing,
  divisions: r.divisions,
});

/** What is contested, event by event: with what, how much of it, and how the athlete stands in it. */
export function Events({ id, contest: c, competition }: { id: number; contest: Contest; competition: number }) {
  const [rows, setRows] = useState<Row[]>(c.events.map(rowOf));
  const [weighIn, setWeighIn] = useState(c.weigh_in ?? "");
  const [division, setDivision] = useState(c.division);
  const save = useSeasonChange(id, (body: Schemas["ChangeCompetition"]) =>
    need(api.PATCH("/api/competitions/{competition_id}", { params: { path: { competition_id: competition } }, body })),
  );
  const change = (i: number, part: Partial<Row>) => setRows(rows.map((r, j) => (j === i ? { ...r, ...part } : r)));
  return (
    <form
      className="sheet pad"
      aria-label="Events"
      onSubmit={(e) => {
        e.preventDefault();
        save.run({ events: rows.map((r) => eventOf(r, c.unit)), weigh_in: weighIn || null, division, scope: "athlete" });
      }}
    >
      <h2>Events</h2>
      <Locked may="plan">
        {rows.map((r, i) => (
          <EventRow
            key={i}
            index={i}
            row={r}
            contest={c}
            onChange={(part) => change(i, part)}
            onTakeOut={() => setRows(rows.filter((_, j) => j !== i))}
          />
        ))}
        <div className="d-flex flex-wrap gap-2 align-items-end">
          <Button
            size="sm"
            variant="plain"
            onClick={() => setRows([...rows, rowOf({ kind: c.event_kinds[0]?.id ?? "", name: "", contest_day: 0, load: null } as Event)])}
          >
            Add an event
          </Button>
          <Form.Group controlId="weigh-in">
            <Form.Label className="small mb-0">Weigh-in, if any</Form.Label>
            <Form.Control size="sm" type="date" value={weighIn} onChange={(e) => setWeighIn(e.target.value)} />
          </Form.Group>
          <Form.Group controlId="division">
            <Form.Label className="small mb-0">Division of {c.athlete_name}</Form.Label>
            <Form.Control size="sm" value={division} maxLength={40} onChange={(e) => setDivision(e.target.value)} style={{ width: 150 }} />
          </Form.Group>
          <Button size="sm" type="submit" disabled={save.isPending}>
            Count back from the day
          </Button>
        </div>
      </Locked>
      {save.problem && (
        <div className="mt-2">
          <Trouble problem={save.problem} />
        </div>
      )}
    </form>
  );
}

interface RowProps {
  index: number;
  row: Row;
  contest: Contest;
  onChange: (part: Partial<Row>) => void;
  onTakeOut: () => void;
}

function EventRow({ index: i, row: r, contest: c, onChange, onTakeOut }: RowProps) {
  const library = useLibrary();
  const known = library.data?.exercises.find((x) => x.id === r.exercise_id) ?? null;
  const [typed, setTyped] = useState<string | null>(null);
  const takes = c.event_kinds.find((k) => k.id === r.kind)?.amounts ?? [];
  return (
    <fieldset className="d-flex flex-wrap gap-2 align-items-end mb-3">
      <legend className="visually-hidden">Event {i + 1}</legend>
      <Form.Group controlId={`event-kind-${i}`}>
        <Form.Label className="small mb-0">Event</Form.Label>
        <Form.Select size="sm" value={r.kind} onChange={(e) => onChange({ kind: e.target.value })}>
          {c.event_kinds.map((k) => (
            <option key={k.id} value={k.id}>
              {k.name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId={`event-name-${i}`}>
        <Form.Label className="small mb-0">Name</Form.Label>
        <Form.Control size="sm" value={r.name} maxLength={60} onChange={(e) => onChange({ name: e.target.value })} style={{ width: 150 }} />
      </Form.Group>
      <div style={{ width: 210 }}>
        <div className="small">Exercise</div>
        <ExercisePicker
          label={`Exercise of event ${i + 1}`}
          value={typed ?? known?.name ?? ""}
          chosen={typed === null ? known : null}
          onType={(t) => {
            setTyped(t);
            if (t === "") onChange({ exercise_id: "" });
          }}
          onChoose={(x) => {
            setTyped(null);
            onChange({ exercise_id: x.id });
          }}
        />
      </div>
      <NumberField label="On day" isWhole width={64} value={r.contest_day} onChange={(e) => onChange({ contest_day: e.target.value })} />
      {AMOUNTS.filter(([key]) => takes.includes(key) || r[key] !== "").map(([key, label]) => (
        <NumberField
          key={key}
          label={key === "load" ? `${label}, ${c.unit}` : label}
          width={104}
          value={r[key]}
          onChange={(e) => onChange({ [key]: e.target.value })}
        />
      ))}
      {(takes.includes("load") || r.divisions !== "") && (
        <Form.Group controlId={`event-divisions-${i}`}>
          <Form.Label className="small mb-0">Loads by division, {c.unit}</Form.Label>
          <Form.Control
            size="sm"
            value={r.divisions}
            placeholder="Open 200, Masters 160"
            onChange={(e) => onChange({ divisions: e.target.value })}
            style={{ width: 210 }}
          />
        </Form.Group>
      )}
      <Form.Group controlId={`event-standing-${i}`}>
        <Form.Label className="small mb-0">How it looks</Form.Label>
        <Form.Select size="sm" value={r.standing} onChange={(e) => onChange({ standing: e.target.value })}>
          {c.standings.map((x) => (
            <option key={x.id} value={x.id}>
              {x.name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Button size="sm" variant="plain" aria-label={`Take out: event ${i + 1}`} onClick={onTakeOut}>
        Take out
      </Button>
    </fieldset>
  );
}
