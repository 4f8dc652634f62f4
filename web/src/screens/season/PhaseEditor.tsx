import type { Season } from "../../api/hooks";

export type Lengths = Record<string, number>;

/** Phase lengths as numbers: the keyboard's and the screen reader's way to what dragging a boundary does. */
export function PhaseEditor({ season, onSet }: { season: Season; onSet: (competition: number, weeks: Lengths) => void }) {
  const goals = [...new Set(season.phases.map((p) => p.competition_id))].filter((c) => c !== null);
  return (
    <>
      {goals.map((goal) => {
        const phases = season.phases.filter((p) => p.competition_id === goal);
        const several = goals.length > 1;
        const toward = phases[0]?.toward ?? "";
        const pins: Lengths = Object.fromEntries(phases.filter((p) => p.pinned).map((p) => [p.id, p.weeks]));
        return (
          <div
            key={goal}
            className="d-flex flex-wrap gap-3 align-items-end mb-2"
            role="group"
            aria-label={`Phase lengths in weeks to ${toward}`}
          >
            {several && <div className="small fw-semibold w-100">To {toward}</div>}
            {phases
              .filter((p) => p.can_set_length)
              .map((p) => (
                <div key={p.id} className="small">
                  <div>
                    {p.name}
                    {p.pinned && <span className="soft"> · set by you</span>}
                  </div>
                  <div className="btn-group btn-group-sm">
                    <button
                      type="button"
                      className="btn btn-plain"
                      aria-label={`${p.name}: a week less`}
                      onClick={() => onSet(goal, { ...pins, [p.id]: p.weeks - 1 })}
                    >
                      −
                    </button>
                    <span className="count num">{p.weeks}</span>
                    <button
                      type="button"
                      className="btn btn-plain"
                      aria-label={`${p.name}: a week more`}
                      onClick={() => onSet(goal, { ...pins, [p.id]: p.weeks + 1 })}
                    >
                      +
                    </button>
                  </div>
                </div>
              ))}
            {Object.keys(pins).length > 0 && (
              <button type="button" className="btn btn-link btn-sm" onClick={() => onSet(goal, {})}>
                Back to the proposal
              </button>
            )}
          </div>
        );
      })}
    </>
  );
}
