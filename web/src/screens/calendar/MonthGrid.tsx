import { useState } from "react";

import { dayMonth, longDay } from "../../parts/dates";
import type { Day, Item, Month } from "./useMonth";
import { useMay } from "../../api/hooks";

const NAMES = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const SHOWN = 4;

/** A thing that is being carried: from which of its days, and whether by its last edge. */
export interface Carried {
  item: Item;
  taken: string;
  edge: boolean;
}

interface Props {
  month: Month;
  chosen: string;
  onChoose: (day: string, write: boolean) => void;
  onDrop: (carried: Carried, to: string) => void;
}

/** Whole weeks, a row each: what lies on a day can be carried to another, and its last edge made longer. */
export function MonthGrid({ month, chosen, onChoose, onDrop }: Props) {
  const [carried, setCarried] = useState<Carried | null>(null);
  const [over, setOver] = useState("");
  const days = month.weeks.flatMap((w) => w.days);
  const step = (from: string, by: number) => {
    const to = days[days.findIndex((d) => d.day === from) + by];
    if (!to) return;
    onChoose(to.day, false);
    document.getElementById(`day-${to.day}`)?.focus();
  };
  return (
    <div className="month" role="group" aria-label="Days of the month">
      <div className="month-row month-names" aria-hidden>
        <span>week</span>
        {NAMES.map((n) => (
          <span key={n}>{n}</span>
        ))}
      </div>
      {month.weeks.map((w) => (
        <div className="month-row" key={w.monday}>
          <WeekCell week={w} />
          {w.days.map((d) => (
            <DayCell
              key={d.day}
              day={d}
              isMonday={d.day === w.monday}
              isOutside={d.day.slice(0, 7) !== month.month.slice(0, 7)}
              isChosen={d.day === chosen}
              isOver={over === d.day}
              onChoose={() => onChoose(d.day, true)}
              onStep={(by) => step(d.day, by)}
              onCarry={(item, edge) => setCarried({ item, taken: d.day, edge })}
              onOver={() => setOver(d.day)}
              onDrop={() => {
                if (carried) onDrop(carried, d.day);
                setCarried(null);
                setOver("");
              }}
            />
          ))}
        </div>
      ))}
    </div>
  );
}

/** Days to go, and the week's main sets beside what the season asks: filled what the sessions hold, the line the dose. */
function WeekCell({ week }: { week: Month["weeks"][number] }) {
  return (
    <div className="month-week">
      {week.days_to_go !== null && (
        <span>
          <b className="num">{week.days_to_go}</b> <span className="soft">days left</span>
        </span>
      )}
      {week.main_sets !== null && (
        <span className="month-load">
          <span className="month-bar" role="img" aria-label={`${week.main_sets} main sets`}>
            <i style={{ height: `${Math.round(100 * week.sets_share)}%` }} />
            <u style={{ bottom: `${Math.round(100 * week.dose_share)}%` }} />
          </span>
          <span className="num">{week.main_sets}</span>
        </span>
      )}
      {week.word && <span className="soft">{week.word}</span>}
    </div>
  );
}

interface CellProps {
  day: Day;
  isMonday: boolean;
  isOutside: boolean;
  isChosen: boolean;
  isOver: boolean;
  onChoose: () => void;
  onStep: (by: number) => void;
  onCarry: (item: Item, edge: boolean) => void;
  onOver: () => void;
  onDrop: () => void;
}

const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };

function DayCell({ day, isMonday, isOutside, isChosen, isOver, onChoose, onStep, onCarry, onOver, onDrop }: CellProps) {
  const more = day.items.length - SHOWN;
  const shown = day.day.endsWith("-01") || day.is_today ? dayMonth(day.day) : String(Number(day.day.slice(8)));
  const said = day.items.map((i) => i.words).join("; ");
  const is = [isOutside && "outside", day.is_today && "today", isChosen && "chosen", isOver && "drop"].filter(Boolean).join(" ");
  return (
    <div
      className={`month-day ${is}`}
      onClick={onChoose}
      onDragOver={(e) => {
        e.preventDefault();
        onOver();
      }}
      onDrop={onDrop}
    >
      <button
        type="button"
        id={`day-${day.day}`}
        className="month-number"
        tabIndex={isChosen ? 0 : -1}
        aria-pressed={isChosen}
        aria-label={`${shown}, ${longDay(day.day)}${said ? `: ${said}` : ""}`}
        onKeyDown={(e) => {
          const by = STEPS[e.key];
          if (by === undefined) return;
          e.preventDefault();
          onStep(by);
        }}
      >
        {shown}
      </button>
      {day.items.slice(0, more === 1 ? SHOWN + 1 : SHOWN).map((i) => (
        <Chip key={i.key} item={i} day={day.day} isMonday={isMonday} onCarry={onCarry} />
      ))}
      {more > 1 && <span className="soft small">and {more} more</span>}
    </div>
  );
}

interface ChipProps {
  item: Item;
  day: string;
  isMonday: boolean;
  onCarry: (item: Item, edge: boolean) => void;
}

function Chip({ item, day, isMonday, onCarry }: ChipProps) {
  const may = useMay();
  const isFirst = item.start === day;
  const isLast = item.end === day;
  return (
    <span
      className={`chip ${item.tone} ${isFirst ? "" : "goes-on"} ${isLast ? "" : "goes-over"}`}
      title={`${item.words}${item.whom ? ` · ${item.whom}` : ""}`}
      draggable={item.can_change && may("plan")}
      onDragStart={() => onCarry(item, false)}
    >
      <span className="text-truncate">
        {isFirst || isMonday ? item.title : "\u00a0"}
        {item.whom && isFirst && <span className="whom"> · {item.whom}</span>}
      </span>
      {item.can_lengthen && isLast && (
        <i
          className="edge"
          title="Drag to make it longer or shorter"
          draggable
          onDragStart={(e) => {
            e.stopPropagation();
            onCarry(item, true);
          }}
        />
      )}
    </span>
  );
}
