import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { dayMonth, longDay, monthName, shortDay } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { monthOf } from "./useMonth";

type Rows = Schemas["AllSquadsOut"];

/** All squads beside each other: a row each, a column a day. */
export default function AllSquadsScreen() {
  const [search, setSearch] = useSearchParams();
  const month = search.get("month") ?? "";
  const rows = useQuery({
    queryKey: keys.allSquads(month),
    placeholderData: (before) => before,
    queryFn: () => need(api.GET("/api/calendar", { params: { query: { month } } })),
  });
  if (rows.isPending) return <Loading what="the calendars" />;
  if (rows.isLoadingError) return <Failed error={rows.error} again={() => void rows.refetch()} />;
  const r = rows.data;
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-2 mb-3">
        <h1 className="mb-0 me-auto">
          {monthName(r.month)} <span className="soft fw-normal">· all squads</span>
        </h1>
        <button type="button" className="btn btn-plain btn-sm" onClick={() => setSearch({ month: monthOf(r.previous) })}>
          ← {monthName(r.previous, true)}
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={() => setSearch({ month: monthOf(r.following) })}>
          {monthName(r.following, true)} →
        </button>
      </div>
      {r.squads.length === 0 ? (
        <p className="sheet pad">There is no squad yet. Athletes and squads are made on the page of the athletes.</p>
      ) : (
        r.squads.map((s) => <SquadRow key={s.id} squad={s} rows={r} />)
      )}
    </div>
  );
}

function SquadRow({ squad, rows }: { squad: Rows["squads"][number]; rows: Rows }) {
  const at = (day: string) => {
    const first = rows.days[0] ?? day;
    const last = rows.days[rows.days.length - 1] ?? day;
    return rows.days.indexOf(day < first ? first : day > last ? last : day);
  };
  return (
    <section className="sheet mb-3" aria-label={squad.name}>
      <h2 className="pad pb-1 mb-0">
        <Link to={`/squads/${squad.id}/calendar?month=${monthOf(rows.month)}`}>{squad.name}</Link>
      </h2>
      <div
        className="squad-days"
        style={{ gridTemplateColumns: `repeat(${rows.days.length}, minmax(0, 1fr))` }}
        tabIndex={0}
        role="group"
        aria-label={`Days of ${squad.name}`}
      >
        {rows.days.map((d, i) => (
          <span key={d} className={d === rows.today ? "today num" : "num"} style={{ gridColumn: i + 1 }} title={longDay(d)}>
            {Number(d.slice(8))}
          </span>
        ))}
        {squad.items.map((i) => (
          <span
            key={i.key}
            className={`chip ${i.tone}`}
            style={{ gridColumn: `${at(i.start) + 1} / ${at(i.end) + 2}` }}
            title={`${i.words}${i.whom ? ` · ${i.whom}` : ""}`}
          >
            <span className="text-truncate">{i.title}</span>
          </span>
        ))}
        {squad.items.length === 0 && <span className="soft small nothing">Nothing but training this month.</span>}
      </div>
      {squad.items.length > 0 && (
        <ul className="pad pt-0 mb-0 small d-flex flex-wrap gap-3 list-unstyled">
          {squad.items.map((i) => (
            <li key={i.key}>
              {i.words}{" "}
              <span className="soft">
                · {shortDay(i.start)}
                {i.end !== i.start && ` to ${dayMonth(i.end)}`}
                {i.whom && ` · ${i.whom}`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
