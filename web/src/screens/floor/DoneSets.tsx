import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Schemas } from "../../api/client";
import type { FloorLine, FloorSet } from "../../api/hooks";
import { typedNumber, typedSeconds } from "../../logic/numbers";
import { NumberField } from "../../parts/NumberField";
import { SetReps } from "./SetReps";

type Correct = Schemas["CorrectSet"];

interface Props {
  line: FloorLine;
  finished: boolean;
  write: (path: string, body: unknown) => Promise<unknown>;
}

/** What was done of a line, newest last; a tap on one changes it, unless somebody else changed it meanwhile. */
export function DoneSets({ line, finished, write }: Props) {
  const [open, setOpen] = useState<number | null>(null);
  const done = line.sets.filter((s) => s.done);
  if (done.length === 0) return <p className="soft m-0">No set of it yet.</p>;
  return (
    <ol className="list-unstyled m-0">
      {done.map((s) => (
        <li key={`${s.kind}${s.number}`} className="border-bottom">
          <button
            type="button"
            className="done-set"
            disabled={finished && s.measured.length + s.taken_out.length + s.seen.length + s.seen_out.length === 0}
            aria-expanded={open === s.done?.id}
            onClick={() => setOpen(open === s.done?.id ? null : (s.done?.id ?? null))}
          >
            <span className="soft">{s.kind === "ramp" ? "w" : ""}</span>
            {s.number} · <b className="num">{wordsOf(s)}</b>
            {s.measured.length > 0 && ` · best ${s.measured.at(-1)?.fastest_mps.toFixed(2)} m/s`}
            {s.jumps.length > 0 && ` · ${s.jumps.map((j) => Math.round(j.height_cm)).join(" ")} cm`}
            {s.done?.measured && ` · ${s.done.measured}`}
            {s.splits.length > 0 && ` · ${s.splits.map((x) => `${x.at} ${x.seconds.toFixed(2)}`).join(", ")} s`}
            {s.done?.has_gap && " · gap in the signal"}
            {s.done?.rir !== null && ` · ${s.done?.rir} left`}
            {s.done?.trouble && ` · ${s.done.trouble.replace("_", " ")}`}
            {s.done?.note && <span className="soft"> · {s.done.note}</span>}
            <span className="visually-hidden">, change it</span>
          </button>
          {open === s.done?.id && <SetReps line={line} set={s} write={write} />}
          {open === s.done?.id && !finished && (
            <Change line={line} set={s} done={() => setOpen(null)} onCorrect={(body) => write("sets/correct", body)} />
          )}
        </li>
      ))}
    </ol>
  );
}

export function wordsOf(s: FloorSet): string {
  const d = s.done;
  if (!d) return "";
  if (d.result) return d.result;
  const side = s.per_side ? " a side" : "";
  if (s.seconds !== null && s.reps === null) return `${d.load_words && `${d.load_words} × `}${s.seconds} s${side}`;
  if (s.metres !== null && s.reps === null) return `${d.load_words && `${d.load_words} × `}${s.metres} m${side}`;
  const reps = d.left_reps !== null && d.right_reps !== null ? `left ${d.left_reps}, right ${d.right_reps}` : String(d.reps);
  const words = d.load_kg !== null ? `${d.load_words} × ${reps}` : reps;
  return d.form ? `${words}, ${d.form}` : words;
}

function Change({
  line,
  set,
  done,
  onCorrect,
}: {
  line: FloorLine;
  set: FloorSet;
  done: () => void;
  onCorrect: (body: Correct) => Promise<unknown>;
}) {
  const was = set.done;
  const [load, setLoad] = useState(was?.load_words ?? "");
  const [reps, setReps] = useState(String(was?.reps ?? 0));
  const [rir, setRir] = useState(was?.rir === null || was?.rir === undefined ? "" : String(was.rir));
  const [note, setNote] = useState(was?.note ?? "");
  const [results, setResults] = useState(() => (was?.results ?? []).map((r) => ({ ...r, text: String(r.value) })));
  const [form, setForm] = useState(was?.form ?? "");
  const [busy, setBusy] = useState(false);
  if (!was) return null;
  const number = (text: string) => typedNumber(text) ?? 0;
  return (
    <form
      className="d-flex flex-wrap gap-2 align-items-end pb-2"
      onSubmit={(e) => {
        e.preventDefault();
        setBusy(true);
        onCorrect({
          line_id: line.id, kind: set.kind, number: set.number, seen_id: was.id, load_kg: null, load: was.load_kg === null && !load.match(/\d/) ? null : number(load), unit: set.unit,
          reps: number(reps), rir: rir.trim() ? number(rir) : null, trouble: was.trouble, pain_area: "", carries_on: false, carry_on: "", note, confirm: false, form, parts: [], jumps: was.jumps.map((j) => ({ height_cm: j.height_cm, contact_s: j.contact_s })), measures: Object.fromEntries(results.map((r) => [r.key, (r.unit === "s" ? typedSeconds : typedNumber)(r.text) ?? 0])),
        }) // prettier-ignore
          .then(done, () => undefined)
          .finally(() => setBusy(false));
      }}
    >
      {set.load_kg !== null && <NumberField label={set.unit} width={84} isLarge value={load} onChange={(e) => setLoad(e.target.value)} />}
      <NumberField label="reps" width={64} isLarge isWhole value={reps} onChange={(e) => setReps(e.target.value)} />
      {line.forms.length > 0 && (
        <label className="small">
          form
          <select className="form-select tap" value={form} onChange={(e) => setForm(e.target.value)}>
            <option value="">as written</option>
            {line.forms.map((f) => (
              <option key={f.key} value={f.key}>
                {f.key}: {f.words}
              </option>
            ))}
          </select>
        </label>
      )}
      {results.map((r, n) => (
        <label key={r.key} className="small">
          {r.name}
          <input
            className="form-control tap num"
            style={{ width: 90 }}
            autoComplete="off"
            value={r.text}
            onChange={(e) => setResults(results.map((x, i) => (i === n ? { ...x, text: e.target.value } : x)))}
          />
        </label>
      ))}
      <NumberField label="left in reserve" width={64} isLarge value={rir} onChange={(e) => setRir(e.target.value)} />
      <label className="small flex-grow-1">
        note
        <input className="form-control tap" value={note} maxLength={200} onChange={(e) => setNote(e.target.value)} />
      </label>
      <Button type="submit" className="tap" disabled={busy}>
        Change it
      </Button>
    </form>
  );
}
