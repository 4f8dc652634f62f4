import { useState } from "react";
import { NavLink, useSearchParams } from "react-router";

import type { Schemas } from "../../api/client";
import { useLibrary } from "../../api/hooks";
import { lastAthlete } from "../../parts/Frame";
import { matching } from "../../parts/ExercisePicker";
import { Failed, Loading } from "../../parts/states";
import { ExerciseDetail } from "./ExerciseDetail";
import { COST } from "./cost";
import { OwnForm } from "./OwnForm";
import { Needs } from "../../parts/Needs";

type Row = Schemas["ExerciseRow"];
const PAGE = 60;

export function LibraryTabs() {
  return (
    <nav className="tabs" aria-label="Library">
      <NavLink to="/library" end>
        Exercises
      </NavLink>
      <NavLink to="/templates">Templates</NavLink>
    </nav>
  );
}

/** Every exercise: found by typing or by pattern, cost and place; one opened beside the list. */
export default function LibraryScreen() {
  const library = useLibrary();
  const [search, setSearch] = useSearchParams();
  const [typed, setTyped] = useState("");
  const [shown, setShown] = useState(PAGE);
  const [adding, setAdding] = useState(false);
  if (library.isPending) return <Loading what="the library" />;
  if (library.isLoadingError) return <Failed error={library.error} again={() => void library.refetch()} />;
  const { exercises, patterns, gear, choices } = library.data;
  const pattern = search.get("pattern") ?? "";
  const cost = search.get("cost") ?? "";
  const own = search.get("own") === "1";
  const open = search.get("open") ?? "";
  const set = (part: Record<string, string>) => {
    const next = new URLSearchParams(search);
    for (const [key, value] of Object.entries(part))
      if (value) next.set(key, value);
      else next.delete(key);
    setShown(PAGE);
    setSearch(next, { replace: true });
  };
  const found = (typed.trim() ? matching(exercises, typed) : exercises).filter(
    (e) => (!pattern || e.pattern === pattern) && (!cost || e.cost === cost) && (!own || e.is_own || e.is_edited),
  );
  return (
    <div className="page">
      <h1>Library</h1>
      <LibraryTabs />
      <div className="d-flex flex-wrap gap-2 align-items-end mb-2">
        <label className="small flex-grow-1" style={{ maxWidth: 320 }}>
          Find
          <input
            className="form-control form-control-sm"
            value={typed}
            placeholder="name, what it is for, or kit"
            onChange={(e) => (setTyped(e.target.value), setShown(PAGE))}
          />
        </label>
        <label className="small">
          Pattern
          <select className="form-select form-select-sm" value={pattern} onChange={(e) => set({ pattern: e.target.value })}>
            <option value="">all</option>
            {patterns.map((p) => (
              <option key={p} value={p}>
                {p.replace("_", " ")}
              </option>
            ))}
          </select>
        </label>
        <label className="small">
          Fatigue cost
          <select className="form-select form-select-sm" value={cost} onChange={(e) => set({ cost: e.target.value })}>
            <option value="">all</option>
            <option>high</option>
            <option value="middle">medium</option>
            <option>low</option>
          </select>
        </label>
        <label className="small d-flex gap-1 align-items-center pb-1">
          <input type="checkbox" checked={own} onChange={(e) => set({ own: e.target.checked ? "1" : "" })} /> your own only
        </label>
        <span className="soft small pb-1" role="status">
          {found.length} of {exercises.length}
        </span>
        <Needs may="plan">
          <button type="button" className="btn btn-plain btn-sm ms-auto" onClick={() => setAdding(!adding)} aria-expanded={adding}>
            Add your own
          </button>
        </Needs>
      </div>
      {adding && <OwnForm choices={choices} gear={gear} start={null} done={(id) => (setAdding(false), id && set({ open: id }))} />}
      <div className="library">
        <section className="sheet">
          <table className="board">
            <thead>
              <tr>
                <th>Exercise</th>
                <th>Pattern</th>
                <th>Fatigue cost</th>
                <th>Force–velocity zone</th>
                <th>Kit needed</th>
              </tr>
            </thead>
            <tbody>
              {found.slice(0, shown).map((e) => (
                <ExerciseRow key={e.id} row={e} open={open === e.id} onOpen={() => set({ open: e.id })} />
              ))}
              {found.length === 0 && (
                <tr>
                  <td colSpan={5} className="soft">
                    Nothing fits. Take a filter away, or add your own exercise.
                  </td>
                </tr>
              )}
            </tbody>
          </table>
          {found.length > shown && (
            <button type="button" className="btn btn-link" onClick={() => setShown(shown + PAGE)}>
              {Math.min(PAGE, found.length - shown)} more
            </button>
          )}
        </section>
        <aside aria-label="The exercise opened">
          {open ? (
            <ExerciseDetail id={open} athlete={lastAthlete()} choices={choices} gear={gear} />
          ) : (
            <p className="soft">Open one to see its cue, its chain and its substitutes.</p>
          )}
        </aside>
      </div>
    </div>
  );
}

function ExerciseRow({ row: e, open, onOpen }: { row: Row; open: boolean; onOpen: () => void }) {
  return (
    <tr className={open ? "chosen" : undefined}>
      <td>
        <button type="button" className="btn btn-link p-0 text-start fw-semibold" aria-pressed={open} onClick={onOpen}>
          {e.name}
        </button>
        {e.is_own && <span className="soft small"> · yours</span>}
        {e.is_edited && <span className="soft small"> · edited by you</span>}
        {e.faults.length > 0 && <div className="soft small">for: {e.faults.join(", ").toLowerCase()}</div>}
      </td>
      <td>
        {e.pattern.replace("_", " ")}
        {e.per_side && <span className="soft"> · each side</span>}
      </td>
      <td>{COST[e.cost] ?? e.cost}</td>
      <td className="soft">{e.place}</td>
      <td className="soft small">{[e.implement === "none" ? "" : e.implement, ...e.needs].filter(Boolean).join(", ")}</td>
    </tr>
  );
}
