import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Schemas } from "../../api/client";
import type { Floor, FloorLine, FloorSet, FloorStep } from "../../api/hooks";
import { typedJumps, typedNumber, typedSeconds } from "../../logic/numbers";
import { NumberField } from "../../parts/NumberField";
import { FormBroke, PainStop, type Stopped } from "./StopSet";

type LogSet = Schemas["LogSet"];

interface Props {
  floor: Floor;
  line: FloorLine;
  set: FloorSet;
  step: FloorStep;
  confirm: boolean;
  /** The bar's sensor sends nothing: what it counted is not the set. */
  silent?: boolean;
  onUndo?: () => void;
  onLog: (body: LogSet) => Promise<unknown>;
}

const RESERVE = [0, 1, 2, 3, 4];
const EACH = "one each"; // one number a repetition

/** What was typed of what is kept beside repetitions, by its key. */
function measuresOf(asks: FloorStep["asks"], results: Record<string, string>): Record<string, number> {
  return Object.fromEntries(
    asks.flatMap((a) => {
      if (a.is_list) return [];
      const value = (a.unit === "s" ? typedSeconds : typedNumber)(results[a.key] ?? "");
      return value === null ? [] : [[a.key, value]];
    }),
  );
}

/** What the large button says: the set as written, or as it is logged. */
function goWords(what: string, form: string, confirm: boolean, isOther: boolean): string {
  if (confirm) return `Log it again to confirm ${what}`;
  return isOther ? `Log ${what || "the set"}${form && `, ${form}`}` : `Done as written${what ? `: ${what}` : ""}`;
}

