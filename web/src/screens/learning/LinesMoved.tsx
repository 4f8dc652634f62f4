import { scaleLinear } from "d3-scale";

import type { Schemas } from "../../api/client";
import { dayMonth } from "../../parts/dates";

type Moved = Schemas["LineMovedOut"];
const W = 300;
const H = 180;
const PAD = { left: 34, right: 10, top: 16, bottom: 30 };

/** How fast the same load moves on two days: the line then and now of each lift that has both. */
export function LinesMoved({ lines }: { lines: Moved[] }) {
  if (lines.length === 0) {
    return null;
  }
  return (
    <div className="pad pt-2 pb-1">
      <h3 className="h6 mb-1">The same load, faster or slower</h3>
      <div className="row gx-3" style={{ rowGap: 8 }}>
        {lines.map((x) => (
          <figure key={x.exercise_id} className="col-12 col-sm-6 col-lg-4 m-0">
            <figcaption className="small">
              <b>{x.exercise}</b> at {x.at}: {x.then} then, {x.now} now
              <br />
              <span className={x.is_more_than_noise ? "fw-semibold" : "soft"}>
                {x.change}, {x.words}
              </span>
            </figcaption>
            <TwoLines moved={x} />
          </figure>
        ))}
      </div>
    </div>
  );
}

function TwoLines({ moved }: { moved: Moved }) {
  const all = moved.lines.flatMap((l) => [...l.points, ...l.ends]);
  const loads = all.map((p) => p.load);
  const speeds = all.map((p) => p.velocity_mps);
  const x = scaleLinear([Math.min(...loads), Math.max(...loads)], [PAD.left, W - PAD.right]).nice(4);
  const y = scaleLinear([Math.min(...speeds), Math.max(...speeds)], [H - PAD.bottom, PAD.top]).nice(3);
  return (
    <svg viewBox={`0 0 ${W} ${H}`} width="100%" role="img" aria-label={`${moved.exercise}: ${moved.change}, ${moved.words}`}>
      {y.ticks(3).map((t) => (
        <g key={t}>
          <path d={`M${PAD.left} ${y(t)}H${W - PAD.right}`} stroke="var(--rule)" />
          <text x={PAD.left - 5} y={y(t) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
            {t.toFixed(1)}
          </text>
        </g>
      ))}
      {x.ticks(5).map((t) => (
        <text key={t} x={x(t)} y={H - 15} textAnchor="middle" fontSize="11" fill="var(--soft)">
          {t}
        </text>
      ))}
      <text x={W - PAD.right} y={H - 2} textAnchor="end" fontSize="11" fill="var(--soft)">
        {moved.unit}
      </text>
      <text x={PAD.left + 4} y={11} fontSize="11" fill="var(--soft)">
        m/s
      </text>
      {moved.lines.map((line, n) => (
        <text
          key={line.day}
          x={W - PAD.right}
          y={PAD.top + 4 + 14 * n}
          textAnchor="end"
          fontSize="11"
          fill={n === moved.lines.length - 1 ? "var(--accent)" : "var(--soft)"}
        >
          {n === moved.lines.length - 1 ? "● " : "○ "}to {dayMonth(line.day)}
        </text>
      ))}
      {moved.lines.map((line, n) => {
        const [from, to] = line.ends;
        const isNow = n === moved.lines.length - 1;
        if (!from || !to) {
          return null;
        }
        return (
          <g key={line.day} stroke={isNow ? "var(--accent)" : "var(--soft)"} fill={isNow ? "var(--accent)" : "none"}>
            <path
              d={`M${x(from.load)} ${y(from.velocity_mps)}L${x(to.load)} ${y(to.velocity_mps)}`}
              strokeWidth="2"
              strokeDasharray={isNow ? undefined : "5 4"}
            />
            {line.points.map((p, i) => (
              <circle key={i} cx={x(p.load)} cy={y(p.velocity_mps)} r="2.5" />
            ))}
          </g>
        );
      })}
    </svg>
  );
}
