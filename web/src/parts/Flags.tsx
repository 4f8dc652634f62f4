import { useState } from "react";

import type { Schemas } from "../api/client";
import { useMay } from "../api/hooks";

type Flag = Schemas["FlagOut"];

interface Props {
  flags: Flag[];
  onFix: (flag: Flag) => void;
  onKeep: (flag: Flag, reason: string) => void;
  onLift: (word: number) => void;
}

/** Checks in the margin: what, why, source, “change it” and “keep it, because …”. A kept one stays, quieter. */
export function Flags({ flags, onFix, onKeep, onLift }: Props) {
  return (
    <>
      {flags.map((f) => (
        <FlagNote key={`${f.check_id}${f.where}`} flag={f} onFix={onFix} onKeep={onKeep} onLift={onLift} />
      ))}
    </>
  );
}

function FlagNote({ flag: f, onFix, onKeep, onLift }: Omit<Props, "flags"> & { flag: Flag }) {
  const [why, setWhy] = useState<string | null>(null);
  const canAnswer = useMay()("plan");
  const kept = f.kept_id !== null;
  return (
    <div className={!kept && f.severity !== "note" ? "note asks" : "note"}>
      <span className="small fw-semibold">{kept ? "kept" : f.severity}</span> ·{" "}
      <b>
        {f.slot && `${f.slot} · `}
        {f.title}
      </b>{" "}
      {f.reason} <span className="soft">({f.source})</span>
      {kept && <div className="soft">Kept, because {f.kept_reason}</div>}
      <div className={canAnswer ? "mt-1 d-flex flex-wrap gap-3" : "d-none"}>
        {f.fix && !kept && (
          <button type="button" className="btn btn-link p-0 fw-semibold" onClick={() => onFix(f)}>
            {f.fix.words}
          </button>
        )}
        {!kept && why === null && (
          <button type="button" className="btn btn-link p-0" aria-label={`Keep it, because … ${f.title}`} onClick={() => setWhy("")}>
            Keep it, because …
          </button>
        )}
        {kept && (
          <button type="button" className="btn btn-link p-0" aria-label={`Ask again: ${f.title}`} onClick={() => onLift(f.kept_id ?? 0)}>
            Ask again
          </button>
        )}
      </div>
      {why !== null && !kept && (
        <form
          className="d-flex gap-1 mt-1"
          onSubmit={(e) => {
            e.preventDefault();
            onKeep(f, why);
            setWhy(null);
          }}
        >
          <input
            className="form-control form-control-sm"
            aria-label={`Reason to keep: ${f.title}`}
            value={why}
            maxLength={200}
            autoFocus
            required
            onChange={(e) => setWhy(e.target.value)}
          />
          <button type="submit" className="btn btn-plain btn-sm">
            Save
          </button>
        </form>
      )}
    </div>
  );
}