/** The planned set is the button; anything else is a change to it. */
export function SetButtons({ floor, line, set, step, confirm, silent = false, onUndo, onLog }: Props) {
  const [changing, setChanging] = useState(false);
  const [load, setLoad] = useState(set.load_words);
  const [reps, setReps] = useState<string | null>(null);
  const [rir, setRir] = useState<number | null>(null);
  const [note, setNote] = useState("");
  const [sides, setSides] = useState<Both | null>(null);
  const [parts, setParts] = useState<string[] | null>(null);
  const [results, setResults] = useState<Record<string, string>>({});
  const [form, setForm] = useState("");
  const [busy, setBusy] = useState(false);
  const [stopping, setStopping] = useState<"" | "form_broke" | "pain">("");
  const several = step.sets.length > 1;
  // what a sensor has measured is not typed
  const asks = step.asks.filter(
    (a) => !(a.is_optional && (set.measured.length > 0 || set.device_mps.length > 0 || set.jumps.length > 0 || set.splits.length > 0)),
  );
  const reserve = line.is_loaded && !line.prepares && set.kind === "work";
  // a velocity stands beside the reserve, everything else in a row of its own
  const typed = asks.length === 1 && asks[0]?.unit === "m/s" ? asks : null;
  const keep = (key: string, value: string) => setResults({ ...results, [key]: value });
  const planned = set.reps ?? 1;
  const counted = (!silent && set.measured.length) || planned;
  const repsNow = reps ?? String(counted);
  const asksLoad = line.is_loaded && set.load_kg === null && step.sets.length === 1;
  const hasLoad = set.load_kg !== null || (asksLoad && load.trim() !== "");
  const asWritten = counted === planned && !(asksLoad && hasLoad);

  function log(trouble: "" | "form_broke" | "pain" = "", stopped: Partial<Stopped> = {}) {
    setBusy(true);
    const typedLoad = set.load_kg === null && !load.match(/\d/) ? null : (typedNumber(load) ?? 0);
    const sided = sides ? { left_reps: Number(sides.left), right_reps: Number(sides.right) } : {};
    const body: LogSet = {
      line_id: line.id,
      kind: set.kind,
      number: set.number,
      load_kg: null,
      load: typedLoad,
      unit: set.unit,
      reps: Number(repsNow),
      rir,
      trouble,
      note,
      confirm,
      form,
      parts: parts?.map((p) => typedNumber(p) ?? 0) ?? [],
      measures: measuresOf(step.asks, results),
      jumps: typedJumps(results.heights ?? "", results.contacts ?? ""),
      pain_area: "",
      carries_on: false,
      carry_on: "",
      ...sided,
      ...stopped,
    };
    onLog(body)
      .catch(() => undefined)
      .finally(() => setBusy(false));
  }

  const amount = several ? (parts?.join(" + ") ?? step.amount) : repsNow;
  const what = hasLoad ? `${load.trim()} × ${amount}` : "";
  if (stopping)
    return (
      <div className="set-buttons">
        {stopping === "pain" ? (
          <PainStop floor={floor} line={line} set={set} busy={busy} onStop={(x) => log("pain", x)} onBack={() => setStopping("")} />
        ) : (
          <FormBroke set={set} busy={busy} onBroke={(n) => log("form_broke", { reps: n })} onBack={() => setStopping("")} />
        )}
      </div>
    );
  return (
    <div className="set-buttons">
      {asksLoad && (changing || !line.prepares) && (
        <div className="mb-2">
          <NumberField label={`load lifted, ${set.unit}`} width={130} isLarge value={load} onChange={(e) => setLoad(e.target.value)} />
        </div>
      )}
      {reserve ? (
        <Reserve rir={rir} onRir={setRir}>
          {typed && <Results asks={typed} values={results} onValue={keep} />}
        </Reserve>
      ) : (
        typed && <Results asks={typed} values={results} onValue={keep} />
      )}
      <OtherForms line={line} set={set} form={form} onForm={setForm} />
      {asks.length > 0 && !typed && <Results asks={asks} values={results} onValue={keep} />}
      {changing && (
        <div className="d-flex flex-wrap gap-2 mb-2 align-items-end">
          {set.load_kg !== null && (
            <NumberField label={set.unit} width={100} isLarge value={load} onChange={(e) => setLoad(e.target.value)} />
          )}
          {several ? (
            asks.length === 0 && <Parts step={step} parts={parts} onParts={setParts} />
          ) : (
            <NumberField label="reps" width={80} isLarge isWhole value={repsNow} onChange={(e) => setReps(e.target.value)} />
          )}
          {set.per_side && <Sides sides={sides ?? { left: repsNow, right: repsNow }} onSides={setSides} />}
          <label className="small flex-grow-1">
            note
            <input className="form-control tap" value={note} maxLength={200} onChange={(e) => setNote(e.target.value)} />
          </label>
        </div>
      )}
      <Button className="w-100 go" disabled={busy} onClick={() => log()}>
        {goWords(what, form, confirm, changing || !asWritten || form !== "" || asks.some((a) => !a.is_optional))}
      </Button>
      <SetRow
        busy={busy}
        changing={changing}
        allOf={!changing && counted < planned ? planned : null}
        onAll={() => log("", { reps: planned })}
        untilMiss={step.until_miss}
        onChange={() => setChanging(!changing)}
        onMissed={() => log("", { reps: 0 })}
        onBroke={() => (set.reps === null ? log("form_broke") : setStopping("form_broke"))}
        onPain={() => setStopping("pain")}
        onUndo={onUndo}
      />
    </div>
  );
}

interface RowProps {
  busy: boolean;
  changing: boolean;
  untilMiss: boolean;
  /** The planned repetitions, where a sensor has counted fewer. */
  allOf: number | null;
  onAll: () => void;
  onChange: () => void;
  onMissed: () => void;
  onBroke: () => void;
  onPain: () => void;
  onUndo?: () => void;
}

/** What is tapped when a set did not go as written. */
function SetRow({ busy, changing, untilMiss, allOf, onAll, onChange, onMissed, onBroke, onPain, onUndo }: RowProps) {
  return (
    <div className="d-flex gap-2 mt-2 set-row">
      {allOf !== null && (
        <Button variant="plain" className="tap flex-fill" disabled={busy} onClick={onAll}>
          All {allOf} done
        </Button>
      )}
      <Button variant="plain" className="tap flex-fill" aria-pressed={changing} onClick={onChange}>
        Change
      </Button>
      {untilMiss && (
        <Button variant="plain" className="tap flex-fill" disabled={busy} onClick={onMissed}>
          Missed
        </Button>
      )}
      <Button variant="plain" className="tap flex-fill" disabled={busy} onClick={onBroke}>
        Technique broke
      </Button>
      <Button variant="plain" className="tap flex-fill" disabled={busy} onClick={onPain}>
        Pain
      </Button>
      {onUndo && (
        <Button variant="plain" className="tap flex-fill" onClick={onUndo}>
          Undo
        </Button>
      )}
    </div>
  );
}

