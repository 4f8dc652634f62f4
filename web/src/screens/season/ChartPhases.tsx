import type { Season } from "../../api/hooks";
import { DAY_MS, utc, W, type Scale } from "./axis";
import { counted } from "../../parts/counted";

interface BandProps {
  season: Season;
  x: Scale;
  y: number;
}

/** The phases one after another, each named as far as there is room. */
export function PhaseBand({ season, x, y }: BandProps) {
  return season.phases.map((p, i) => {
    const next = season.phases[i + 1];
    const from = x(utc(p.start));
    const to = next ? x(utc(next.start)) : x(utc(p.end) + DAY_MS);
    if (to - from < 1) return null;
    const room = to - from - 12;
    const full = `${p.name} · ${p.weeks} ${p.weeks === 1 ? "week" : "weeks"}`;
    const label = [full, p.name, p.name.split(" ")[0] ?? ""].find((t) => t.length * 6.6 < room) ?? "";
    return (
      <g key={`${p.toward}${p.id}`}>
        <title>{`${p.name} to ${p.toward}: ${counted(p.weeks, "week")}`}</title>
        <rect x={from} y={y} width={Math.max(2, to - from - 2)} height="30" rx="2" fill={`var(--ph-${p.key})`} />
        <text x={from + 7} y={y + 20} fontSize="13" fontWeight="600" fill={`var(--ph-${p.key}-ink, var(--ph-ink))`}>
          {label}
        </text>
      </g>
    );
  });
}

interface BoundaryProps {
  season: Season;
  y: number;
  at: (index: number, day: string) => number;
  isShown: (day: string) => boolean;
  onTake: (index: number, e: React.PointerEvent) => void;
  onShift: (index: number, weeks: number) => void;
}

/** The handles between phases: dragged, or moved by a week with the arrows. */
export function Boundaries({ season, y, at, isShown, onTake, onShift }: BoundaryProps) {
  return season.phases.slice(0, -1).map((p, i) => {
    const next = season.phases[i + 1];
    if (!next || !p.can_move_end || p.competition_id === null || !isShown(next.start)) return null;
    const place = at(i, next.start);
    return (
      <g
        key={`${p.toward}${p.id}`}
        role="slider"
        tabIndex={0}
        aria-label={`Boundary of ${p.name} and ${next.name}: left and right move it by a week`}
        aria-valuenow={p.weeks}
        aria-valuemin={0}
        aria-valuemax={52}
        aria-valuetext={`${p.name} ${counted(p.weeks, "week")}, ${next.name} ${counted(next.weeks, "week")}`}
        style={{ cursor: "ew-resize" }}
        onPointerDown={(e) => onTake(i, e)}
        onKeyDown={(e) => {
          if (e.key === "ArrowLeft") onShift(i, -1);
          if (e.key === "ArrowRight") onShift(i, 1);
        }}
      >
        <rect x={place - 9} y={y - 6} width="18" height="42" fill="transparent" />
        <rect x={place - 4} y={y + 3} width="7" height="24" rx="2" fill="var(--sheet)" stroke="var(--bs-body-color)" />
      </g>
    );
  });
}

/** Today, with the days to the competition. */
export function TodayMark({ at, days, phaseY, height }: { at: number; days: number; phaseY: number; height: number }) {
  return (
    <g>
      <path d={`M${at} 26V${height - 8}`} stroke="var(--bs-body-color)" strokeWidth="2" />
      <rect x={Math.min(at + 2, W - 80)} y={phaseY + 42} width="66" height="19" rx="2" fill="var(--bs-body-color)" />
      <text x={Math.min(at + 35, W - 47)} y={phaseY + 56} fontSize="12.5" fontWeight="600" textAnchor="middle" fill="var(--sheet)">
        {days} {days === 1 ? "day" : "days"}
      </text>
    </g>
  );
}
