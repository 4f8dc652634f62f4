import type { Schemas } from "../../api/client";

/** Mean jump after each rest against the baseline, with the typical error as a band round it. */
export function RestPlot({ t }: { t: Schemas["TrialOut"] }) {
  const base = t.baseline_cm;
  if (base === null) return null;
  const [w, h, left, floor] = [640, 220, 46, 184];
  const error = t.error_cm ?? 0;
  const values = [...t.windows.map((x) => x.mean_cm), base - error, base + error];
  const [y0, y1] = [Math.min(...values) - 1, Math.max(...values) + 1.2];
  const y = (v: number) => floor - ((v - y0) / (y1 - y0)) * (floor - 10);
  const step = (w - left - 20) / Math.max(1, t.windows.length);
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      width="100%"
      style={{ maxHeight: 270 }}
      role="img"
      aria-label={`Baseline ${base} cm; ${t.windows.map((x) => `rest ${x.words} mean ${x.mean_cm}`).join(", ")}`}
    >
      <path d={`M${left} 6V${floor}H${w - 10}`} fill="none" stroke="var(--plate-line)" />
      <rect x={left} y={y(base + error)} width={w - left - 10} height={Math.max(1, y(base - error) - y(base + error))} fill="var(--wash)" />
      <path d={`M${left} ${y(base)}H${w - 10}`} stroke="var(--accent)" strokeDasharray="5 4" />
      <text x={left + 8} y={18} fontSize="14" fill="var(--accent)">
        dashed: baseline {base.toFixed(1)} cm{error > 0 && ` ± ${error.toFixed(1)} typical error`}
      </text>
      {t.windows.map((x, i) => {
        const at = left + (i + 0.5) * step;
        return (
          <g key={x.rest_s}>
            <circle
              cx={at}
              cy={y(x.mean_cm)}
              r="7"
              fill={x.beats_error ? "var(--accent)" : "var(--sheet)"}
              stroke="var(--accent)"
              strokeWidth="2"
            />
            <text
              x={at}
              y={y(x.mean_cm) - 12}
              fontSize="14"
              textAnchor="middle"
              fontWeight={x.beats_error ? 700 : 400}
              fill="var(--bs-body-color)"
            >
              {x.mean_cm.toFixed(1)} ({x.gain_cm > 0 ? "+" : ""}
              {x.gain_cm.toFixed(1)})
            </text>
            <text x={at} y={floor + 18} fontSize="14" textAnchor="middle" fill="var(--soft)">
              {x.words}
            </text>
          </g>
        );
      })}
      <text x={w - 10} y={floor + 34} fontSize="13" textAnchor="end" fill="var(--soft)">
        rest, min:s
      </text>
    </svg>
  );
}
