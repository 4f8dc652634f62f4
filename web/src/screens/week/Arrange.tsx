import { useState } from "react";

import { api, need, type Schemas } from "../../api/client";
import { useAction } from "../../api/useAction";
import { useWeekArrangements } from "../../api/hooks";
import { Trouble } from "../../parts/states";

/** Which way the week is arranged, for how many sessions, for whom, and for how long. */
export function Arrange({ id, week, done }: { id: number; week: Schemas["WeekViewOut"]; done: () => void }) {
  const known = useWeekArrangements(id);
  const [key, setKey] = useState(week.arrangement);
  const [days, setDays] = useState(week.arrangement_days);
  const [scope, setScope] = useState("athlete");
  const [only, setOnly] = useState(false);
  const [order, setOrder] = useState<boolean | null>(null); // as the chosen model does it, until the coach says
  const chosen = known.data?.find((a) => a.key === key);
  const save = useAction(() =>
    need(
      api.PUT("/api/athletes/{athlete_id}/week-arrangement", {
        params: { path: { athlete_id: id } },
        body: {
          arrangement: key,
          days: chosen?.days.includes(days) ? days : (chosen?.days[0] ?? 0),
          scope,
          only_this_week: only ? week.start : null,
          by_order: order ?? (key === week.arrangement ? week.by_order : null),
        },
      }),
    ),
  );
  return (
    <form
      className="sheet pad mb-2"
      aria-label="Arrange the week"
      onKeyDown={(e) => e.key === "Escape" && done()}
      onSubmit={(e) => {
        e.preventDefault();
        save.run(undefined, done);
      }}
    >
      <div className="d-flex flex-wrap gap-2 align-items-end">
        <label className="small">
          The week is
          <select
            className="form-select form-select-sm"
            aria-label="The week is"
            value={key}
            autoFocus
            onChange={(e) => setKey(e.target.value)}
          >
            {known.data?.map((a) => (
              <option key={a.key} value={a.key}>
                {a.name}
              </option>
            ))}
          </select>
        </label>
        <label className="small">
          Sessions a week
          <select
            className="form-select form-select-sm"
            aria-label="Sessions a week"
            value={days}
            onChange={(e) => setDays(Number(e.target.value))}
          >
            {(chosen?.days ?? [days]).map((n) => (
              <option key={n} value={n}>
                {n}
              </option>
            ))}
          </select>
        </label>
        <label className="small">
          For
          <select className="form-select form-select-sm" value={scope} onChange={(e) => setScope(e.target.value)}>
            <option value="athlete">{week.athlete_name}</option>
            <option value="group">the group</option>
            <option value="squad">the squad</option>
          </select>
        </label>
        <label className="small">
          How long
          <select className="form-select form-select-sm" value={only ? "one" : "all"} onChange={(e) => setOnly(e.target.value === "one")}>
            <option value="all">from now on, all weeks</option>
            <option value="one">this week only</option>
          </select>
        </label>
        <label className="small">
          A missed session
          <select
            className="form-select form-select-sm"
            value={(order ?? (key === week.arrangement ? week.by_order : (chosen?.is_sequence ?? false))) ? "order" : "days"}
            onChange={(e) => setOrder(e.target.value === "order")}
          >
            <option value="days">is moved, merged or left out</option>
            <option value="order">is done next, in order</option>
          </select>
        </label>
        <button type="submit" className="btn btn-primary btn-sm" disabled={save.isPending}>
          Apply
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={done}>
          Cancel
        </button>
      </div>
      {chosen && (
        <p className="small mb-0 mt-2">
          {chosen.how} <b>Good for</b> {chosen.good_for}. <b>Weak at</b>: {chosen.weakness}.
          {chosen.asks && (
            <>
              {" "}
              <b>Asks for</b> {chosen.asks}
              {chosen.asks_months > 0 && `, ${chosen.asks_months} months of lifting`}.
            </>
          )}
          {chosen.is_sequence && " Usually done in order, not by weekday."}
        </p>
      )}
      {chosen?.not_met && (
        <p className="note asks small mb-0 mt-1" role="status">
          {week.athlete_name} has {chosen.not_met}. It can be chosen all the same.
        </p>
      )}
      {save.problem && <Trouble problem={save.problem} />}
    </form>
  );
}
