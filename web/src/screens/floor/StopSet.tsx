import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Floor, FloorLine, FloorSet } from "../../api/hooks";
import { NumberField } from "../../parts/NumberField";

export interface Stopped {
  reps: number;
  pain_area: string;
  carries_on: boolean;
  carry_on: string;
}

interface Props {
  floor: Floor;
  line: FloorLine;
  set: FloorSet;
  busy: boolean;
  onStop: (stopped: Stopped) => void;
  onBack: () => void;
}

const MOST_BUTTONS = 12;

/** Where it hurts, what was done before it, what falls away for today. Stopping is the big button; carrying on wants a reason. */
export function PainStop({ floor, line, set, busy, onStop, onBack }: Props) {
  const [area, setArea] = useState("");
  const [reps, setReps] = useState<number | null>(set.reps === null ? 0 : null);
  const [because, setBecause] = useState<string | null>(null);
  const place = floor.pain_areas.find((a) => a.key === area);
  const away = floor.lines.filter((l) => l.id === line.id || place?.line_ids.includes(l.id));
  const stop = (carries: boolean) =>
    onStop({ reps: reps ?? 0, pain_area: area, carries_on: carries, carry_on: carries ? (because ?? "") : "" });
  return (
    <section className="stop-set" aria-label="Pain">
      <h2 className="fs-6 m-0">Where does it hurt?</h2>
      <div className="d-flex flex-wrap gap-1 my-1" role="group" aria-label="Where it hurts">
        {floor.pain_areas.map((a) => (
          <Button
            key={a.key}
            variant={area === a.key ? "primary" : "plain"}
            className="tap"
            aria-pressed={area === a.key}
            onClick={() => setArea(a.key)}
          >
            {a.name}
          </Button>
        ))}
      </div>
      {set.reps !== null && <RepsBefore set={set} label="Repetitions before it hurt" reps={reps} onReps={setReps} />}
      {place && (
        <p className="my-2">
          Today without: <b>{away.map((l) => `${l.slot} ${l.exercise}`).join(", ")}</b>
        </p>
      )}
      <Button className="w-100 go" disabled={busy || !place || reps === null} onClick={() => stop(false)}>
        {place ? `Stop here: ${away.length === 1 ? "this lift" : `${away.length} lifts`}` : "Stop here"}
      </Button>
      <div className="d-flex flex-wrap gap-2 mt-1 align-items-center">
        <Button variant="link" className="tap p-0" onClick={onBack}>
          Back to the set
        </Button>
        {place?.may_carry_on && because === null && (
          <Button variant="link" className="tap p-0 ms-auto small soft" onClick={() => setBecause("")}>
            Carry on anyway, because …
          </Button>
        )}
      </div>
      {place?.may_carry_on && because !== null && (
        <form
          className="d-flex gap-2 mt-1"
          onSubmit={(e) => {
            e.preventDefault();
            stop(true);
          }}
        >
          <input
            className="form-control tap"
            aria-label="Carry on anyway, because"
            placeholder="who decided, and why"
            value={because}
            maxLength={200}
            required
            autoFocus
            onChange={(e) => setBecause(e.target.value)}
          />
          <Button type="submit" variant="plain" className="tap flex-shrink-0" disabled={busy || reps === null || !because.trim()}>
            Carry on
          </Button>
        </form>
      )}
    </section>
  );
}

interface BrokeProps {
  set: FloorSet;
  busy: boolean;
  onBroke: (reps: number) => void;
  onBack: () => void;
}

/** How many repetitions were good before technique broke. */
export function FormBroke({ set, busy, onBroke, onBack }: BrokeProps) {
  const [reps, setReps] = useState<number | null>(null);
  return (
    <section className="stop-set" aria-label="Technique broke">
      <RepsBefore set={set} label="Good repetitions before technique broke" reps={reps} onReps={setReps} />
      <Button className="w-100 go mt-2" disabled={busy || reps === null} onClick={() => onBroke(reps ?? 0)}>
        {reps === null ? "Log the set" : `Log ${reps} good`}
      </Button>
      <Button variant="link" className="tap p-0 mt-1" onClick={onBack}>
        Back to the set
      </Button>
    </section>
  );
}

interface RepsProps {
  set: FloorSet;
  label: string;
  reps: number | null;
  onReps: (reps: number | null) => void;
}

function RepsBefore({ set, label, reps, onReps }: RepsProps) {
  const most = Math.max(set.reps ?? 1, set.measured.length);
  return (
    <>
      <h2 className="fs-6 mt-2 mb-1">{label}</h2>
      {most > MOST_BUTTONS ? (
        <NumberField
          label="reps"
          width={90}
          isLarge
          isWhole
          value={reps === null ? "" : String(reps)}
          onChange={(e) => onReps(e.target.value === "" ? null : Number(e.target.value))}
        />
      ) : (
        <div className="d-flex flex-wrap gap-1" role="group" aria-label={label}>
          {Array.from({ length: most + 1 }, (_, n) => (
            <Button key={n} variant={reps === n ? "primary" : "plain"} className="tap" aria-pressed={reps === n} onClick={() => onReps(n)}>
              {n}
            </Button>
          ))}
        </div>
      )}
    </>
  );
}
