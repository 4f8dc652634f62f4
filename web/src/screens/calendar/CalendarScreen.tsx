import Form from "react-bootstrap/Form";
import { useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { useCalendar } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { dated, shortDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { SeasonTabs } from "../season/SeasonTabs";
import { CalendarImport } from "./CalendarImport";
import { CalendarOut } from "./CalendarOut";
import { EntryForm } from "./EntryForm";
import { MonthView } from "./MonthView";
import { Needs } from "../../parts/Needs";

type Calendar = Schemas["CalendarOut"];

/** What fills the calendar beside competitions, and calendars in and out. */
export default function CalendarScreen() {
  const id = Number(useParams().id);
  const calendar = useCalendar(id);
  if (calendar.isPending) return <Loading what="the calendar" />;
  if (calendar.isLoadingError) return <Failed error={calendar.error} again={() => void calendar.refetch()} />;
  const c = calendar.data;
  return (
    <div className="page">
      <MonthView whose="athlete" id={id} tabs={<SeasonTabs id={id} />} />
      <div className="row g-3 mt-2">
        <div className="col-lg-7">
          <Entries id={id} calendar={c} />
          {c.played.length > 0 && <Played id={id} calendar={c} />}
          {c.match_week.length > 0 && <MatchWeek title="This week, counted from the match" days={c.match_week} />}
          {c.match_week_few.length > 0 && <MatchWeek title="The same week for who hardly plays" days={c.match_week_few} />}
        </div>
        <div className="col-lg-5">
          <Needs may="plan">
            <CalendarImport id={id} calendar={c} />
          </Needs>
          <CalendarOut whose="athlete" id={id} />
        </div>
      </div>
    </div>
  );
}

function Entries({ id, calendar: c }: { id: number; calendar: Calendar }) {
  const path = { athlete_id: id };
  const out = useAction((entry: number) =>
    need(api.DELETE("/api/athletes/{athlete_id}/calendar/{entry_id}", { params: { path: { ...path, entry_id: entry } } })),
  );
  return (
    <section className="sheet mb-3">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          Ahead, competitions apart
        </caption>
        <thead>
          <tr>
            <th>What</th>
            <th>When</th>
            <th>For</th>
            <th>
              <span className="visually-hidden">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {c.entries.length === 0 && (
            <tr>
              <td colSpan={4} className="soft">
                Nothing yet. Camps, travel, exams and days away lighten their weeks; three matches and more make a league.
              </td>
            </tr>
          )}
          {c.entries.map((e) => (
            <tr key={e.id}>
              <td>
                <b>{e.name}</b> <span className="soft">· {e.kind_name.toLowerCase()}</span>
              </td>
              <td className="nowrap">
                {dated(e.start, e.days_to_go)}
                {e.end !== e.start && <span className="soft"> to {shortDay(e.end)}</span>}
              </td>
              <td className="soft">{e.whom}</td>
              <td className="right">
                <Needs may="plan">
                  <button
                    type="button"
                    className="btn btn-link btn-sm p-0"
                    aria-label={`Take out: ${e.name}`}
                    onClick={() => out.run(e.id)}
                  >
                    Take out
                  </button>
                </Needs>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {out.problem && <Trouble problem={out.problem} />}
      <Needs may="plan">
        <EntryForm id={id} calendar={c} />
      </Needs>
    </section>
  );
}

/** How long the athlete played: who plays little trains the day after, who plays much recovers first. */
function Played({ id, calendar: c }: { id: number; calendar: Calendar }) {
  const write = useAction(({ entry, minutes }: { entry: number; minutes: number | null }) =>
    need(
      api.PUT("/api/athletes/{athlete_id}/calendar/{entry_id}/minutes", {
        params: { path: { athlete_id: id, entry_id: entry } },
        body: { minutes },
      }),
    ),
  );
  return (
    <section className="sheet pad mb-3">
      <h2>Minutes played</h2>
      <p className="soft small mb-1">{c.played_words}</p>
      {c.played.map((p) => (
        <div key={p.entry_id} className="d-flex align-items-center border-top py-1">
          <span>
            {p.name} <span className="soft">· {shortDay(p.day)}</span>
          </span>
          <Form.Control
            size="sm"
            className="ms-auto text-end"
            style={{ width: 70 }}
            inputMode="numeric"
            aria-label={`Minutes in ${p.name} of ${shortDay(p.day)}`}
            placeholder="min"
            defaultValue={p.minutes ?? ""}
            onBlur={(e) => {
              const typed = e.target.value.trim();
              const minutes = typed === "" ? null : Number(typed);
              if (minutes === p.minutes) return;
              write.run({ entry: p.entry_id, minutes });
            }}
          />
        </div>
      ))}
      {write.problem && <Trouble problem={write.problem} />}
    </section>
  );
}

function MatchWeek({ title, days }: { title: string; days: Schemas["MatchDayOut"][] }) {
  return (
    <section className="sheet mb-3">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          {title}
        </caption>
        <tbody>
          {days.map((d) => (
            <tr key={d.day}>
              <th scope="row" className="text-body nowrap">
                {shortDay(d.day)}
              </th>
              <td className="num nowrap">{d.label}</td>
              <td className={d.is_match ? "clay fw-semibold" : d.session > 0 ? "fw-semibold" : "soft"}>{d.holds}</td>
              <td className="soft small">{d.why}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
