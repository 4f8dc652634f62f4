import { scaleLinear } from "d3-scale";

import type { Schemas } from "../../api/client";

/** The usual band, its target, and the athlete's ratio with its uncertainty. */
export function RatioBand({ ratio: r }: { ratio: Schemas["RatioOut"] }) {
  const low = Math.min(r.low_pct, r.pct - r.error_pct) - 6;
  const high = Math.max(r.high_pct, r.pct + r.error_pct) + 6;
  const x = scaleLinear([low, high], [4, 396]);
  const words = `${r.pct.toFixed(0)} %, give or take ${r.error_pct.toFixed(0)}; target ${r.target_pct} %, usual ${r.low_pct} to ${r.high_pct} %`;
  return (
    <svg viewBox="0 0 400 40" role="img" aria-label={words} style={{ width: "100%", display: "block" }}>
      <path d="M4 17H396" stroke="var(--plate-line)" />
      <rect x={x(r.low_pct)} y="9" width={x(r.high_pct) - x(r.low_pct)} height="16" fill="var(--wash)" stroke="var(--bar)" />
      <path d={`M${x(r.target_pct)} 7v20`} stroke="var(--accent)" strokeDasharray="3 2" />
      {[r.low_pct, r.target_pct, r.high_pct].map((v) => (
        <text key={v} x={x(v)} y="38" fontSize="11" textAnchor="middle" fill="var(--soft)">
          {v}
        </text>
      ))}
      <path d={`M${x(r.pct - r.error_pct)} 17H${x(r.pct + r.error_pct)}`} stroke="var(--bs-body-color)" strokeWidth="2" />
      <circle cx={x(r.pct)} cy="17" r="5.5" fill={r.lagging ? "var(--clay)" : "var(--accent)"} />
    </svg>
  );
}
