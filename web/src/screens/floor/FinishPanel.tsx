import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Floor } from "../../api/hooks";

interface Props {
  floor: Floor;
  allDone: boolean;
  onFinish: (srpe: number | null, minutes: number | null) => void;
  onBack: () => void;
  onCancel: () => void;
}

/** How hard was it: one tap, then the session is closed. */
export function FinishPanel({ floor, allDone, onFinish, onBack, onCancel }: Props) {
  const [srpe, setSrpe] = useState<number | null>(null);
  const [minutes, setMinutes] = useState("");
  return (
    <div>
      <h1 className="mb-2">
        {allDone ? (floor.pains.length ? "Nothing more today" : "Everything is done") : `${floor.sets_left} work sets are left`}
      </h1>
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
      <div className="d-flex gap-2">
        <Button className="go px-4" onClick={() => onFinish(srpe, minutes ? Number(minutes) : null)}>
          Finish the session
        </Button>
        {!allDone && (
          <Button variant="plain" className="tap" onClick={onBack}>
            Back to the sets
          </Button>
        )}
        {floor.may_cancel && (
          <Button variant="plain" className="tap" onClick={onCancel}>
            Begun by mistake: cancel it
          </Button>
        )}
      </div>
    </div>
  );
}
