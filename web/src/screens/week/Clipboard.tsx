import { copyClip, type Clip } from "./clip";
import type { Week } from "./DayColumn";

interface Props {
  clip: Clip;
  week: Week;
  scope: string;
  onScope: (scope: string) => void;
  onPutDown: () => void;
}

/** What was copied, and for whom it is put down. */
export function Clipboard({ clip, week, scope, onScope, onPutDown }: Props) {
  return (
    <div className="note mb-2" role="status">
      Copied: {clip.words} of {clip.name}.{" "}
      {clip.kind === "week" ? (
        <>
          <button type="button" className="btn btn-link p-0" onClick={onPutDown}>
            Paste into this week
          </button>{" "}
        </>
      ) : (
        "Put it down on a free day "
      )}
      <label>
        for{" "}
        <select
          className="form-select form-select-sm d-inline-block w-auto"
          aria-label="For whom it is put down"
          value={scope}
          onChange={(e) => onScope(e.target.value)}
        >
          <option value="athlete">{week.athlete_name}</option>
          {week.group && <option value="group">the group {week.group}</option>}
          <option value="squad">the whole squad</option>
        </select>
      </label>
      <button type="button" className="btn btn-link p-0 ms-2" onClick={() => copyClip(null)}>
        Clear
      </button>
    </div>
  );
}
