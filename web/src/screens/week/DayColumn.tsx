import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import { useCanChange, useMay } from "../../api/hooks";
import { dayName, hour, longDay, shortDay, toCompetition } from "../../parts/dates";

export type Day = Schemas["DayOut"];
export type Week = Schemas["WeekViewOut"];
export interface Dragged {
  day: string;
  key: string;
  line: string;
}
const BANDS: Record<string, string> = { high: "high day", middle: "medium day", low: "low day", off: "off" };
const TALLEST = 18; // hardness × hours that fills the column

interface Props {
  id: number;
  day: Day;
  week: Week;
  dragged: Dragged | null;
  clipWords: string;
  owner: string;
  onDrag: (what: Dragged | null) => void;
  onDrop: (day: string) => void;
  onMove: (from: Dragged, to: string) => void;
  onNew: (day: string) => void;
  onPaste: (day: string) => void;
  onCopy: (sheet: Schemas["SheetOut"]) => void;
  onTakeOut: (sheet: Schemas["SheetOut"]) => void;
}

/** One day: how heavy it is, practice, the session with its main lines, and what can be done with it. */
export function DayColumn(props: Props) {
  const { id, day, week, dragged } = props;
  const may = useMay();
  const target = dragged !== null && dragged.day !== day.day && !day.is_competition;
  return (
    <section
      className={`day${day.is_today ? " today" : ""}${target ? " drop" : ""}`}
      aria-label={props.owner ? `${longDay(day.day)}, ${props.owner}` : longDay(day.day)}
      onDragOver={(e) => target && e.preventDefault()}
      onDrop={() => props.onDrop(day.day)}
    >
      <div>
        <b>{shortDay(day.day)}</b>
        {day.is_today && <span className="clay fw-semibold"> today</span>}
        <div className="soft small">{day.label || toCompetition(day.days_to_go, true)}</div>
      </div>
      <Weight day={day} />
      {day.is_competition && <div className="clay fw-semibold">▶ {week.competition}</div>}
      {day.is_match && <div className="clay fw-semibold">▶ Match</div>}
      {day.away && <div className="soft small">{day.away}: no training</div>}
      {day.practices.map((p) => (
        <div key={p.hour} className="practice">
          practice {hour(p.hour)}
          <br />
          {p.minutes} min, RPE {p.hardness}
        </div>
      ))}
      {day.sheet && <Card {...props} sheet={day.sheet} />}
      {day.second && <Card {...props} sheet={day.second} />}
      {!day.second && day.can_take && may("plan") && (
        <div className="day-empty">
          <button
            type="button"
            data-new={day.is_today || day.sheet ? undefined : true}
            className="btn btn-link btn-sm p-0"
            aria-label={`+ ${day.sheet ? "second session" : "session"} on ${longDay(day.day)}`}
            onClick={() => props.onNew(day.day)}
          >
            + {day.sheet ? "second session" : "session"}
          </button>
          {props.clipWords && !day.sheet && (
            <button
              type="button"
              className="btn btn-link btn-sm p-0 d-block text-start"
              aria-label={`Put down ${props.clipWords} on ${longDay(day.day)}`}
              onClick={() => props.onPaste(day.day)}
            >
              Put down {props.clipWords}
            </button>
          )}
        </div>
      )}
      {day.sheet && day.flags.length > 0 && (
        <Link className="day-flags" to={`/athletes/${id}/session/${day.day}/${day.sheet.key}`}>
          {day.flags.map((f) => f.title).join(" ")}
        </Link>
      )}
    </section>
  );
}

function Weight({ day }: { day: Day }) {
  const phase = day.sheet?.phase ?? "";
  const px = (value: number) => Math.min(58, (value / TALLEST) * 58);
  return (
    <div
      className="weight"
      role="img"
      aria-label={`${BANDS[day.band] ?? day.band}: practice ${day.practice_weight}, session ${day.session_weight}`}
    >
      <div className="small soft text-center" aria-hidden>
        {BANDS[day.band]}
      </div>
      <div style={{ height: px(day.session_weight), background: `var(--ph-${phase}, var(--practice))` }} />
      <div style={{ height: px(day.practice_weight), background: "var(--practice)" }} />
    </div>
  );
}

