import { useState } from "react";
import Form from "react-bootstrap/Form";

import type { FloorLine, FloorSet } from "../../api/hooks";

interface Props {
  line: FloorLine;
  set: FloorSet;
  write: (path: string, body: unknown) => Promise<unknown>;
}

const kindWord = (kind: string) => (kind === "ramp" ? "warm-up" : "set");

/** The measured repetitions of a set: in one look, and each with what can be done about a wrong one. */
export function SetReps({ line, set, write }: Props) {
  const [busy, setBusy] = useState(false);
  if (set.measured.length === 0 && set.taken_out.length === 0) return null;
  const act = (path: string, body: unknown = {}) => {
    setBusy(true);
    write(path, body)
      .catch(() => undefined) // said above by who writes
      .finally(() => setBusy(false));
  };
  const others = line.sets.filter((s) => s.kind !== set.kind || s.number !== set.number);
  const s = set.summary;
  return (
    <div className="pb-2">
      {s && (
        <>
          <dl className="set-figures">
            <div>
              <dt>zone</dt>
              <dd>{s.zone}</dd>
            </div>
            {s.figures.map((f) => (
              <div key={f.name}>
                <dt>{f.name}</dt>
                <dd className="num">{f.value}</dd>
              </div>
            ))}
          </dl>
          <p className="soft small mb-1">{[s.evenness, s.caution, s.definition].filter(Boolean).join(" · ")}</p>
        </>
      )}
      <ol className="list-unstyled m-0 set-reps">
        {set.measured.map((r) => (
          <li key={r.id} className="d-flex flex-wrap gap-2 align-items-center border-top">
            <span>
              {r.number} · <b className="num">{r.counts_mps.toFixed(2)}</b>{" "}
              <span className="soft small">
                peak {r.peak_mps.toFixed(2)} · {r.time_to_peak_s.toFixed(2)} s to it · {Math.round(100 * r.range_m)} cm
              </span>
            </span>
            <span className="ms-auto d-flex gap-2 align-items-center">
              {others.length > 0 && (
                <Form.Select
                  size="sm"
                  className="tap w-auto"
                  aria-label={`Move repetition ${r.number} to another set`}
                  disabled={busy}
                  value=""
                  onChange={(e) => {
                    const to = others[Number(e.target.value)];
                    if (to) act(`reps/${r.id}/move`, { line_id: line.id, kind: to.kind, number: to.number });
                  }}
                >
                  <option value="">move to …</option>
                  {others.map((o, i) => (
                    <option key={`${o.kind}${o.number}`} value={i}>
                      {kindWord(o.kind)} {o.number}
                    </option>
                  ))}
                </Form.Select>
              )}
              <button
                type="button"
                className="btn btn-link btn-sm tap"
                disabled={busy}
                aria-label={`Take out repetition ${r.number}`}
                onClick={() => act(`reps/${r.id}/out`)}
              >
                Take out
              </button>
            </span>
          </li>
        ))}
        {set.taken_out.map((r) => (
          <li key={r.id} className="d-flex gap-2 align-items-center border-top soft">
            <s className="num">{r.counts_mps.toFixed(2)}</s> taken out
            <button
              type="button"
              className="btn btn-link btn-sm tap ms-auto"
              disabled={busy}
              aria-label={`Put back the repetition of ${r.counts_mps.toFixed(2)}`}
              onClick={() => act(`reps/${r.id}/back`)}
            >
              Put back
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}
