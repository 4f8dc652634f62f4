import { Link, useParams } from "react-router";

import { CalendarOut } from "./CalendarOut";
import { MonthView } from "./MonthView";

/** The calendar of a squad: what is written here is for all of it, or for a group. */
export default function SquadCalendarScreen() {
  const id = Number(useParams().id);
  return (
    <div className="page">
      <MonthView
        whose="squad"
        id={id}
        tabs={
          <nav className="tabs mb-3" aria-label="Pages of the squad">
            <Link to={`/squads/${id}/season`}>Season</Link>
            <Link to={`/squads/${id}/week`}>Week</Link>
            <Link to={`/squads/${id}/calendar`} className="active" aria-current="page">
              Calendar
            </Link>
          </nav>
        }
      />
      <CalendarOut whose="squad" id={id} />
    </div>
  );
}
