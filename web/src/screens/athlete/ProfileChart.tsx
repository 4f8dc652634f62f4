import { scaleLinear } from "d3-scale";

import type { Schemas } from "../../api/client";
import { dayMonth } from "../../parts/dates";

const W = 400;
const H = 240;
const PAD = { left: 38, right: 12, top: 14, bottom: 34 };

export function ProfileChart({ lift }: { lift: Schemas["LiftOut"] }) {
  const { unit } = lift;
  const profile = lift.profile;
  if (!profile) {
    return (
      <div className="sheet pad h-100">
        <h2>Load and velocity</h2>
        <p className="soft m-0">No velocities in the last eight weeks. Four loads with a bar sensor, light to heavy, give the line.</p>
      </div>
    );
  }
  const loads = profile.points.map((p) => p.load);
  const speeds = profile.points.map((p) => p.velocity_mps);
  const atMax = profile.load_at_max;
  const x = scaleLinear([Math.min(...loads) * 0.9, Math.max(...loads, atMax ?? 0) * 1.04], [PAD.left, W - PAD.right]).nice(5);
  const y = scaleLinear([0, Math.max(...speeds) * 1.1], [H - PAD.bottom, PAD.top]).nice(5);
  const upper = profile.band.map((b) => `${x(b.load)} ${y(b.high_mps)}`);
  const lower = profile.band.map((b) => `${x(b.load)} ${y(b.low_mps)}`).reverse();
  const line = (l: number) => profile.intercept_mps + profile.slope * l;
  const [from, to] = [Math.min(...loads), Math.max(...loads, atMax ?? 0)];
  const days = profile.points.map((p) => p.day).sort();
  return (
    <figure className="sheet pad m-0 h-100">
      <h2>Load and velocity</h2>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label={`${profile.points.length} points, R squared ${profile.r_squared.toFixed(2)}`}
      >
        {y.ticks(5).map((t) => (
          <g key={t}>
            <path d={`M${PAD.left} ${y(t)}H${W - PAD.right}`} stroke="var(--rule)" />
            <text x={PAD.left - 6} y={y(t) + 4} textAnchor="end" fontSize="12" fill="var(--soft)">
              {t.toFixed(1)}
            </text>
          </g>
        ))}
        {x.ticks(6).map((t) => (
          <text key={t} x={x(t)} y={H - 16} textAnchor="middle" fontSize="12" fill="var(--soft)">
            {t}
          </text>
        ))}
        <text x={W - PAD.right} y={H - 2} textAnchor="end" fontSize="11" fill="var(--soft)">
          {unit}
        </text>
        <text x={PAD.left + 4} y={11} fontSize="11" fill="var(--soft)">
          {profile.unit}
        </text>
        <path d={`M${[...upper, ...lower].join("L")}Z`} fill="var(--accent)" opacity="0.12" />
        <path d={`M${x(from)} ${y(line(from))}L${x(to)} ${y(line(to))}`} stroke="var(--accent)" strokeWidth="2" />
        {profile.max_mps !== null && atMax !== null && (
          <g>
            <path d={`M${PAD.left} ${y(profile.max_mps)}H${W - PAD.right}`} stroke="var(--clay)" strokeDasharray="6 4" />
            <text x={PAD.left + 4} y={y(profile.max_mps) - 4} fontSize="11.5" fill="var(--clay)">
              velocity at 1RM {profile.max_mps.toFixed(2)}
            </text>
          </g>
        )}
        {profile.points.map((p, i) => (
          <circle key={i} cx={x(p.load)} cy={y(p.velocity_mps)} r="3" fill="var(--accent)">
            <title>{`${dayMonth(p.day)}: ${p.load} ${unit} at ${p.velocity_mps.toFixed(2)}`}</title>
          </circle>
        ))}
      </svg>
      <figcaption className="small soft">
        {profile.points.length} best reps, {dayMonth(days[0] ?? "")} to {dayMonth(days.at(-1) ?? "")} · R² {profile.r_squared.toFixed(2)} ·
        ±{profile.error_mps.toFixed(2)} m/s.{" "}
        {profile.quality.length
          ? `Not yet sound: ${profile.quality.join("; ")}.`
          : "Sound enough to set loads. Profiles tend to read high."}{" "}
        {profile.definition && `Mean velocity ${profile.definition}.`} {profile.waiting && `To know: ${profile.waiting}.`}
      </figcaption>
    </figure>
  );
}
