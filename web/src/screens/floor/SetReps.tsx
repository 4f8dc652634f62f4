import { useState } from "react";
import Form from "react-bootstrap/Form";

import type { FloorLine, FloorSet } from "../../api/hooks";

interface Props {
  line: FloorLine;
  set: FloorSet;
  write: (path: string, body: unknown) => Promise<unknown>;
}

const kindWord = (kind: string) => (kind === "ramp" ? "warm-up" : "set");

/** What was measured of a set, repetitions, jumps or splits: in one look, and each with what can be done about a wrong one. */
export function SetReps({ line, set, write }: Props) {
  const [busy, setBusy] = useState(false);
  if (set.measured.length + set.taken_out.length + set.seen.length + set.seen_out.length === 0) return null;
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
          <Counted key={r.id} name={`repetition ${r.number}`} path={`reps/${r.id}`} others={others} line={line} busy={busy} act={act}>
            {r.number} · <b className="num">{r.counts_mps.toFixed(2)}</b>{" "}
            <span className="soft small">
              peak {r.peak_mps.toFixed(2)} · {r.time_to_peak_s.toFixed(2)} s to it · {Math.round(100 * r.range_m)} cm
            </span>
          </Counted>
        ))}
        {set.seen.map((x, n) => (
          <Counted
            key={`seen${x.id}`}
            name={`${x.sort} ${n + 1}`}
            path={`readings/${x.id}`}
            others={x.sort === "velocity" ? others : others.filter((o) => o.kind === "work")}
            line={line}
            busy={busy}
            act={act}
          >
            {n + 1} · <b className="num">{x.words}</b>
          </Counted>
        ))}
        {set.taken_out.map((r) => (
          <Out key={r.id} name={`repetition of ${r.counts_mps.toFixed(2)}`} busy={busy} onBack={() => act(`reps/${r.id}/back`)}>
            {r.counts_mps.toFixed(2)}
          </Out>
        ))}
        {set.seen_out.map((x) => (
          <Out key={`seen${x.id}`} name={`${x.sort} of ${x.words}`} busy={busy} onBack={() => act(`readings/${x.id}/back`)}>
            {x.words}
          </Out>
        ))}
      </ol>
    </div>
  );
}

interface CountedProps {
  name: string;
  path: string;
  others: FloorSet[];
  line: FloorLine;
  busy: boolean;
  act: (path: string, body?: unknown) => void;
  children: React.ReactNode;
}

/** One measurement that counts: it can be given to another set, or taken out. */
function Counted({ name, path, others, line, busy, act, children }: CountedProps) {
  return (
    <li className="d-flex flex-wrap gap-2 align-items-center border-top">
      <span>{children}</span>
      <span className="ms-auto d-flex gap-2 align-items-center">
        {others.length > 0 && (
          <Form.Select
            size="sm"
            className="tap w-auto"
            aria-label={`Move ${name} to another set`}
            disabled={busy}
            value=""
            onChange={(e) => {
              const to = others[Number(e.target.value)];
              if (to) act(`${path}/move`, { line_id: line.id, kind: to.kind, number: to.number });
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
          aria-label={`Take out ${name}`}
          onClick={() => act(`${path}/out`)}
        >
          Take out
        </button>
      </span>
    </li>
  );
}

interface OutProps {
  name: string;
  busy: boolean;
  onBack: () => void;
  children: React.ReactNode;
}

/** One that was taken out; it can be put back. */
function Out({ name, busy, onBack, children }: OutProps) {
  return (
    <li className="d-flex gap-2 align-items-center border-top soft">
      <s className="num">{children}</s> taken out
      <button
        type="button"
        className="btn btn-link btn-sm tap ms-auto"
        disabled={busy}
        aria-label={`Put back the ${name}`}
        onClick={onBack}
      >
        Put back
      </button>
    </li>
  );
}
