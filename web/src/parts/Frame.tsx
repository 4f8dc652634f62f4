import { useEffect, useState } from "react";
import { NavLink, Outlet, useLocation, useMatch } from "react-router";

import { useMay, useMe, useNames } from "../api/hooks";
import { Account } from "./Account";
import { AthletePicker } from "./AthletePicker";
import { ChangedMeanwhile } from "./ChangedMeanwhile";
import { Find } from "./Find";
import { HelpButton, HelpLine, useFirstUse } from "./Help";
import { SignInAgain } from "./SignInAgain";
import { Tape } from "./Tape";
import { FromDevice, Unsent } from "./Unsent";

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
  const squads = useNames(useMay()("sheets"));
  const match = useMatch("/athletes/:id/*");
  const id = Number(match?.params.id);
  const here = Number.isInteger(id) && id > 0 ? id : null;
  useEffect(() => {
    if (here) localStorage.setItem(LAST, String(here));
  }, [here]);
  const seen = squads.data?.flatMap((s) => s.athletes.map((a) => a.id));
  const last = lastAthlete();
  const isGone = seen !== undefined && last !== null && !seen.includes(last);
  useEffect(() => {
    if (isGone && last !== here) localStorage.removeItem(LAST); // archived, or of somebody else who was signed in here
  }, [isGone, last, here]);
  return here ?? (isGone ? null : last) ?? seen?.[0] ?? null;
}

/** The frame of every screen: where one is, who it is about, and on planning screens how many days are left. */
export function Frame() {
  const athleteId = useAthleteId();
  const location = useLocation();
  const { help, setHelp } = useFirstUse();
  const may = useMay();
  const me = useMe().data;
  const isAthlete = me?.role === "athlete";
  const planning = /^\/athletes\/\d+\/(week|session)/.test(location.pathname);
  const forAthlete = (part: string) => (athleteId ? `/athletes/${athleteId}/${part}` : "/athletes");
  return (
    <>
      <SignInAgain />
      <a className="skip" href="#main">
        To the content
      </a>
      <header className="frame-top">
        <NavLink to="/" className="brand">
          <Mark /> Jarvok
        </NavLink>
        <nav className="frame-nav" aria-label="Screens">
          {may("training") && (
            <NavLink to="/" end>
              Today
            </NavLink>
          )}
          {isAthlete && (
            <NavLink to="/" end>
              My training
            </NavLink>
          )}
          {may("training") && (
            <NavLink
              to="/calendar"
              className={({ isActive }) => (isActive || /^\/(squads|athletes)\/\d+\/calendar/.test(location.pathname) ? "active" : "")}
            >
              Calendar
            </NavLink>
          )}
          {may("training") && <NavLink to={forAthlete("season")}>Season</NavLink>}
          {may("sheets") && <NavLink to={forAthlete("week")}>Week</NavLink>}
          {may("sheets") && <NavLink to={forAthlete("session")}>Session</NavLink>}
          {may("run") && (
            <NavLink to="/floor" className={({ isActive }) => (isActive || location.pathname.startsWith("/room/") ? "active" : "")}>
              Floor
            </NavLink>
          )}
          {may("sheets") && (
            <NavLink to="/athletes" end className={({ isActive }) => (isActive || location.pathname === "/squads" ? "active" : "")}>
              Athletes
            </NavLink>
          )}
          {may("training") && <NavLink to="/learning">Learning</NavLink>}
          {may("training") && (
            <NavLink to="/library" className={({ isActive }) => (isActive || location.pathname.startsWith("/templates") ? "active" : "")}>
              Library
            </NavLink>
          )}
          {may("training") && (
            <NavLink
              to="/settings"
              className={({ isActive }) => (isActive || /^\/(people|data|history|sensors)$/.test(location.pathname) ? "active" : "")}
            >
              Settings
            </NavLink>
          )}
        </nav>
        <div className="frame-who">
          <FromDevice />
          <Unsent />
          {may("sheets") && <Find athleteId={athleteId} />}
          <HelpButton isOpen={help} onToggle={() => setHelp(!help)} />
          <ThemeSwitch />
          <Account />
          {may("sheets") && !/^\/(floor|room|trials)\//.test(location.pathname) && <AthletePicker athleteId={athleteId} />}
        </div>
      </header>
      {help && <HelpLine />}
      {planning && athleteId && may("training") && <Tape athleteId={athleteId} />}
      <ChangedMeanwhile follows={may("training")} />
      <main id="main" tabIndex={-1}>
        <Outlet key={`${me?.unit} ${me?.day_order}`} />
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
