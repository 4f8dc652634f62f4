import { Link, NavLink } from "react-router";

/** The parts of one athlete. */
export function AthleteTabs({ id }: { id: number }) {
  return (
    <nav className="tabs" aria-label="Parts of the athlete">
      <NavLink to={`/athletes/${id}`} end>
        Maxes and marks
      </NavLink>
      <NavLink to={`/athletes/${id}/standing`}>Bests and ratios</NavLink>
      <NavLink to={`/athletes/${id}/tests`}>Tests</NavLink>
      <NavLink to={`/athletes/${id}/trials`}>Floor trials</NavLink>
      <NavLink to={`/athletes/${id}/record`}>Record</NavLink>
      <Link to={`/history?of=athlete-${id}`}>What was done</Link>
    </nav>
  );
}
