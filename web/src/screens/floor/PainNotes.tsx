import { useState } from "react";
import Button from "react-bootstrap/Button";

import type { Floor, FloorLine } from "../../api/hooks";

interface Props {
  floor: Floor;
  onInstead: (lineId: number, exerciseId: string) => Promise<unknown>;
}

/** What pain has ended today, and what the coach may put in its place. */
export function PainNotes({ floor, onInstead }: Props) {
  if (floor.pains.length === 0 || floor.finished) return null;
  const open = floor.lines.filter((l) => l.instead.length > 0);
  return (
    <div className="mb-2" role="status">
      {floor.pains.map((p) => (
        <div key={p.id} className="note asks mb-1">
          {p.sentence}
        </div>
      ))}
      {open.map((l) => (
        <Instead key={l.id} line={l} onInstead={onInstead} />
      ))}
    </div>
  );
}

function Instead({ line, onInstead }: { line: FloorLine; onInstead: Props["onInstead"] }) {
  const [isOpen, setOpen] = useState(false);
  const [busy, setBusy] = useState(false);
  const name = `In place of ${line.slot} ${line.exercise}`;
  if (!isOpen)
    return (
      <Button variant="link" className="tap p-0 me-3" onClick={() => setOpen(true)}>
        {name} …
      </Button>
    );
  return (
    <div className="d-flex flex-wrap gap-1 align-items-center my-1" role="group" aria-label={name}>
      <span className="small fw-semibold">{name}:</span>
      {line.instead.map((e) => (
        <Button
          key={e.exercise_id}
          variant="plain"
          className="tap"
          disabled={busy}
          onClick={() => {
            setBusy(true);
            onInstead(line.id, e.exercise_id)
              .catch(() => undefined)
              .finally(() => setBusy(false));
          }}
        >
          {e.name}
        </Button>
      ))}
      <Button variant="link" className="tap p-0" onClick={() => setOpen(false)}>
        Nothing
      </Button>
    </div>
  );
}
