import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import type { Problem } from "../../api/client";
import { useWeek } from "../../api/hooks";
import { Flags } from "../../parts/Flags";
import { Empty, Failed, Loading, Trouble } from "../../parts/states";
import { Arrange } from "./Arrange";
import { copyClip, useClip } from "./clip";
import { Clipboard } from "./Clipboard";
import { DayColumn, type Dragged, type Week } from "./DayColumn";
import { Missed } from "./Missed";
import { WeekSums } from "./Sums";
import { WeekHead } from "./WeekHead";
import { useWeekActions } from "./useWeekActions";
import { useHotkeys } from "../../parts/useHotkeys";

export function WeekScreen() {
  const params = useParams();
  const id = Number(params.id);
  const week = useWeek(id, params.start);
  const [search] = useSearchParams();
  const beside = Number(search.get("beside")) || null;
  if (week.isPending) return <Loading what="the week" />;
  if (week.isLoadingError) return <Failed error={week.error} again={() => void week.refetch()} />;
  if (!week.data.week) {
    return (
      <div className="page">
        <Empty title={week.data.reason}>
          <Link to={`/athletes/${id}/season`} className="btn btn-primary mt-1">
            Open the season
          </Link>
        </Empty>
      </div>
    );
  }
  return (
    <div className="page">
      <WeekView id={id} week={week.data.week} />
      {beside && <Beside id={beside} start={week.data.week.start} />}
    </div>
  );
}

/** Another athlete's week under the first: two groups side by side. */
function Beside({ id, start }: { id: number; start: string }) {
  const week = useWeek(id, start);
  if (week.isPending) return <Loading what="the other week" />;
  if (week.isLoadingError) return <Failed error={week.error} again={() => void week.refetch()} />;
  if (!week.data.week)
    return (
      <p className="soft mt-3">
        {week.data.athlete_name}: {week.data.reason}
      </p>
    );
  return (
    <div className="mt-4">
      <WeekView id={id} week={week.data.week} second />
    </div>
  );
}

function WeekView({ id, week, second = false }: { id: number; week: Week; second?: boolean }) {
  const navigate = useNavigate();
  const clip = useClip();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [said, setSaid] = useState("");
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const [arranging, setArranging] = useState(false);
  const [scope, setScope] = useState("athlete");
  const { move, out, begin, paste, undo, fix, keep, lift } = useWeekActions(id, week, clip, setProblem);
  const moveTo = (from: Dragged, to: string) => {
    setDragged(null);
    if (from.day !== to) move.run({ from, to });
  };
  const putDown = (day: string, scope: string) =>
    paste.run({ day, scope }, (answer) =>
      setSaid(
        `Put down for ${answer.done.length === 1 ? answer.done[0] : `${answer.done.length} athletes`}.${answer.left.length ? ` Not: ${answer.left.join("; ")}.` : ""}`,
      ),
    );
  useHotkeys(
    {
      u: () => week.can_undo && undo.run(undefined),
      "+": () => document.querySelector<HTMLButtonElement>("[data-new]")?.click(),
    },
    !second,
  );
  return (
    <>
      <WeekHead
        id={id}
        week={week}
        second={second}
        arranging={arranging}
        onArrange={() => setArranging(!arranging)}
        onUndo={() => undo.run(undefined)}
      />
      {arranging && <Arrange id={id} week={week} done={() => setArranging(false)} />}
      {week.days_words && <p className="note">{week.days_words}</p>}
      {week.order_words && <p className="note">{week.order_words}</p>}
      <WeekSums now={week.sums} before={week.sums_before} />
      <Missed
        id={id}
        missed={week.missed}
        onMove={(day, to) => {
          const from = week.days.find((d) => d.day === day);
          if (from?.sheet) moveTo({ day, key: from.sheet.key, line: "" }, to);
        }}
      />
      {clip && <Clipboard clip={clip} week={week} scope={scope} onScope={setScope} onPutDown={() => putDown(week.start, scope)} />}
      {said && (
        <p className="soft mb-1" role="status">
          {said}
        </p>
      )}
      {problem && (
        <div className="mb-2">
          <Trouble problem={problem} />
        </div>
      )}
      <div className={week.flags.length > 0 ? "with-margin" : undefined}>
        <div className="week">
          {week.days.map((day) => (
            <DayColumn
              key={day.day}
              id={id}
              day={day}
              week={week}
              dragged={dragged}
              owner={second ? week.athlete_name : ""}
              clipWords={clip?.kind === "session" ? clip.words : ""}
              onDrag={setDragged}
              onDrop={(to) => dragged && moveTo(dragged, to)}
              onMove={moveTo}
              onNew={(on) => begin.run(on, (sheet) => void navigate(`/athletes/${id}/session/${on}/${sheet.key}`))}
              onPaste={(on) => putDown(on, scope)}
              onCopy={(s) => copyClip({ kind: "session", athlete: id, name: week.athlete_name, day: s.day, key: s.key, words: s.theme })}
              onTakeOut={(s) => out.run(s)}
            />
          ))}
        </div>
        {week.flags.length > 0 && (
          <aside aria-label={second ? `Notes on the week of ${week.athlete_name}` : "Notes on the week"}>
            <Flags
              flags={week.flags}
              onFix={(f) => f.fix && fix.run(f.fix)}
              onKeep={(f, reason) => keep.run({ check_id: f.check_id, where: f.where, reason })}
              onLift={(w) => lift.run(w)}
            />
          </aside>
        )}
      </div>
      {!second && (
        <p className="soft small mt-2 mb-0">
          Height is how heavy the day is: practice (grey) by RPE and hours, the session (colour of its phase) by the cost of its sets.
          Sessions and lines can be dragged to another day, or moved by the list under them. Keys: <kbd>+</kbd> begins a session on the next
          free day, <kbd>u</kbd> takes the last change back.
        </p>
      )}
    </>
  );
}
