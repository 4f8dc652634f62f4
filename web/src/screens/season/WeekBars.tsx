import { Link } from "react-router";

import type { Season } from "../../api/hooks";
import { dayMonth, toCompetition } from "../../parts/dates";
import { DAY_MS, type Scale, utc } from "./axis";

const LOAD_H = 100;

interface Props {
  id: number;
  season: Season;
  weeks: Season["weeks"];
  x: Scale;
  y: number;
  easyAt: (index: number) => number | null;
  onDragEasy: (index: number, e: React.PointerEvent) => void;
  onMoveEasy: (monday: string, to: string) => void;
  onToggleEasy: (monday: string, easy: boolean) => void;
}

/** Main sets of each week: the outline is what the season asks for, the filled bar what the sessions hold, the stroke what was done. */
export function WeekBars({ id, season, weeks, x, y, easyAt, onDragEasy, onMoveEasy, onToggleEasy }: Props) {
  const tallest = Math.max(1, ...season.weeks.map((w) => Math.max(w.main_sets, w.dose_sets)));
  return (
    <>
      {weeks.map((w) => {
        const h = (LOAD_H * w.main_sets) / tallest;
        const asked = (LOAD_H * w.dose_sets) / tallest;
        const from = x(utc(w.start)) + 2;
        const width = Math.max(2, x(utc(w.start) + 7 * DAY_MS) - x(utc(w.start)) - 4);
        const words = `Week of ${dayMonth(w.start)}, ${w.phase_name}, ${w.is_easy ? "deload week, " : ""}${w.main_sets} main sets (the season asks for ${w.dose_sets.toFixed(0)}), top ${w.intensity_pct} %, ${toCompetition(w.days_to_go)}${w.note ? `, ${w.note}` : ""}`;
        return (
          <g key={w.index}>
            <Link
              to={`/athletes/${id}/week/${w.start}`}
              aria-label={`${words}. E makes it ${w.is_easy ? "full" : "a deload week"}`}
              onKeyDown={(e) => {
                if (e.key === "e" && w.can_ease) onToggleEasy(w.start, !w.is_easy);
              }}
            >
              <title>{words}</title>
              <rect x={from} y={y - h} width={width} height={h} fill={`var(--ph-${w.phase})`} />
              <rect
                x={from}
                y={y - Math.max(2, asked)}
                width={width}
                height={Math.max(2, asked)}
                fill="none"
                stroke="var(--plate-line)"
                strokeWidth={w.is_own ? 1.6 : 0.8}
                strokeDasharray={w.is_own ? "3 2" : undefined}
              />
              {w.done_share !== null && (
                <rect x={from} y={y - h * Math.min(1.2, w.done_share ?? 0) - 1} width={width} height="3" fill="var(--bs-body-color)" />
              )}
            </Link>
          </g>
        );
      })}
      {weeks.map((w) => {
        const asked = (LOAD_H * w.dose_sets) / tallest;
        const h = (LOAD_H * w.main_sets) / tallest;
        const from = x(utc(w.start)) + 2;
        const width = Math.max(2, x(utc(w.start) + 7 * DAY_MS) - x(utc(w.start)) - 4);
        return (
          <g key={w.index}>
            {w.is_easy && (
              <g
                role="slider"
                tabIndex={0}
                aria-label={`Deload week of ${dayMonth(w.start)}: left and right move it by a week`}
                aria-valuenow={w.index + 1}
                aria-valuetext={dayMonth(w.start)}
                style={{ cursor: "ew-resize" }}
                onPointerDown={(e) => onDragEasy(w.index, e)}
                onKeyDown={(e) => {
                  const to = season.weeks[w.index + (e.key === "ArrowLeft" ? -1 : 1)];
                  if ((e.key === "ArrowLeft" || e.key === "ArrowRight") && to && to.can_ease) onMoveEasy(w.start, to.start);
                }}
              >
                <rect x={from - 3} y={y - Math.max(h, asked) - 19} width={width + 6} height="17" fill="transparent" />
                <text
                  x={easyAt(w.index) ?? from + width / 2}
                  y={y - Math.max(h, asked) - 5}
                  fontSize="12"
                  textAnchor="middle"
                  paintOrder="stroke"
                  stroke="var(--sheet)"
                  strokeWidth="4"
                  fill={w.set_by_hand ? "var(--bs-body-color)" : "var(--soft)"}
                  fontWeight={w.set_by_hand ? 600 : 400}
                >
                  deload
                </text>
              </g>
            )}
          </g>
        );
      })}
    </>
  );
}
