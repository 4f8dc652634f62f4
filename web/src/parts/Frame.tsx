import { useEffect, useState, useSyncExternalStore } from "react";
import Dropdown from "react-bootstrap/Dropdown";
import { NavLink, Outlet, useLocation, useMatch, useNavigate } from "react-router";

import { useNames } from "../api/hooks";
import { drain, forgetRefused, refusedWrites, waitingCount, watchOutbox } from "../api/outbox";
import { Account } from "./Account";
import { Tape } from "./Tape";

const LAST = "jarvok.athlete";
const THEME = "jarvok.theme";

export function lastAthlete(): number | null {
  const kept = Number(localStorage.getItem(LAST));
  return Number.isInteger(kept) && kept > 0 ? kept : null;
}

export function applyTheme(): void {
  const kept = localStorage.getItem(THEME);
  const dark = kept ? kept === "dark" : window.matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.setAttribute("data-bs-theme", dark ? "dark" : "light");
}

function useAthleteId(): number | null {
  const squads = useNames();
  const match = useMatch("/athletes/:id/*");
  const id = Number(match?.params.id);
  const here = Number.isInteger(id) && id > 0 ? id : null;
  useEffect(() => {
    if (here) localStorage.setItem(LAST, String(here));
  }, [here]);
  return here ?? lastAthlete() ?? squads.data?.[0]?.athletes[0]?.id ?? null;
}

/** The frame of every screen: where one is, who it is about, and on planning screens how many days are left. */
export function Frame() {
  const athleteId = useAthleteId();
  const location = useLocation();
  const planning = /^\/athletes\/\d+\/(week|session)/.test(location.pathname);
  const forAthlete = (part: string) => (athleteId ? `/athletes/${athleteId}/${part}` : "/athletes");
  useEffect(() => {
    void drain();
  }, []);
  return (
    <>
      <a className="skip" href="#main">
        To the content
      </a>
      <header className="frame-top">
        <NavLink to="/" className="brand">
          <Mark /> Jarvok
        </NavLink>
        <nav className="frame-nav" aria-label="Screens">
          <NavLink to="/" end>
            Today
          </NavLink>
          <NavLink
            to="/calendar"
            className={({ isActive }) => (isActive || /^\/(squads|athletes)\/\d+\/calendar/.test(location.pathname) ? "active" : "")}
          >
            Calendar
          </NavLink>
          <NavLink to={forAthlete("season")}>Season</NavLink>
          <NavLink to={forAthlete("week")}>Week</NavLink>
          <NavLink to={forAthlete("session")}>Session</NavLink>
          <NavLink to="/floor" className={({ isActive }) => (isActive || location.pathname.startsWith("/room/") ? "active" : "")}>
            Floor
          </NavLink>
          <NavLink to="/athletes" end>
            Athletes
          </NavLink>
          <NavLink to="/library" className={({ isActive }) => (isActive || location.pathname.startsWith("/templates") ? "active" : "")}>
            Library
          </NavLink>
          <NavLink to="/settings">Settings</NavLink>
        </nav>
        <div className="frame-who">
          <Unsent />
          <ThemeSwitch />
          <Account />
          {!/^\/(floor|room|trials)\//.test(location.pathname) && <AthletePicker athleteId={athleteId} />}
        </div>
      </header>
      {planning && athleteId && <Tape athleteId={athleteId} />}
      <main id="main" tabIndex={-1}>
        <Outlet />
      </main>
    </>
  );
}

function Mark() {
  return (
    <svg width="26" height="22" viewBox="0 0 26 22" aria-hidden>
      <path d="M1 11H25" stroke="currentColor" strokeWidth="2" />
      <rect x="4" y="3" width="4" height="16" fill="var(--accent)" />
      <rect x="9.4" y="6" width="3" height="10" fill="currentColor" />
      <path d="M19 4v14" stroke="var(--clay)" strokeWidth="3" />
    </svg>
  );
}

function Unsent() {
  const count = useSyncExternalStore(watchOutbox, waitingCount);
  const refused = useSyncExternalStore(watchOutbox, refusedWrites);
  return (
    <>
      {count > 0 && (
        <span className="clay fw-semibold" role="status">
          {count} waiting to be sent
        </span>
      )}
      {refused.length > 0 && (
        <Dropdown align="end">
          <Dropdown.Toggle variant="plain" size="sm" id="refused">
            {refused.length} not taken
          </Dropdown.Toggle>
          <Dropdown.Menu className="p-3" style={{ width: 360 }}>
            {refused.map((r) => (
              <div key={r.key} className="mb-2">
                <b>{r.title}</b>
                <div className="small text-break">
                  {Object.entries(r.body as Record<string, unknown>)
                    .filter(([, v]) => v !== null && v !== "" && v !== false)
                    .map(([k, v]) => `${k.replace("_", " ")} ${String(v)}`)
                    .join(", ")}
                </div>
                <button type="button" className="btn btn-plain btn-sm" onClick={() => forgetRefused(r.key)}>
                  Read
                </button>
              </div>
            ))}
          </Dropdown.Menu>
        </Dropdown>
      )}
    </>
  );
}

function ThemeSwitch() {
  const [, redraw] = useState(0);
  const dark = document.documentElement.getAttribute("data-bs-theme") === "dark";
  return (
    <button
      type="button"
      className="btn btn-plain btn-sm"
      onClick={() => {
        localStorage.setItem(THEME, dark ? "light" : "dark");
        applyTheme();
        redraw((n) => n + 1);
      }}
    >
      {dark ? "Light" : "Dark"}
    </button>
  );
}

function AthletePicker({ athleteId }: { athleteId: number | null }) {
  const { data } = useNames();
  const navigate = useNavigate();
  const location = useLocation();
  const current = data?.flatMap((s) => s.athletes).find((a) => a.id === athleteId);
  const part = /^\/athletes\/\d+\/(season|week|session|standing|tests|record)/.exec(location.pathname)?.[1];
  return (
    <Dropdown align="end">
      <Dropdown.Toggle variant="plain" size="sm" id="who">
        {current ? current.name : "Choose an athlete"}
      </Dropdown.Toggle>
      <Dropdown.Menu style={{ maxHeight: 420, overflowY: "auto" }}>
        {data?.map((squad) => (
          <div key={squad.id}>
            <Dropdown.Header>{squad.name}</Dropdown.Header>
            {squad.athletes.map((a) => (
              <Dropdown.Item
                key={a.id}
                active={a.id === athleteId}
                onClick={() => void navigate(`/athletes/${a.id}${part ? `/${part}` : ""}`)}
              >
                {a.name}
              </Dropdown.Item>
            ))}
          </div>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