function Card({ id, day, week, sheet, onMove, onDrag, onCopy, onTakeOut }: Props & { sheet: Schemas["SheetOut"] }) {
  const open = useCanChange(sheet) && !day.is_past;
  const main = sheet.lines.filter((l) => l.is_main);
  const others = week.days.filter((d) => d.day !== day.day && d.can_take);
  const whole = { day: day.day, key: sheet.key, line: "" };
  return (
    <article
      className="session-card"
      draggable={open}
      onDragStart={() => onDrag(whole)}
      onDragEnd={() => onDrag(null)}
      style={{ borderLeftColor: `var(--ph-${sheet.phase})` }}
    >
      <Link to={`/athletes/${id}/session/${day.day}/${sheet.key}`} className="fw-semibold">
        {dayName(sheet.key)} · {sheet.theme}
      </Link>
      <div className="soft">
        {sheet.starts && <b>{sheet.starts} · </b>}
        {Math.round(sheet.minutes)} min · {sheet.is_own ? "yours" : sheet.day_reason}
      </div>
      <ul>
        {main.map((line) => {
          const loads = line.sets.filter((s) => s.load_kg !== null).sort((a, b) => (a.load_kg ?? 0) - (b.load_kg ?? 0));
          const words = [...new Set(loads.map((s) => s.load_words))];
          return (
            <li
              key={line.id}
              draggable={open}
              onDragStart={(e) => {
                e.stopPropagation();
                onDrag({ ...whole, line: line.id });
              }}
            >
              {line.exercise}
              <div className="num">
                {line.text}
                {words.length > 0 && (
                  <b>
                    {" "}
                    = {words.length > 1 ? `${words[0]}–${words.at(-1)}` : words[0]} {loads[0]?.unit}
                  </b>
                )}
              </div>
            </li>
          );
        })}
        {sheet.lines.length > main.length && <li className="soft">and {sheet.lines.length - main.length} more lines</li>}
      </ul>
      {sheet.state === "started" && <Link to={`/floor/${sheet.session_id}`}>Running: resume</Link>}
      {sheet.state === "finished" && <Link to={`/floor/${sheet.session_id}/review`}>Done: review</Link>}
      <div className="d-flex gap-2 align-items-center mt-1 flex-wrap">
        {open && (
          <select
            className="form-select form-select-sm"
            aria-label={`Move ${dayName(sheet.key)} or a line of it to another day`}
            value=""
            onChange={(e) => {
              const [line = "", to = ""] = e.target.value.split("|");
              if (to) onMove({ ...whole, line }, to);
            }}
          >
            <option value="">Move</option>
            <optgroup label="The session">
              {others
                .filter((d) => !d.second)
                .map((d) => (
                  <option key={d.day} value={`|${d.day}`}>
                    to {shortDay(d.day)}
                    {d.sheet && ", second session"}
                  </option>
                ))}
            </optgroup>
            {main.map((line) => (
              <optgroup key={line.id} label={`${line.slot} ${line.exercise}`}>
                {others.map((d) => (
                  <option key={d.day} value={`${line.id}|${d.day}`}>
                    to {shortDay(d.day)}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
        )}
        <button type="button" className="btn btn-link btn-sm p-0" aria-label={`Copy ${dayName(sheet.key)}`} onClick={() => onCopy(sheet)}>
          Copy
        </button>
        {open && (
          <button
            type="button"
            className="btn btn-link btn-sm p-0"
            aria-label={`Take out ${dayName(sheet.key)}`}
            onClick={() => onTakeOut(sheet)}
          >
            Take out
          </button>
        )}
      </div>
    </article>
  );
}
