import { useRef, useState } from "react";
import type { Season } from "../../api/hooks";
import { dayMonth, inDays, shortDay } from "../../parts/dates";
import { axis, DAY_MS, iso, LEFT, RIGHT, utc, W, besideTick } from "./axis";
import { WeekBars } from "./WeekBars";
import { Boundaries, PhaseBand, TodayMark } from "./ChartPhases";
import { CalendarRow, CompetitionMark, ExposureRow, PracticeRow, ResidualRows, RowLabel } from "./ChartRows";

type Dragged = { what: "boundary" | "competition" | "easy"; id: number; x: number };

interface Props {
  id: number;
  season: Season;
  shown: [string, string];
  onShift: (boundary: number, weeks: number) => void;
  onMoveDay: (competition: number, day: string) => void;
  onConfirm: (yes: boolean) => void;
  onMoveEasy: (monday: string, to: string) => void;
  onToggleEasy: (monday: string, easy: boolean) => void;
}

/** The season on a time axis: competitions, phases and easier weeks to move, planned load, what still holds on the day. */
export function SeasonChart({ id, season, shown, onShift, onMoveDay, onConfirm, onMoveEasy, onToggleEasy }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<Dragged | null>(null);
  const start = utc(shown[0]);
  const end = utc(shown[1]);
  const x = axis(start, end);
  const rows = Math.min(3, season.competitions.length);
  const phaseY = 40 + rows * 14;
  const loadY = phaseY + 178;
  const calendarY = loadY + 22;
  const hasCalendar = season.spans.length + season.matches.length > 0;
  const practiceY = calendarY + (hasCalendar ? 28 : 0);
  const exposureY = practiceY + 34;
  const residualY = exposureY + (season.exposures.length > 0 ? 46 : 24);
  const height = residualY + season.residuals.length * 40 + 12;
  const weekPx = ((W - LEFT - RIGHT) * 7 * DAY_MS) / (end - start);
  const inside = (day: string, days = 7) => utc(day) + days * DAY_MS > start && utc(day) < end;
  const shift = drag ? Math.round((drag.x - startX(drag)) / weekPx) : 0;

  function startX(d: Dragged): number {
    if (d.what === "boundary") return x(utc(season.phases[d.id + 1]?.start ?? season.start));
    if (d.what === "easy") return x(utc(season.weeks[d.id]?.start ?? season.start)) + weekPx / 2;
    return x(utc(season.competitions.find((c) => c.id === d.id)?.day ?? season.day));
  }
  function point(e: React.PointerEvent): number {
    const box = svg.current?.getBoundingClientRect();
    return box ? ((e.clientX - box.left) * W) / box.width : 0;
  }
  function drop() {
    if (!drag) return;
    if (drag.what === "competition") {
      const day = iso(x.invert(drag.x).getTime() + DAY_MS / 2);
      if (season.competitions.some((c) => c.id === drag.id && c.day !== day)) onMoveDay(drag.id, day);
    } else if (shift !== 0) {
      if (drag.what === "boundary") onShift(drag.id, shift);
      const from = season.weeks[drag.id];
      const to = season.weeks[drag.id + shift];
      if (drag.what === "easy" && from && to && to.can_ease) onMoveEasy(from.start, to.start);
    }
    setDrag(null);
  }

  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${height}`}
      width="100%"
      role="group"
      aria-label={`Season to ${season.name}, ${inDays(season.days_to_go)}`}
      onPointerMove={(e) => drag && setDrag({ ...drag, x: Math.min(W, Math.max(LEFT, point(e))) })}
      onPointerUp={drop}
      style={{ touchAction: "none", fontFamily: "Barlow, sans-serif" }}
    >
      {x.ticks(6).map((t) => (
        <g key={t.getTime()}>
          <path d={`M${x(t)} 6V${height - 8}`} stroke="var(--rule)" />
          <text {...besideTick(x(t), 4)} y="18" fontSize="12.5" fill="var(--soft)">
            {dayMonth(iso(t.getTime()))}
          </text>
        </g>
      ))}
      {inside(season.today, 1) && <TodayMark at={x(utc(season.today))} days={season.days_to_go} phaseY={phaseY} height={height} />}
      <RowLabel y={36} text="Competitions" />
      <RowLabel y={phaseY + 20} text="Phases" />
      <PhaseBand season={season} x={x} y={phaseY} />
      <Boundaries
        season={season}
        y={phaseY}
        at={(i, day) => (drag?.what === "boundary" && drag.id === i ? drag.x : x(utc(day)))}
        isShown={(day) => inside(day, 1)}
        onTake={(i, e) => setDrag({ what: "boundary", id: i, x: point(e) })}
        onShift={onShift}
      />
      <RowLabel y={loadY - 82} text="Main sets" sub="asked, planned, done" />
      <WeekBars
        id={id}
        season={season}
        weeks={season.weeks.filter((w) => inside(w.start))}
        x={x}
        y={loadY}
        easyAt={(index) => (drag?.what === "easy" && drag.id === index ? drag.x : null)}
        onDragEasy={(index, e) => setDrag({ what: "easy", id: index, x: point(e) })}
        onMoveEasy={onMoveEasy}
        onToggleEasy={onToggleEasy}
      />
      <path d={`M${LEFT} ${loadY}H${W - RIGHT}`} stroke="var(--plate-line)" />
      {hasCalendar && <CalendarRow season={season} x={x} y={calendarY} />}
      <PracticeRow season={season} x={x} y={practiceY} weekPx={weekPx} />
      <ExposureRow exposures={season.exposures.filter((e) => inside(e.day, 1))} x={x} y={exposureY} />
      <ResidualRows season={season} x={x} y={residualY} />
      {season.competitions
        .filter((c) => inside(c.day, 1))
        .map((c, i) =>
          c.days_to_go > 0 ? (
            <CompetitionMark
              key={c.id}
              c={c}
              x={x}
              row={i % 3}
              height={height}
              onStart={(e) => setDrag({ what: "competition", id: c.id, x: point(e) })}
              onKey={(key) => {
                if (key === "Enter" || key === "Escape") onConfirm(key === "Enter");
                else onMoveDay(c.id, key === "ArrowLeft" ? "-1" : "+1");
              }}
            />
          ) : (
            <CompetitionMark key={c.id} c={c} x={x} row={i % 3} height={height} />
          ),
        )}
      {drag?.what === "competition" && (
        <g>
          <path d={`M${drag.x} 28V${height - 8}`} stroke="var(--clay)" strokeDasharray="5 4" />
          <text x={drag.x - 6} y={phaseY - 6} fontSize="12.5" textAnchor="end" fill="var(--clay)">
            {shortDay(iso(x.invert(drag.x).getTime() + DAY_MS / 2))}
          </text>
        </g>
      )}
    </svg>
  );
}
