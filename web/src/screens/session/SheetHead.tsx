import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link } from "react-router";

import { type Sheet, useCanChange, useMay, useSheetEdit } from "../../api/hooks";
import { dayName, longDay, toCompetition } from "../../parts/dates";
import { InlineForm } from "../../parts/InlineForm";
import { Trouble } from "../../parts/states";
import { SaveTemplate } from "../templates/SaveTemplate";
import { Needs } from "../../parts/Needs";

interface HeadProps {
  id: number;
  sheet: Sheet;
  starting: boolean;
  onStart: (asToday: boolean) => void;
  onUndo: () => void;
  onBack: () => void;
}

/** The day of the session and where it stands; undo, keep, print, start. */
export function SheetHead({ id, sheet, starting, onStart, onUndo, onBack }: HeadProps) {
  const open = sheet.state === "planned";
  const canChange = useCanChange(sheet);
  const may = useMay();
  return (
    <div className="d-flex align-items-end gap-3 mb-2 flex-wrap">
      <div>
        <h1>
          {longDay(sheet.day)} · {toCompetition(sheet.days_to_go)}
        </h1>
        <div className="soft m-0">
          {sheet.athlete_name} · {dayName(sheet.key)} · {sheet.theme} · {sheet.phase_name}, week {sheet.week_of_phase} of{" "}
          {sheet.weeks_in_phase}
          {sheet.is_easy && ", deload"} · {sheet.day_reason} <Starts key={sheet.starts} id={id} sheet={sheet} />
        </div>
      </div>
      <div className="ms-auto d-flex flex-wrap gap-2 align-items-center">
        {sheet.can_undo && canChange && (
          <button type="button" className="btn btn-plain btn-sm" onClick={onUndo} title="u">
            Undo: {sheet.can_undo}
          </button>
        )}
        {sheet.is_own && canChange && (
          <button type="button" className="btn btn-plain btn-sm" onClick={onBack}>
            Back to the plan
          </button>
        )}
        <Needs may="plan">
          <SaveTemplate id={id} day={sheet.day} sessionKey={sheet.key} kind="session" suggested={sheet.theme} />
        </Needs>
        <Needs may="training">
          <Link className="btn btn-plain btn-sm" to={`/athletes/${id}/session/${sheet.day}/${sheet.key}/squad`}>
            Squad and print
          </Link>
        </Needs>
        {open && may("run") && (
          <Button onClick={() => onStart(false)} disabled={starting || sheet.lines.length === 0} className="px-4 py-2">
            Start session
          </Button>
        )}
        {open && sheet.may_be_today && may("run") && (
          <Button variant="plain" onClick={() => onStart(true)} disabled={starting || sheet.lines.length === 0} className="py-2">
            Start as today’s
          </Button>
        )}
        {open && !sheet.is_today && <span className="small soft">Not today’s: started here it counts on {longDay(sheet.day)}.</span>}
        {sheet.state === "started" && (
          <Link className="btn btn-primary px-4 py-2" to={`/floor/${sheet.session_id}`}>
            Resume
          </Link>
        )}
        {sheet.state === "finished" && (
          <Link className="btn btn-primary px-4 py-2" to={`/floor/${sheet.session_id}/review`}>
            Review
          </Link>
        )}
      </div>
    </div>
  );
}

/** When the session begins, where somebody says so: two on a day are held apart by it. */
function Starts({ id, sheet }: { id: number; sheet: Sheet }) {
  const canChange = useCanChange(sheet);
  const [typed, setTyped] = useState<string | null>(null);
  const edit = useSheetEdit(id, sheet.day, sheet.key);
  if (typed === null) {
    const words = sheet.starts ? `begins at ${sheet.starts}` : "begins at …";
    if (sheet.state !== "planned") return sheet.starts ? <>· {words}</> : null;
    return (
      <>
        ·{" "}
        <button
          type="button"
          className="btn btn-link btn-sm p-0 align-baseline"
          disabled={!canChange}
          onClick={() => setTyped(sheet.starts)}
        >
          {words}
        </button>
      </>
    );
  }
  return (
    <InlineForm
      label="When the session begins"
      className="d-inline-flex"
      busy={edit.isPending}
      onLeave={() => setTyped(null)}
      onKeep={() => edit.run({ op: "starts", text: typed }, () => setTyped(null))}
    >
      <input
        className="form-control form-control-sm"
        style={{ width: 80 }}
        aria-label="The session begins at"
        placeholder="17:00"
        value={typed}
        maxLength={5}
        autoFocus
        onChange={(e) => setTyped(e.target.value)}
      />
      {edit.problem && <Trouble problem={edit.problem} />}
    </InlineForm>
  );
}
