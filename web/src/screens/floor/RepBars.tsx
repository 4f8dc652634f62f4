import type { FloorSet } from "../../api/hooks";

const H = 170;
const BASE = 146;

/** One bar a repetition, with the target drawn as a band and the stop line from the fastest repetition so far. */
export function RepBars({ set, narrow = false }: { set: FloorSet; narrow?: boolean }) {
  const W = narrow ? 330 : 600;
  const reps = set.measured;
  const low = set.target_low_mps;
  const high = set.target_high_mps;
  const top = Math.max(0.6, high ?? 0, ...reps.map((r) => r.counts_mps)) * 1.15;
  const y = (v: number) => BASE - (v / top) * (BASE - 10);
  const slots = Math.max(set.reps ?? 1, reps.length, 5);
  const step = (W - (narrow ? 92 : 110)) / slots;
  const width = Math.min(62, step * 0.7);
  const last = reps.at(-1);
  const words = reps.map((r) => r.counts_mps.toFixed(2)).join(", ");
  const planned = set.stop_loss_pct;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      style={{ maxHeight: narrow ? 130 : 210 }}
      role="img"
      aria-label={
        words
          ? `Repetitions in m/s: ${words}`
          : planned === null
            ? "No repetition yet"
            : `No repetition yet; the set stops at ${planned} % loss`
      }
    >
      {low !== null && high !== null && (
        <g>
          <rect x="0" y={y(high)} width={W} height={Math.max(2, y(low) - y(high))} fill="var(--wash)" />
          <text x={W - 4} y={y(high) - 4} fontSize="14" textAnchor="end" fill="var(--accent)">
            aim {low.toFixed(2)}–{high.toFixed(2)}
          </text>
        </g>
      )}
      <path d={`M0 ${BASE}H${W}`} stroke="var(--plate-line)" />
      {Array.from({ length: slots }, (_, i) => {
        const rep = reps[i];
        const at = 12 + i * step;
        if (!rep) {
          return i < (set.reps ?? 1) ? <rect key={i} x={at} y={BASE - 8} width={width} height="8" fill="var(--rule)" /> : null;
        }
        const isLast = i === reps.length - 1;
        return (
          <g key={i}>
            <rect
              x={at}
              y={y(rep.counts_mps)}
              width={width}
              height={BASE - y(rep.counts_mps)}
              fill={isLast ? "var(--accent)" : "var(--bar)"}
            />
            <text
              x={at + width / 2}
              y={y(rep.counts_mps) - 5}
              fontSize="19"
              fontWeight="600"
              textAnchor="middle"
              fill="var(--bs-body-color)"
              fontFamily="Barlow Condensed"
            >
              {rep.counts_mps.toFixed(2)}
            </text>
            <text x={at + width / 2} y={BASE + 17} fontSize="13" textAnchor="middle" fill="var(--soft)">
              {i + 1}
            </text>
          </g>
        );
      })}
      {last ? (
        <g>
          <path d={`M0 ${y(last.stop_mps)}H${W}`} stroke="var(--clay)" strokeWidth="2" strokeDasharray="6 4" />
          <text x={W - 4} y={y(last.stop_mps) + 16} fontSize="14" fontWeight="600" textAnchor="end" fill="var(--clay)">
            stop {last.stop_mps.toFixed(2)}
          </text>
        </g>
      ) : (
        planned !== null && (
          <text x={W - 4} y={BASE + 17} fontSize="14" textAnchor="end" fill="var(--clay)">
            velocity stop: {planned} % under the fastest rep
          </text>
        )
      )}
    </svg>
  );
}
