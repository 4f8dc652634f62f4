import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";

import { useSeason } from "../api/hooks";
import { dayMonth, shortDay, toCompetition } from "./dates";
import { counted } from "./counted";

/** The width an element has in the page, in CSS pixels; before it is drawn, that of a desk. */
function useWidth() {
  const ref = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(1232);
  useEffect(() => {
    const drawn = ref.current;
    if (!drawn) return;
    const observer = new ResizeObserver(() => {
      const style = getComputedStyle(drawn);
      setWidth(Math.max(200, drawn.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight)));
    });
    observer.observe(drawn);
    return () => observer.disconnect();
  });
  return { ref, width };
}

/** The days to the competition: the season as a strip, hard weeks taller, today a notch. A week on it is a way to that week. */
export function Tape({ athleteId }: { athleteId: number }) {
  const { data, isPending } = useSeason(athleteId);
  const { ref, width } = useWidth();
  const season = data?.season;
  if (isPending) return <div className="tape" style={{ height: 63 }} aria-hidden />; // what is below does not jump when it comes
  if (!season) return null;
  const count = season.weeks.length;
  const step = width / count;
  const now = season.weeks.find((w, i) => w.start <= season.today && (season.weeks[i + 1]?.start ?? "9999") > season.today);
  const tallest = Math.max(...season.weeks.map((w) => w.main_sets));
  const nowX = now ? (now.index + 0.5) * step : 0;
  const label = counted(season.days_to_go, "day");
  const isNamed = width - nowX > 340; // where the name of the day has room beside today's notch
  const labelX = Math.max(0, Math.min(nowX + 6, width - (isNamed ? 250 : 96)));
  return (
    <nav ref={ref} className="tape" aria-label={`Days to ${season.name}: ${season.days_to_go}`}>
      <svg viewBox={`0 0 ${width} 62`} width="100%" height="62" preserveAspectRatio="none">
        {season.weeks.map((w) => {
          const height = 4 + (20 * w.main_sets) / tallest;
          return (
            <Link
              key={w.index}
              to={`/athletes/${athleteId}/week/${w.start}`}
              aria-label={`Week of ${dayMonth(w.start)}${w.is_easy ? ", deload week" : ""}, ${toCompetition(w.days_to_go)}`}
            >
              <rect x={w.index * step} y="8" width={step} height="38" fill="transparent" />
              <rect
                x={w.index * step + 2}
                y={40 - height}
                width={Math.max(1, step - 4)}
                height={height}
                fill={`var(--ph-${w.phase})`}
                opacity={now && w.index < now.index ? 0.45 : 1}
              />
            </Link>
          );
        })}
        {season.phases.map((p) => {
          if (p.end < (season.weeks[0]?.start ?? "")) return null;
          // a phase may begin within a week, or before the first that is drawn
          const first = Math.max(0, season.weeks.filter((w) => w.start <= p.start).length - 1);
          return (
            <g key={`${p.toward}${p.id}`}>
              <rect x={first * step} y="42" width={p.weeks * step - 1} height="5" fill={`var(--ph-${p.key})`} />
              <text x={first * step + 2} y="58" fontSize="11" fill="var(--soft)">
                {p.weeks * step > p.name.length * 6 ? p.name : ""}
              </text>
            </g>
          );
        })}
        {now && (
          <g>
            <path d={`M${nowX - 5} 3h10l-5 7z`} fill="var(--bs-body-color)" />
            <path d={`M${nowX} 6V46`} stroke="var(--bs-body-color)" strokeWidth="2" />
            <rect x={labelX} y="3" width="72" height="17" rx="2" fill="var(--bs-body-color)" />
            <text x={labelX + 36} y="15.5" fontSize="12.5" fontWeight="600" textAnchor="middle" fill="var(--sheet)">
              {label}
            </text>
          </g>
        )}
        <path d={`M${width - 2} 4V46`} stroke="var(--clay)" strokeWidth="2" />
        <path d={`M${width - 2} 4l-12 5l12 5z`} fill="var(--clay)" />
        {isNamed && (
          <text x={width - 18} y="13" fontSize="12" fontWeight="600" textAnchor="end" fill="var(--clay)">
            {season.name} · {shortDay(season.day)}
          </text>
        )}
      </svg>
    </nav>
  );
}
