import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Floor } from "../../api/hooks";
import { AddExercise } from "./AddExercise";
import { GoesOn } from "./Still";

interface Props {
  floor: Floor;
  allDone: boolean;
  onFinish: (srpe: number | null, minutes: number | null) => void;
  onBack: () => void;
  onCancel: (reason: string) => void;
  write: (path: string, body: unknown) => Promise<unknown>;
}

/** What stands above the panel: how far the session is. */
function heading(floor: Floor, allDone: boolean): string {
  if (floor.lines.length === 0) return "No exercise yet";
  if (!allDone) return `${floor.sets_left} work sets are left`;
  return floor.pains.length ? "Nothing more today" : "Everything is done";
}

/** How hard was it: one tap, then the session is closed. */
export function FinishPanel({ floor, allDone, onFinish, onBack, onCancel, write }: Props) {
  const [srpe, setSrpe] = useState<number | null>(null);
  const [minutes, setMinutes] = useState("");
  const [open, setOpen] = useState<"" | "add" | "cancel">("");
  const empty = floor.lines.length === 0;
  const show = (what: typeof open) => setOpen(open === what ? "" : what);
  return (
    <div>
      <h1 className="mb-2">{heading(floor, allDone)}</h1>
      {empty && (
        <>
          <p className="soft">Add the first exercise; it starts with its own warm-up.</p>
          <div className="mb-4">
            <AddExercise write={write} onDone={() => undefined} />
          </div>
        </>
      )}
      <GoesOn floor={floor} onMore={(lineId) => void write(`lines/${lineId}/more`, {}).catch(() => undefined)} />
      <p className="soft">How hard was the whole session, 0 to 10? With the minutes it gives the training load.</p>
      <div className="d-flex flex-wrap gap-2 mb-3" role="group" aria-label="Session RPE">
        {Array.from({ length: 11 }, (_, n) => (
          <Button key={n} variant={srpe === n ? "primary" : "plain"} className="tap" aria-pressed={srpe === n} onClick={() => setSrpe(n)}>
            {n}
          </Button>
        ))}
      </div>
      <label className="mb-3">
        Minutes, if not by the clock
        <input
          className="form-control tap num"
          style={{ width: 110 }}
          inputMode="numeric"
          value={minutes}
          onChange={(e) => setMinutes(e.target.value)}
        />
      </label>
      <div className="d-flex flex-wrap gap-2">
        <Button
          className={empty ? "tap" : "go px-4"}
          variant={empty ? "plain" : "primary"}
          onClick={() => onFinish(srpe, minutes ? Number(minutes) : null)}
        >
          Finish the session
        </Button>
        {!allDone && (
          <Button variant="plain" className="tap" onClick={onBack}>
            Back to the sets
          </Button>
        )}
        {allDone && !empty && (
          <Button variant="plain" className="tap" aria-expanded={open === "add"} onClick={() => show("add")}>
            Add an exercise
          </Button>
        )}
        {floor.may_cancel && (
          <Button variant="plain" className="tap" aria-expanded={open === "cancel"} onClick={() => show("cancel")}>
            Begun by mistake …
          </Button>
        )}
      </div>
      {open === "add" && <AddExercise write={write} onDone={() => setOpen("")} />}
      {open === "cancel" && <CancelWhy onCancel={onCancel} />}
    </div>
  );
}

const COMMON = ["Wrong athlete", "Wrong session", "Not training today"];

/** Why the session is taken back: one tap for the common ones, or in own words. */
function CancelWhy({ onCancel }: { onCancel: (reason: string) => void }) {
  const [reason, setReason] = useState("");
  return (
    <form
      className="mt-3"
      aria-label="Cancel the session"
      onSubmit={(e) => {
        e.preventDefault();
        onCancel(reason);
      }}
    >
      <p className="mb-1">It goes as if it had not begun, and the reason stays in the athlete’s history. Why?</p>
      <div className="d-flex flex-wrap gap-2">
        {COMMON.map((why) => (
          <Button key={why} variant="plain" className="tap" onClick={() => onCancel(why.toLowerCase())}>
            {why}
          </Button>
        ))}
        <input
          className="form-control tap"
          style={{ width: 220 }}
          aria-label="Another reason"
          placeholder="Another reason"
          maxLength={120}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
        <Button type="submit" variant="plain" className="tap">
          Cancel the session
        </Button>
      </div>
    </form>
  );
}
