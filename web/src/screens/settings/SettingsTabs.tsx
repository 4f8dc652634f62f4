import { NavLink } from "react-router";

import { useMay } from "../../api/hooks";

// each page of the settings, and what somebody has to be allowed to find anything on it
const PAGES: [to: string, name: string, need: string][] = [
  ["/settings", "Centre", "training"],
  ["/people", "People", "centre"],
  ["/settings/kits", "Kits", "plan"],
  ["/settings/loads", "What sets a load", "training"],
  ["/settings/season", "Season", "training"],
  ["/settings/week", "Week and session", "training"],
  ["/settings/floor", "Floor", "training"],
  ["/sensors", "Sensors", "training"],
  ["/data", "Data", "training"],
  ["/history", "What was done", "training"],
];

/** The rooms of the settings. */
export function SettingsTabs() {
  const may = useMay();
  return (
    <nav className="tabs mb-3" aria-label="Settings">
      {PAGES.filter(([, , need]) => may(need)).map(([to, name]) => (
        <NavLink key={to} to={to} end>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
