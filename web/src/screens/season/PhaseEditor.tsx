import type { Season } from "../../api/hooks";
import type { Lengths } from "./SeasonScreen";

/** Phase lengths as numbers: the keyboard's and the screen reader's way to what dragging a boundary does. */
export function PhaseEditor({ season, onSet }: { season: Season; onSet: (weeks: Lengths) => void }) {
  const pins: Lengths = {};
  for (const p of season.phases) if (p.pinned) pins[p.key] = p.weeks;
  return (
    <div className="d-flex flex-wrap gap-3 align-items-end" role="group" aria-label="Phase lengths in weeks">
      {season.phases
        .filter((p) => p.key !== "general")
        .map((p) => (
          <div key={p.key} className="small">
            <div>
              {p.name}
              {p.pinned && <span className="soft"> · set by you</span>}
            </div>
            <div className="btn-group btn-group-sm">
              <button
                type="button"
                className="btn btn-plain"
                aria-label={`${p.name}: a week less`}
                onClick={() => onSet({ ...pins, [p.key]: p.weeks - 1 })}
              >
                −
              </button>
              <span className="count num">{p.weeks}</span>
              <button
                type="button"
                className="btn btn-plain"
                aria-label={`${p.name}: a week more`}
                onClick={() => onSet({ ...pins, [p.key]: p.weeks + 1 })}
              >
                +
              </button>
            </div>
          </div>
        ))}
      {Object.keys(pins).length > 0 && (
        <button type="button" className="btn btn-link btn-sm" onClick={() => onSet({})}>
          Back to the proposal
        </button>
      )}
    </div>
  );
}
