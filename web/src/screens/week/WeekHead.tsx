import { Link, useNavigate, useSearchParams } from "react-router";

import { useMay, useNames } from "../../api/hooks";
import { dayMonth, toCompetition } from "../../parts/dates";
import { SaveTemplate } from "../templates/SaveTemplate";
import { copyClip } from "./clip";
import type { Week } from "./DayColumn";
import { Needs } from "../../parts/Needs";
import { counted } from "../../parts/counted";

interface Props {
  id: number;
  week: Week;
  second: boolean;
  arranging: boolean;
  onArrange: () => void;
  onUndo: () => void;
}

/** Whose week it is, where it stands in the season, and the ways from it: undo, copy, keep, beside another, earlier and later. */
export function WeekHead({ id, week, second, arranging, onArrange, onUndo }: Props) {
  const navigate = useNavigate();
  const may = useMay();
  return (
    <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
      <div>
        {second ? (
          <h2 className="mb-0">{week.athlete_name}</h2>
        ) : (
          <h1>
            Week of {dayMonth(week.start)} · {toCompetition(week.days_to_go)}
          </h1>
        )}
        <p className="soft m-0">
          {!second && `${week.athlete_name} · `}
          {week.phase_name}, week {week.week_of_phase} of {week.weeks_in_phase}
          {week.is_easy && " · deload week"} ·{" "}
          <button
            type="button"
            className="btn btn-link p-0 align-baseline"
            aria-expanded={arranging}
            disabled={!may("plan")}
            onClick={onArrange}
          >
            {week.arrangement_name}, {counted(week.arrangement_days, "session")}
            {week.by_order && ", in order"}
            {week.only_this_week && " (this week only)"}
          </button>
        </p>
      </div>
      <div className="ms-auto d-flex flex-wrap gap-2 align-items-center">
        {week.can_undo && may("plan") && (
          <button type="button" className="btn btn-plain btn-sm" title="u" onClick={onUndo}>
            Undo: {week.can_undo}
          </button>
        )}
        <Needs may="plan">
          <button
            type="button"
            className="btn btn-plain btn-sm"
            onClick={() =>
              copyClip({
                kind: "week",
                athlete: id,
                name: week.athlete_name,
                day: week.start,
                key: "",
                words: `the week of ${dayMonth(week.start)}`,
              })
            }
          >
            Copy week
          </button>
          {!second && <SaveTemplate id={id} day={week.start} sessionKey="" kind="week" suggested={week.arrangement_name} />}
        </Needs>
        {!second && <BesidePicker id={id} start={week.start} />}
        {!second && (
          <div className="btn-group">
            <button
              type="button"
              className="btn btn-plain"
              disabled={!week.previous}
              onClick={() => void navigate(`/athletes/${id}/week/${week.previous}`)}
            >
              ← Earlier
            </button>
            <Link className="btn btn-plain" to={`/athletes/${id}/week`}>
              Now
            </Link>
            <button
              type="button"
              className="btn btn-plain"
              disabled={!week.following}
              onClick={() => void navigate(`/athletes/${id}/week/${week.following}`)}
            >
              Later →
            </button>
          </div>
        )}
      </div>
    </div>
  );
}

/** Whose week is laid beside this one. */
function BesidePicker({ id, start }: { id: number; start: string }) {
  const squads = useNames();
  const [search, setSearch] = useSearchParams();
  const squad = squads.data?.find((s) => s.athletes.some((a) => a.id === id));
  return (
    <>
      <select
        className="form-select form-select-sm w-auto"
        aria-label="Lay another athlete's week beside it"
        value={search.get("beside") ?? ""}
        onChange={(e) => setSearch(e.target.value ? { beside: e.target.value } : {})}
      >
        <option value="">Beside …</option>
        {squads.data?.map((s) => (
          <optgroup key={s.id} label={s.name}>
            {s.athletes
              .filter((a) => a.id !== id)
              .map((a) => (
                <option key={a.id} value={a.id}>
                  {a.name}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
      {squad && (
        <Link className="btn btn-plain btn-sm" to={`/squads/${squad.id}/week/${start}`}>
          Squad
        </Link>
      )}
    </>
  );
}
