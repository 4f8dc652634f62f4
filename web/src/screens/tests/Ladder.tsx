import { scaleBand, scaleLinear } from "d3-scale";

import type { Schemas } from "../../api/client";

const W = 900;
const H = 190;

/** Loads as steps of a ladder: done, next, and those still planned. A broken form or a miss is named. */
export function Ladder({ test: t }: { test: Schemas["TestOut"] }) {
  const top = t.attempts.at(-1)?.load_kg ?? 0;
  const planned = t.ended || !t.next ? [] : t.planned.filter((s) => s.load_kg > Math.max(top, t.next?.load_kg ?? 0));
  const rungs = [
    ...t.attempts.map((a) => ({
      kg: a.load_kg,
      load: a.load,
      reps: a.reps,
      state: a.form_broke ? "technique broke" : a.missed ? "missed" : "done",
    })),
    ...(t.next && !t.ended ? [{ kg: t.next.load_kg, load: t.next.load, reps: t.next.reps, state: "next" }] : []),
    ...planned.map((s) => ({ kg: s.load_kg, load: s.load, reps: s.reps, state: "planned" })),
  ];
  if (rungs.length === 0) return <p className="soft m-0">The first load begins it.</p>;
  const x = scaleBand<number>()
    .domain(rungs.map((_, i) => i))
    .range([10, W - 10])
    .padding(0.18);
  const y = scaleLinear([0, Math.max(...rungs.map((r) => r.kg)) * 1.12], [H - 34, 16]);
  const words = rungs.map((r) => `${r.load} ${t.unit} × ${r.reps} ${r.state}`).join(", ");
  const fill = (state: string) =>
    state === "done" ? "var(--bar)" : state === "next" ? "var(--accent)" : state === "planned" ? "var(--rule)" : "var(--clay)";
  return (
    <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={words} style={{ width: "100%", display: "block" }}>
      <path d={`M10 ${H - 34}H${W - 10}`} stroke="var(--plate-line)" />
      {rungs.map((r, i) => {
        const width = Math.min(70, x.bandwidth());
        const left = (x(i) ?? 0) + (x.bandwidth() - width) / 2;
        return (
          <g key={i}>
            <rect
              x={left}
              y={y(r.kg)}
              width={width}
              height={H - 34 - y(r.kg)}
              fill={fill(r.state)}
              stroke={r.state === "planned" ? "var(--plate-line)" : "none"}
              strokeDasharray="4 3"
            />
            <text
              x={left + width / 2}
              y={y(r.kg) - 4}
              fontSize="15"
              fontWeight="600"
              textAnchor="middle"
              fill="var(--bs-body-color)"
              className="num"
            >
              {r.load}
            </text>
            <text x={left + width / 2} y={H - 18} fontSize="13" textAnchor="middle" fill="var(--soft)">
              × {r.reps}
            </text>
            <text
              x={left + width / 2}
              y={H - 4}
              fontSize="12"
              textAnchor="middle"
              fill={r.state === "missed" || r.state === "technique broke" ? "var(--clay)" : "var(--soft)"}
            >
              {r.state}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
