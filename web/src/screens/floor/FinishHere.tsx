import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";

import { stale } from "../../api/keys";
import { typedNumber } from "../../logic/numbers";
import { NumberField } from "../../parts/NumberField";

const EFFORT = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

interface Props {
  floor: { id: number; athlete_name: string; minutes_gone: number };
  write: (path: string, body: unknown) => Promise<unknown>;
  onDone: () => void;
}

/** A session is finished at the rack: how hard it was, and how long. */
export function FinishHere({ floor, write, onDone }: Props) {
  const client = useQueryClient();
  const [minutes, setMinutes] = useState(String(floor.minutes_gone));
  const [busy, setBusy] = useState(false);
  const finish = (srpe: number | null) => {
    setBusy(true);
    write("finish", { srpe, minutes: minutes.trim() ? typedNumber(minutes) : null })
      .then(() => {
        void stale.afterSession(client);
        onDone();
      })
      .catch(() => undefined)
      .finally(() => setBusy(false));
  };
  return (
    <section className="stop-set" aria-label={`Finish the session of ${floor.athlete_name}`}>
      <div className="d-flex gap-2 align-items-end">
        <NumberField label="minutes" width={84} isLarge value={minutes} onChange={(e) => setMinutes(e.target.value)} />
        <Button variant="plain" className="tap" disabled={busy} onClick={() => finish(null)}>
          Finish, not asked
        </Button>
      </div>
      <h3 className="fs-6 mt-2 mb-1">How hard was it? One tap finishes.</h3>
      <div className="d-flex flex-wrap gap-1" role="group" aria-label="How hard the session was, 0 to 10">
        {EFFORT.map((n) => (
          <Button key={n} variant="plain" className="tap" disabled={busy} onClick={() => finish(n)}>
            {n}
          </Button>
        ))}
      </div>
    </section>
  );
}
