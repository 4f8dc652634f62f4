import { Link, NavLink } from "react-router";
import { Needs } from "../../parts/Needs";

/** The parts of one athlete. */
export function AthleteTabs({ id }: { id: number }) {
  return (
    <nav className="tabs" aria-label="Parts of the athlete">
      <NavLink to={`/athletes/${id}`} end>
        Maxes and results
      </NavLink>
      <Needs may="training">
        <NavLink to={`/athletes/${id}/standing`}>Bests and ratios</NavLink>
        <NavLink to={`/athletes/${id}/tests`}>Tests</NavLink>
        <NavLink to={`/athletes/${id}/trials`}>Individual tests</NavLink>
      </Needs>
      <Needs may="health">
        <NavLink to={`/athletes/${id}/record`}>Details</NavLink>
      </Needs>
      <Needs may="plan">
        <Link to={`/history?of=athlete-${id}`}>What was done</Link>
      </Needs>
    </nav>
  );
}
