import { useState } from "react";
import { Link, useSearchParams } from "react-router";

import type { Schemas } from "../../api/client";
import { monthName } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { useHotkeys } from "../../parts/useHotkeys";
import { DayPanel } from "./DayPanel";
import { MonthGrid } from "./MonthGrid";
import { monthOf, useMonth, type Month, type Whose } from "./useMonth";
import { Needs } from "../../parts/Needs";

/** A month one can write on, carry things about on, and take back what was done. */
export function MonthView({ whose, id, tabs }: { whose: Whose; id: number; tabs?: React.ReactNode }) {
  const [search, setSearch] = useSearchParams();
  const [chosen, setChosen] = useState("");
  const month = useMonth(whose, id, search.get("month") ?? "");
  const m = month.read.data;
  const step = (which: "undo" | "redo") => {
    const known = m?.[which];
    if (known && !month.isPending && (known.people <= 1 || whose === "squad")) month[which]("all");
  };
  useHotkeys({ u: () => step("undo"), U: () => step("redo") });
  if (month.read.isPending) return <Loading what="the calendar" />;
  if (month.read.isLoadingError && !m) return <Failed error={month.read.error} again={() => void month.read.refetch()} />;
  if (!m) return <Loading what="the calendar" />;
  const days = m.weeks.flatMap((w) => w.days);
  const usual = days.find((d) => d.is_today) ?? days.find((d) => d.day === m.month) ?? days[0];
  const day = days.find((d) => d.day === chosen) ?? usual;
  const go = (to: string) => {
    setSearch({ month: monthOf(to) });
    setChosen("");
  };
  return (
    <>
      <div className="d-flex flex-wrap align-items-end gap-2 mb-2">
        <div className="me-auto">
          <h1 className="mb-0">
            {monthName(m.month)} <span className="soft fw-normal">· {m.name}</span>
          </h1>
          <p className="soft m-0">{m.sentence}</p>
        </div>
        {whose === "athlete" && (
          <Link className="btn btn-plain btn-sm" to={`/squads/${m.squad_id}/calendar`}>
            {m.squad}
          </Link>
        )}
        <Link className="btn btn-plain btn-sm" to="/calendar">
          All squads
        </Link>
        <button type="button" className="btn btn-plain btn-sm" onClick={() => go(m.previous)}>
          ← {monthName(m.previous, true)}
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={() => go(m.following)}>
          {monthName(m.following, true)} →
        </button>
      </div>
      {tabs}
      <div className="with-margin">
        <div>
          <MonthGrid
            month={m}
            chosen={day?.day ?? ""}
            onChoose={(to, write) => {
              setChosen(to);
              if (write) toTheLine();
            }}
            onDrop={(c, to) => {
              const { id: pk, kind } = c.item;
              if (isMoved(kind) && to !== c.taken) month.move({ kind, id: pk, taken: c.taken, to, edge: c.edge });
            }}
          />
          <p className="soft small mt-2">
            Drag a thing to another day, drag its right edge to make it longer, choose a day to write on it.
            {m.sessions_of && ` Sessions and bars are those of ${m.sessions_of}, whose season most share.`}
          </p>
        </div>
        <aside aria-label="The chosen day and what undo takes back">
          {day && (
            <DayPanel
              month={m}
              day={day}
              problem={month.problem}
              isPending={month.isPending}
              onWrite={(text, scope, done) => month.write({ text, scope, day: day.day, month: "" }, done)}
              onMove={(item, taken, to, edge) => {
                if (isMoved(item.kind)) month.move({ kind: item.kind, id: item.id, taken, to, edge });
                if (!edge) setChosen(to);
              }}
              onRename={(item, name, done) => {
                if (isMoved(item.kind)) month.rename({ kind: item.kind, id: item.id, name }, done);
              }}
              onTakeOut={(item) => {
                if (isMoved(item.kind)) month.takeOut({ kind: item.kind, id: item.id });
              }}
            />
          )}
          <Needs may="plan">
            <Steps month={m} onUndo={month.undo} onRedo={month.redo} />
          </Needs>
        </aside>
      </div>
    </>
  );
}

/** A chosen day is written on at once, but for fingers: a keyboard that slides in would cover the day. */
function toTheLine() {
  if (window.matchMedia("(pointer: fine)").matches) document.getElementById("write-on-day")?.focus();
}

function Steps({ month: m, onUndo, onRedo }: { month: Month; onUndo: (scope: string) => void; onRedo: (scope: string) => void }) {
  if (!m.undo && !m.redo) return null;
  const buttons = (word: string, step: NonNullable<Month["undo"]>, onAct: (scope: string) => void, key: string) => (
    <div className="d-flex flex-wrap gap-3">
      <button type="button" className="btn btn-link p-0 fw-semibold" onClick={() => onAct("all")}>
        {step.people > 1 ? `${word} for all ${step.people}` : word}
        {(step.people <= 1 || m.whose === "squad") && <span className="soft"> ({key})</span>}
      </button>
      {step.people > 1 && m.whose === "athlete" && !step.is_for_all_only && (
        <button type="button" className="btn btn-link p-0 fw-semibold" onClick={() => onAct("athlete")}>
          {word} for {m.name} only
        </button>
      )}
    </div>
  );
  return (
    <div className="note mt-3" role="group" aria-label="Undo and redo">
      {m.undo && (
        <>
          <b>Last change:</b> {m.undo.words}
          {m.undo.by && <span className="soft">, by {m.undo.by}</span>}.{buttons("Undo", m.undo, onUndo, "u")}
        </>
      )}
      {m.redo && (
        <div className={m.undo ? "mt-2" : ""}>
          <b>Taken back:</b> {m.redo.words}.{buttons("Redo", m.redo, onRedo, "shift u")}
        </div>
      )}
    </div>
  );
}

type Moved = Schemas["MoveItem"]["kind"];

/** Whether things of a kind can be carried to other days here: practices and sessions cannot. */
function isMoved(kind: string): kind is Moved {
  return kind !== "practice" && kind !== "session";
}
