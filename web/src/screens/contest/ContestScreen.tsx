import { Link, useParams, useSearchParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useContest } from "../../api/hooks";
import { inDays, longDay, shortDay } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { SeasonTabs } from "../season/SeasonTabs";
import { Events } from "./Events";

type Contest = Schemas["ContestOut"];

/** What is contested, and the last hard work before it, worked back from the day. */
export default function ContestScreen() {
  const id = Number(useParams().id);
  const [search] = useSearchParams();
  const contest = useContest(id, Number(search.get("competition")) || null);
  if (contest.isPending) return <Loading what="the competition" />;
  if (contest.isLoadingError) {
    return (
      <div className="page">
        <SeasonTabs id={id} />
        <Failed error={contest.error} again={() => void contest.refetch()} />
      </div>
    );
  }
  const c = contest.data;
  return (
    <div className="page">
      <h1>
        {c.day ? (
          <>
            {c.competition}, {longDay(c.day)} · {inDays(c.days_to_go ?? 0)}
          </>
        ) : (
          `${c.athlete_name}: no main competition ahead`
        )}
      </h1>
      <SeasonTabs id={id} />
      {c.competitions.length > 1 && (
        <nav className="d-flex flex-wrap gap-2 mb-2" aria-label="Which competition">
          {c.competitions.map((x) => (
            <Link
              key={x.id}
              className="btn btn-plain btn-sm"
              aria-current={String(c.competition_id) === x.id ? "page" : undefined}
              to={`?competition=${x.id}`}
            >
              {x.name}
            </Link>
          ))}
        </nav>
      )}
      {c.competition_id !== null && (
        <div className="with-margin">
          <div>
            <Exposures id={id} contest={c} />
            <Events
              key={JSON.stringify([c.competition_id, c.events, c.weigh_in, c.division])}
              id={id}
              contest={c}
              competition={c.competition_id}
            />
          </div>
          <aside aria-label="Notes in the margin">
            {c.class_words && (
              <div className={c.class_is_far ? "note asks" : "note"}>
                <b>Body mass:</b> {c.class_words}
              </div>
            )}
            <div className="note">
              <b>{c.last_session}</b> Then travel and rest.
            </div>
            <div className="note">{c.dropped}</div>
            {c.after.map((words) => (
              <div className="note" key={words}>
                <b>Afterwards.</b> {words}
              </div>
            ))}
            <div className="note">
              <b>Rehearsing the order of the competition</b> is done by some schools and not by others: it is offered, not required.
            </div>
          </aside>
        </div>
      )}
    </div>
  );
}

function Exposures({ id, contest: c }: { id: number; contest: Contest }) {
  if (c.exposures.length === 0) {
    return (
      <p className="sheet pad">Add the events below: the last heavy sessions are counted back from the day, and written into the plan.</p>
    );
  }
  return (
    <div className="sheet mb-3">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          Last heavy sessions
        </caption>
        <thead>
          <tr>
            <th>Day</th>
            <th className="right">Days before</th>
            <th>Event</th>
            <th>What</th>
            <th className="right">Of the competition load or effort</th>
            <th>In the plan</th>
          </tr>
        </thead>
        <tbody>
          {c.exposures.map((e) => (
            <tr key={`${e.event}${e.what}`}>
              <td className="nowrap fw-semibold">
                {shortDay(e.day)}
                {e.first !== e.last && (
                  <div className="soft small fw-normal">
                    window {shortDay(e.first)} to {shortDay(e.last)}
                  </div>
                )}
              </td>
              <td className="right num">{e.days_out}</td>
              <td>{e.event}</td>
              <td>
                {e.what}
                {e.note && <div className="clay small">{e.note}</div>}
              </td>
              <td className="right nowrap num">
                {e.share_low === e.share_high ? e.share_low : `${e.share_low}–${e.share_high}`} %
                {e.load_words && <div className="soft small">{e.load_words}</div>}
              </td>
              <td className="small">
                {e.is_left_out ? (
                  <span className="clay">not in the plan</span>
                ) : e.lines.length > 0 ? (
                  <Link to={`/athletes/${id}/week/${e.monday}`}>{e.lines.join(" · ")}</Link>
                ) : (
                  <span className="clay">Choose the exercise of the event below: then it is a line of that session.</span>
                )}
                {e.instead && <div className="soft">or {e.instead}</div>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small pad mb-0">
        Common practice; days before are counted from the day of each event. Each is a line of the session on its day; after it nothing of
        that event is heavy.
      </p>
    </div>
  );
}
