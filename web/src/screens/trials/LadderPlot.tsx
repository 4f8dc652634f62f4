import type { Schemas } from "../../api/client";
import { kg } from "../../parts/dates";

/** Each try by load and velocity, the day's line, the velocity looked for and where they cross. */
export function LadderPlot({ t }: { t: Schemas["TrialOut"] }) {
  const tries = t.tries.filter((x) => x.velocity_mps !== null && x.load !== null);
  if (tries.length === 0 || t.target_mps === null) return null;
  const [w, h, left, base] = [640, 240, 46, 206];
  const loads = [...tries.map((x) => x.load ?? 0), t.next_load ?? 0, t.crossing_load ?? 0].filter((x) => x > 0);
  const speeds = [...tries.map((x) => x.velocity_mps ?? 0), t.target_mps];
  const [x0, x1] = [Math.min(...loads) - 5, Math.max(...loads) + 6];
  const [y0, y1] = [Math.min(...speeds) - 0.12, Math.max(...speeds) + 0.1];
  const x = (v: number) => left + ((v - x0) / (x1 - x0)) * (w - left - 20);
  const y = (v: number) => base - ((v - y0) / (y1 - y0)) * (base - 12);
  const ticks = [...new Set(tries.map((t2) => t2.load ?? 0))];
  const at = (load: number) => (t.line_intercept_mps ?? 0) + (t.line_slope ?? 0) * load;
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      width="100%"
      style={{ maxHeight: 300 }}
      role="img"
      aria-label={`Ladder: ${tries.map((a) => `${a.load_words} at ${a.velocity_mps?.toFixed(2)}`).join(", ")}`}
    >
      <path d={`M${left} 6V${base}H${w - 10}`} fill="none" stroke="var(--plate-line)" />
      <text x={left - 6} y={14} fontSize="13" textAnchor="end" fill="var(--soft)">
        m/s
      </text>
      <text x={w - 10} y={base + 32} fontSize="13" textAnchor="end" fill="var(--soft)">
        {t.unit}
      </text>
      {ticks.map((v) => (
        <text key={v} x={x(v)} y={base + 17} fontSize="13" textAnchor="middle" fill="var(--soft)">
          {kg(v)}
        </text>
      ))}
      {t.line_slope !== null && (
        <path d={`M${x(x0)} ${y(at(x0))}L${x(x1)} ${y(at(x1))}`} stroke="var(--bar)" strokeWidth="2" clipPath="inset(0)" />
      )}
      <path d={`M${left} ${y(t.target_mps)}H${w - 10}`} stroke="var(--clay)" strokeWidth="2" strokeDasharray="6 4" />
      <text x={w - 12} y={y(t.target_mps) - 5} fontSize="14" fontWeight="600" textAnchor="end" fill="var(--clay)">
        {t.target_mps.toFixed(2)}
      </text>
      {tries.map((a) => (
        <g key={a.number}>
          <circle
            cx={x(a.load ?? 0)}
            cy={y(a.velocity_mps ?? 0)}
            r="6"
            fill={a.passed ? "var(--accent)" : "var(--sheet)"}
            stroke={a.passed ? "var(--accent)" : "var(--clay)"}
            strokeWidth="2"
          />
          <text x={x(a.load ?? 0)} y={y(a.velocity_mps ?? 0) - 11} fontSize="14" textAnchor="middle" fill="var(--bs-body-color)">
            {a.velocity_mps?.toFixed(2)}
          </text>
        </g>
      ))}
      {t.crossing_load !== null && (
        <text x={x(t.crossing_load)} y={base - 6} fontSize="13" textAnchor="middle" fill="var(--clay)">
          crosses at {t.crossing_load.toFixed(1)} {t.unit}
        </text>
      )}
    </svg>
  );
}
