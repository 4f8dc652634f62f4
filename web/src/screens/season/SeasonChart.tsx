import { scaleTime } from "d3-scale";
import { useRef, useState } from "react";
import { Link } from "react-router";

import type { Season } from "../../api/hooks";
import { dayMonth, shortDay, toGo } from "../../parts/dates";

const W = 956;
const LEFT = 128;
const RIGHT = 14;
const DAY_MS = 86_400_000;
const PHASE_Y = 62;
const LOAD_Y = 240;
const LOAD_H = 110;
const PRACTICE_Y = 262;
const RESIDUAL_Y = 330;

interface Props {
  id: number;
  season: Season;
  onShift: (left: string, right: string, weeks: number) => void;
  onMoveDay: (day: string) => void;
}

function utc(day: string): number {
  return Date.parse(`${day}T00:00:00Z`);
}
function iso(ms: number): string {
  return new Date(ms).toISOString().slice(0, 10);
}

/** The season on a time axis: competition, phases with boundaries to move, planned load, practice, what still holds on the day. */
export function SeasonChart({ id, season, onShift, onMoveDay }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ what: number | "day"; x: number } | null>(null);
  const start = utc(season.start);
  const end = utc(season.day) + 4 * DAY_MS;
  const x = scaleTime([start, end], [LEFT, W - RIGHT]);
  const height = RESIDUAL_Y + season.residuals.length * 40 + 16;
  const tallest = Math.max(...season.weeks.map((w) => w.load));
  const dayX = x(utc(season.day));
  const todayX = x(utc(season.today));
  const weekPx = x(start + 7 * DAY_MS) - LEFT;
  const point = (e: React.PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    return box ? ((e.clientX - box.left) * W) / box.width : 0;
  };

  function drop() {
    if (!drag) return;
    if (drag.what === "day") {
      const day = iso(x.invert(drag.x).getTime() + DAY_MS / 2);
      if (day !== season.day) onMoveDay(day);
    } else {
      const left = season.phases[drag.what];
      const right = season.phases[drag.what + 1];
      if (left && right) {
        const weeks = Math.round((drag.x - x(utc(right.start))) / weekPx);
        if (weeks !== 0) onShift(left.key, right.key, weeks);
      }
    }
    setDrag(null);
  }

  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${height}`}
      width="100%"
      role="group"
      aria-label={`Season to ${season.name}, ${toGo(season.days_to_go)}`}
      onPointerMove={(e) => drag && setDrag({ ...drag, x: Math.min(W, Math.max(LEFT, point(e))) })}
      onPointerUp={drop}
      style={{ touchAction: "none", fontFamily: "Barlow, sans-serif" }}
    >
      {x.ticks(6).map((t) => (
        <g key={t.getTime()}>
          <path d={`M${x(t)} 6V${height - 8}`} stroke="var(--rule)" />
          <text x={x(t) + 4} y="18" fontSize="12.5" fill="var(--soft)">
            {dayMonth(iso(t.getTime()))}
          </text>
        </g>
      ))}
      <path d={`M${todayX} 30V${height - 8}`} stroke="var(--bs-body-color)" strokeWidth="2" />
      <Label y={44} text="Competition" />
      <Label y={PHASE_Y + 20} text="Phases" />
      {season.phases.map((p, i) => {
        const from = x(utc(p.start));
        const to = i === season.phases.length - 1 ? dayX : x(utc(p.end) + DAY_MS);
        const ink = p.key === "taper" ? "var(--ph-taper-ink)" : "var(--ph-ink)";
        return (
          <g key={p.key}>
            <rect x={from} y={PHASE_Y} width={Math.max(2, to - from - 2)} height="30" rx="2" fill={`var(--ph-${p.key})`} />
            <text x={from + 7} y={PHASE_Y + 20} fontSize="13" fontWeight="600" fill={ink}>
              {to - from > 90 ? p.name : to - from > 46 ? p.name.split(" ")[0] : ""}
            </text>
            {to - from > 170 && (
              <text x={to - 14} y={PHASE_Y + 20} fontSize="12.5" textAnchor="end" fill={ink}>
                {p.weeks} weeks
              </text>
            )}
          </g>
        );
      })}
      {season.phases.slice(0, -1).map((p, i) => {
        const next = season.phases[i + 1];
        if (!next) return null;
        const at = drag?.what === i ? drag.x : x(utc(next.start));
        return (
          <g
            key={p.key}
            role="slider"
            tabIndex={0}
            aria-label={`Boundary of ${p.name} and ${next.name}: left and right move it by a week`}
            aria-valuenow={p.weeks}
            aria-valuemin={0}
            aria-valuemax={52}
            aria-valuetext={`${p.name} ${p.weeks} weeks, ${next.name} ${next.weeks} weeks`}
            style={{ cursor: "ew-resize" }}
            onPointerDown={(e) => {
              setDrag({ what: i, x: point(e) });
            }}
            onKeyDown={(e) => {
              if (e.key === "ArrowLeft") onShift(p.key, next.key, -1);
              if (e.key === "ArrowRight") onShift(p.key, next.key, 1);
            }}
          >
            <rect x={at - 9} y={PHASE_Y - 6} width="18" height="42" fill="transparent" />
            <rect x={at - 4} y={PHASE_Y + 3} width="7" height="24" rx="2" fill="var(--sheet)" stroke="var(--bs-body-color)" />
          </g>
        );
      })}
      <g>
        <rect x={todayX + 2} y="112" width="66" height="19" rx="2" fill="var(--bs-body-color)" />
        <text x={todayX + 35} y="126" fontSize="12.5" fontWeight="600" textAnchor="middle" fill="var(--sheet)">
          {season.days_to_go} to go
        </text>
      </g>
      <Label y={LOAD_Y - 88} text="Week load" sub="planned, done" />
      {season.weeks.map((w) => {
        const h = (LOAD_H * w.load) / tallest;
        const from = x(utc(w.start)) + 2;
        const width = Math.max(2, weekPx - 4);
        const words = `Week of ${dayMonth(w.start)}, ${w.is_easy ? "easy, " : ""}top ${w.intensity_pct} %, ${toGo(w.days_to_go)}`;
        return (
          <Link key={w.index} to={`/athletes/${id}/week/${w.start}`} aria-label={words}>
            <title>{words}</title>
            <rect x={from} y={LOAD_Y - h} width={width} height={h} fill={`var(--ph-${w.phase})`} />
            {w.is_easy && (
              <text x={from + width / 2} y={LOAD_Y - h - 5} fontSize="12" textAnchor="middle" fill="var(--soft)">
                easy
              </text>
            )}
            {w.done_share !== null && (
              <rect x={from} y={LOAD_Y - h * Math.min(1.2, w.done_share ?? 0) - 1} width={width} height="3" fill="var(--bs-body-color)" />
            )}
          </Link>
        );
      })}
      <path d={`M${LEFT} ${LOAD_Y}H${W - RIGHT}`} stroke="var(--plate-line)" />
      <Label y={PRACTICE_Y + 14} text="Practice" />
      {season.weeks.map((w) =>
        season.practice_weights.map((weight, d) =>
          weight > 0 && utc(w.start) + d * DAY_MS < utc(season.day) ? (
            <rect
              key={`${w.index}-${d}`}
              x={x(utc(w.start) + d * DAY_MS) + 1}
              y={PRACTICE_Y}
              width={Math.max(1.2, weekPx / 7 - 2)}
              height={Math.min(24, 3 + weight * 1.3)}
              fill="var(--practice)"
            />
          ) : null,
        ),
      )}
      <Label y={RESIDUAL_Y - 14} text="What will still be there on the day" />
      {season.residuals.map((r, i) => {
        const y = RESIDUAL_Y + i * 40;
        const from = x(utc(r.from_day));
        const last = x(utc(r.last_exposure));
        const expires = x(utc(r.expires));
        const words = `${r.quality}: last good dose ${shortDay(r.last_exposure)}, holds to about ${shortDay(r.expires)}`;
        return (
          <g key={r.quality} tabIndex={0} role="img" aria-label={words}>
            <title>{words}</title>
            <Label y={y + 12} text={r.quality[0]?.toUpperCase() + r.quality.slice(1)} plain />
            <rect x={from} y={y} width={Math.max(2, last - from)} height="12" fill="var(--accent)" />
            <rect x={last} y={y} width={Math.max(0, Math.min(W - 2, expires) - last)} height="12" fill="var(--accent)" opacity="0.35" />
            <text x={LEFT + 3} y={y + 27} fontSize="12" fill="var(--soft)" stroke="var(--sheet)" strokeWidth="4" paintOrder="stroke">
              {r.text} · to about {shortDay(r.expires)}
            </text>
          </g>
        );
      })}
      <g
        role="slider"
        tabIndex={0}
        aria-label={`${season.name}: left and right move it by a day`}
        aria-valuenow={season.days_to_go}
        aria-valuetext={`${shortDay(season.day)}, ${toGo(season.days_to_go)}`}
        style={{ cursor: "ew-resize" }}
        onPointerDown={(e) => setDrag({ what: "day", x: point(e) })}
        onKeyDown={(e) => {
          if (e.key === "ArrowLeft") onMoveDay(iso(utc(season.day) - DAY_MS));
          if (e.key === "ArrowRight") onMoveDay(iso(utc(season.day) + DAY_MS));
        }}
      >
        <rect x={dayX - 200} y="28" width="212" height="26" fill="transparent" />
        <path d={`M${dayX} 32V${height - 8}`} stroke="var(--clay)" strokeWidth="2" />
        <path d={`M${dayX} 32l-14 6l14 6z`} fill="var(--clay)" />
        <text x={dayX - 20} y="44" fontSize="12.5" fontWeight="600" textAnchor="end" fill="var(--clay)">
          {season.name} · {shortDay(season.day)}
        </text>
      </g>
      {drag?.what === "day" && (
        <g>
          <path d={`M${drag.x} 28V${height - 8}`} stroke="var(--clay)" strokeDasharray="5 4" />
          <text x={drag.x - 6} y="60" fontSize="12.5" textAnchor="end" fill="var(--clay)">
            {shortDay(iso(x.invert(drag.x).getTime() + DAY_MS / 2))}
          </text>
        </g>
      )}
    </svg>
  );
}

function Label({ y, text, sub, plain = false }: { y: number; text: string; sub?: string; plain?: boolean }) {
  return (
    <>
      <text x="10" y={y} fontSize="12.5" fontWeight={plain ? 500 : 600} fill={plain ? "var(--soft)" : "var(--bs-body-color)"}>
        {text}
      </text>
      {sub && (
        <text x="10" y={y + 16} fontSize="12.5" fill="var(--soft)">
          {sub}
        </text>
      )}
    </>
  );
}
