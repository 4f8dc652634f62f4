import { scaleLinear } from "d3-scale";

import type { Schemas } from "../../api/client";
import { dayMonth } from "../../parts/dates";

type Day = Schemas["DayLoadOut"];
const W = 460;
const H = 190;
const PAD = { left: 38, right: 6, top: 14, bottom: 22 };

/** The load of each day, with the two weighted averages of the days before it. */
export function LoadLines({ days }: { days: Day[] }) {
  const most = Math.max(1, ...days.map((d) => d.au));
  const x = scaleLinear([0, Math.max(1, days.length - 1)], [PAD.left + 4, W - PAD.right - 4]);
  const y = scaleLinear([0, most], [H - PAD.bottom, PAD.top]).nice();
  const line = (of: (d: Day) => number) => days.map((d, i) => `${i === 0 ? "M" : "L"}${x(i).toFixed(1)} ${y(of(d)).toFixed(1)}`).join("");
  const last = days[days.length - 1];
  const words = last ? `The last day: ${last.au} AU; 7 days ${last.acute_au}, 28 days ${last.chronic_au} AU a day` : "";
  const every = Math.ceil(days.length / 5);
  return (
    <>
      <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={words} style={{ width: "100%", display: "block" }}>
        {y.ticks(3).map((v) => (
          <g key={v}>
            <path d={`M${PAD.left} ${y(v)}H${W - PAD.right}`} stroke="var(--plate-line)" strokeDasharray={v === 0 ? undefined : "2 3"} />
            <text x={PAD.left - 5} y={y(v) + 4} fontSize="11" textAnchor="end" fill="var(--soft)">
              {v}
            </text>
          </g>
        ))}
        {days.map((d, i) => (
          <path key={d.day} d={`M${x(i)} ${y(0)}V${y(d.au)}`} stroke="var(--bar)" strokeWidth={days.length > 60 ? 2 : 5} />
        ))}
        <path d={line((d) => d.acute_au)} fill="none" stroke="var(--accent)" strokeWidth="2.5" />
        <path d={line((d) => d.chronic_au)} fill="none" stroke="var(--clay)" strokeWidth="2.5" strokeDasharray="6 4" />
        {days.map((d, i) =>
          i % every === 0 ? (
            <text key={d.day} x={x(i)} y={H - 6} fontSize="11" textAnchor={i === 0 ? "start" : "middle"} fill="var(--soft)">
              {dayMonth(d.day)}
            </text>
          ) : null,
        )}
      </svg>
      <p className="small mb-1">
        AU a day: <span className="key-line" aria-hidden /> last 7 days <span className="key-line dashed ms-2" aria-hidden /> last 28 days
      </p>
    </>
  );
}
