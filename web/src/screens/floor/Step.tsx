import Button from "react-bootstrap/Button";

import type { Schemas } from "../../api/client";
import type { Floor, FloorStep } from "../../api/hooks";
import { stepWith } from "../../logic/session";

/** The step that is up. */
export function stepNow(floor: Floor | undefined): FloorStep | undefined {
  return floor && stepWith(floor.steps, floor.current);
}

/** Which block it belongs to and how that runs; which round of how many. */
export function StepHead({ floor, step, slot }: { floor: Floor; step: FloorStep; slot: string }) {
  const words = floor.block_words[step.block];
  return (
    <div className="d-flex justify-content-between gap-2 soft">
      <span>
        {slot} · {step.block}
        {words && <b> · {words}</b>}
      </span>
      <span className="nowrap step-place">{step.place}</span>
    </div>
  );
}

/** Small sets, drops, and what follows the step. */
export function StepWords({ step }: { step: FloorStep }) {
  if (!step.inside && !step.then) return null;
  return (
    <p className="m-0">
      {step.inside && <b className="num">{step.inside}</b>}
      {step.inside && step.then && " · "}
      <span className="soft num">{step.then}</span>
    </p>
  );
}

const SHOWN = 3;

/** What comes after this step, a few of them, in the order in which they are done. */
export function Coming({ floor, step }: { floor: Floor; step: FloorStep }) {
  const done = new Set(
    floor.lines.flatMap((l) => l.sets.filter((s) => s.done || s.over || l.ended).map((s) => `${l.id} ${s.kind} ${s.number}`)),
  );
  const after = floor.steps
    .slice(floor.steps.indexOf(step) + 1)
    .filter((s) => s.sets.some((p) => !done.has(`${p.line_id} ${p.kind} ${p.number}`)));
  const others = after.filter((s, n) => s.title !== (after[n - 1] ?? step).title); // its next sets go without saying
  if (others.length === 0) return null;
  return (
    <ol className="coming" aria-label="After this">
      {others.slice(0, SHOWN).map((s) => (
        <li key={s.id}>
          <span className="num soft">{s.slots}</span> {s.title} <span className="soft">{s.place}</span>
        </li>
      ))}
    </ol>
  );
}

interface StartProps {
  clock: Schemas["StepClockOut"];
  onStart: () => void;
}

/** The clock that a step brings along, one tap away. */
export function StartStepClock({ clock, onStart }: StartProps) {
  return (
    <Button variant="plain" className="tap align-self-start mt-1" onClick={onStart}>
      Start the clock: {clock.name.toLowerCase()}, {clock.words}
    </Button>
  );
}