interface Both {
  left: string;
  right: string;
}

/** Repetitions of each side. */
function Sides({ sides, onSides }: { sides: Both; onSides: (sides: Both) => void }) {
  return (["left", "right"] as const).map((side) => (
    <label key={side} className="small">
      {side}
      <input
        className="form-control tap num"
        style={{ width: 70 }}
        inputMode="numeric"
        value={sides[side]}
        onChange={(e) => onSides({ ...sides, [side]: e.target.value })}
      />
    </label>
  ));
}

/** How many more would have gone. */
function Reserve({ rir, onRir, children }: { rir: number | null; onRir: (rir: number | null) => void; children: React.ReactNode }) {
  const half = rir !== null && rir % 1 !== 0;
  const whole = rir === null ? null : Math.floor(rir);
  return (
    <div className="reserve mb-2">
      <span className="soft">left in reserve</span>
      {children}
      <div className="said" role="group" aria-label="Repetitions left in reserve">
        {RESERVE.map((n) => (
          <Button
            key={n}
            variant={whole === n ? "primary" : "plain"}
            className="tap"
            aria-pressed={whole === n}
            onClick={() => onRir(whole === n ? null : n + (half ? 0.5 : 0))}
          >
            {n}
            {n === 4 && "+"}
          </Button>
        ))}
        <Button
          variant={half ? "primary" : "plain"}
          className="tap"
          aria-pressed={half}
          aria-label="and a half"
          onClick={() => onRir(half ? Math.floor(rir ?? 0) : (rir ?? 0) + 0.5)}
        >
          ½
        </Button>
      </div>
    </div>
  );
}

interface FormProps {
  line: FloorLine;
  set: FloorSet;
  form: string;
  onForm: (form: string) => void;
}

/** The easier and the harder form of a line, to be taken in place of what is written. */
function OtherForms({ line, set, form, onForm }: FormProps) {
  if (line.forms.length === 0 || set.kind !== "work") return null;
  return (
    <div className="d-flex flex-wrap gap-2 mb-2" role="group" aria-label="Another form than written">
      {line.forms.map((f) => (
        <Button
          key={f.key}
          variant={form === f.key ? "primary" : "plain"}
          className="tap flex-fill"
          aria-pressed={form === f.key}
          onClick={() => onForm(form === f.key ? "" : f.key)}
        >
          {f.key}: {f.words}
        </Button>
      ))}
    </div>
  );
}

interface ResultProps {
  asks: FloorStep["asks"];
  values: Record<string, string>;
  onValue: (key: string, value: string) => void;
}

/** Results that are kept beside repetitions: rounds, time, height. */
function Results({ asks, values, onValue }: ResultProps) {
  return (
    <div className="results">
      {asks.map((a) => (
        <label key={a.key} className={a.unit === "m/s" ? "small inline" : "small"}>
          {a.name}
          <input
            className="form-control tap num"
            style={{ width: a.unit === "m/s" ? 76 : 110 }}
            inputMode={a.is_whole ? "numeric" : a.is_list || a.unit === "s" ? "text" : "decimal"}
            placeholder={a.is_list ? EACH : undefined}
            autoComplete="off"
            value={values[a.key] ?? ""}
            onChange={(e) => onValue(a.key, e.target.value)}
          />
        </label>
      ))}
      {asks[0]?.last && <span className="soft pb-2">{asks[0].last}</span>}
    </div>
  );
}

/** Repetitions of each set that one tap logs. */
function Parts({ step, parts, onParts }: { step: FloorStep; parts: string[] | null; onParts: (parts: string[]) => void }) {
  const now = parts ?? step.sets.map((s) => String(s.reps));
  return step.sets.map((s, n) => (
    <NumberField
      key={s.label}
      label={s.label}
      width={80}
      isLarge
      isWhole
      value={now[n] ?? ""}
      onChange={(e) => onParts(now.map((p, i) => (i === n ? e.target.value : p)))}
    />
  ));
}
