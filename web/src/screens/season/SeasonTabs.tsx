import { NavLink } from "react-router";

/** The screens around one season. */
export function SeasonTabs({ id }: { id: number }) {
  const tabs = [
    ["season", "Season"],
    ["tapers", "Tapers"],
    ["contest", "Competition"],
    ["calendar", "Calendar"],
  ] as const;
  return (
    <nav className="tabs mb-3" aria-label="Season of the athlete">
      {tabs.map(([path, name]) => (
        <NavLink key={path} to={`/athletes/${id}/${path}`}>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
