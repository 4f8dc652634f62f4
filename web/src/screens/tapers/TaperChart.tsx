import { scaleLinear, scaleTime } from "d3-scale";

import type { Schemas } from "../../api/client";
import { dayMonth, shortDay } from "../../parts/dates";

const W = 900;
const PAD = { left: 52, right: 16 };
const FORM = { top: 24, bottom: 200 };
const PARTS = { top: 234, bottom: 318 };
const LOAD = { top: 354, bottom: 424 };
/** Each taper by colour and by dash. */
export const INK = [
  { color: "var(--accent)", dash: undefined },
  { color: "var(--clay)", dash: "8 4" },
  { color: "var(--top-line, var(--bs-body-color))", dash: "2 4" },
];
const NAMES = ["1", "2", "3"];

/** Readiness of each taper against the first with its band, fitness and fatigue, and the load that leads there. */
export function TaperChart({ bench }: { bench: Schemas["BenchOut"] }) {
  const first = bench.tried[0];
  if (!first || bench.day === null) return null;
  const day = bench.day;
  const days = first.days;
  const x = scaleTime([new Date(days[0] ?? day), new Date(days.at(-1) ?? day)], [PAD.left, W - PAD.right]);
  const values = [-100, 100, ...bench.tried.flatMap((t) => [...t.against_low, ...t.against_high])];
  const y = scaleLinear([Math.min(...values), Math.max(...values)], [FORM.bottom, FORM.top]).nice(5);
  const most = Math.max(...bench.tried.flatMap((t) => t.load), 1);
  const parts = bench.tried.flatMap((t) => [...t.fitness, ...t.fatigue]);
  const yParts = scaleLinear([Math.min(...parts), Math.max(...parts)], [PARTS.bottom, PARTS.top]).nice(3);
  const yLoad = scaleLinear([0, most], [LOAD.bottom, LOAD.top]);
  const at = (when: string | undefined) => x(new Date(when ?? day));
  const line = (t: Schemas["TriedOut"], v: number[], scale = y) =>
    v.map((f, i) => `${i ? "L" : "M"}${at(t.days[i]).toFixed(1)} ${scale(f).toFixed(1)}`).join("");
  const width = Math.max(1.5, (W - PAD.left - PAD.right) / days.length / (bench.tried.length + 0.6));
  const compared = bench.tried.flatMap((t, i) => (t.difference === null ? [] : [`taper ${NAMES[i]} ${t.difference.toFixed(0)} AU`]));
  const words = compared.join(", ") || "nothing to compare";
  return (
    <figure className="sheet pad m-0">
      <svg
        viewBox={`0 0 ${W} 454`}
        width="100%"
        role="img"
        aria-label={`Readiness score against taper 1 on ${shortDay(day)}: ${words}`}
        style={{ fontFamily: "Barlow, sans-serif" }}
      >
        {y.ticks(5).map((t) => (
          <g key={t}>
            <path d={`M${PAD.left} ${y(t)}H${W - PAD.right}`} stroke="var(--rule)" />
            <text x={PAD.left - 6} y={y(t) + 4} textAnchor="end" fontSize="12" fill="var(--soft)">
              {t}
            </text>
          </g>
        ))}
        <text x={PAD.left} y={14} fontSize="12" fontWeight="600" fill="var(--bs-body-color)">
          Readiness score against taper 1, AU (comparison only)
        </text>
        <text x={PAD.left} y={PARTS.top - 8} fontSize="12" fontWeight="600" fill="var(--bs-body-color)">
          Fitness (upper) and fatigue (lower)
        </text>
        {yParts.ticks(3).map((t) => (
          <g key={t}>
            <path d={`M${PAD.left} ${yParts(t)}H${W - PAD.right}`} stroke="var(--rule)" />
            <text x={PAD.left - 6} y={yParts(t) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
              {t}
            </text>
          </g>
        ))}
        {bench.tried.map((t, i) => (
          <g key={i} fill="none" stroke={INK[i]?.color} strokeWidth="1.8" strokeDasharray={INK[i]?.dash}>
            <path d={line(t, t.fitness, yParts)} />
            <path d={line(t, t.fatigue, yParts)} />
          </g>
        ))}
        <text x={PAD.left} y={LOAD.top - 8} fontSize="12" fontWeight="600" fill="var(--bs-body-color)">
          Planned load of each day, AU (RPE × min)
        </text>
        {bench.tried.map((t, i) => {
          if (t.against.length === 0) return null;
          const up = t.against_high.map((v, k) => `${at(t.days[k]).toFixed(1)} ${y(v).toFixed(1)}`);
          const down = t.against_low.map((v, k) => `${at(t.days[k]).toFixed(1)} ${y(v).toFixed(1)}`).reverse();
          return <path key={i} d={`M${[...up, ...down].join("L")}Z`} fill={INK[i]?.color} opacity="0.08" />;
        })}
        {bench.tried.map((t, i) => (
          <path key={i} d={line(t, t.against)} fill="none" stroke={INK[i]?.color} strokeWidth="2.4" strokeDasharray={INK[i]?.dash}>
            <title>{`Taper ${NAMES[i]}`}</title>
          </path>
        ))}
        {bench.tried.map((t, i) =>
          t.load.map((v, k) =>
            v > 0 ? (
              <rect
                key={`${i}-${k}`}
                x={at(t.days[k]) + i * width}
                y={yLoad(v)}
                width={width}
                height={LOAD.bottom - yLoad(v)}
                fill={INK[i]?.color}
                opacity={0.75}
              />
            ) : null,
          ),
        )}
        <path d={`M${PAD.left} ${LOAD.bottom}H${W - PAD.right}`} stroke="var(--plate-line)" />
        <path d={`M${at(day)} 18V${LOAD.bottom}`} stroke="var(--clay)" strokeWidth="2" />
        <text x={at(day) - 6} y={LOAD.bottom + 24} textAnchor="end" fontSize="12.5" fontWeight="600" fill="var(--clay)">
          {bench.competition} · {shortDay(day)}
        </text>
        {x.ticks(7).map((t) => (
          <text key={t.getTime()} x={x(t)} y={LOAD.bottom + 13} fontSize="11.5" textAnchor="middle" fill="var(--soft)">
            {dayMonth(t.toISOString().slice(0, 10))}
          </text>
        ))}
      </svg>
      <figcaption className="small soft">
        Lines are fitness less fatigue against taper 1, the pale bands what the difference may be for an athlete whose constants differ;
        bars are the load of the planned sessions. A picture for comparing plans.
      </figcaption>
    </figure>
  );
}
