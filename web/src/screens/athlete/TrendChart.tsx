import { scaleLinear, scaleTime } from "d3-scale";

import type { Schemas } from "../../api/client";
import { dayMonth } from "../../parts/dates";

const W = 560;
const H = 240;
const PAD = { left: 40, right: 12, top: 14, bottom: 26 };

/** Marker of each kind of evidence: a shape with a word, never colour alone. */
const KINDS: Record<string, { word: string; draw: (x: number, y: number) => React.ReactNode }> = {
  one_rm: { word: "tested", draw: (x, y) => <rect x={x - 5} y={y - 5} width="10" height="10" fill="var(--clay)" /> },
  technical_max: {
    word: "technical",
    draw: (x, y) => <rect x={x - 4} y={y - 4} width="8" height="8" fill="none" stroke="var(--clay)" strokeWidth="2" />,
  },
  rep_max: { word: "rep-max", draw: (x, y) => <path d={`M${x} ${y - 6}l6 10h-12z`} fill="var(--accent)" /> },
  amrap: { word: "as many as possible", draw: (x, y) => <path d={`M${x} ${y + 6}l6 -10h-12z`} fill="var(--accent)" /> },
  set_rir: { word: "reps in reserve", draw: (x, y) => <circle cx={x} cy={y} r="3" fill="none" stroke="var(--soft)" strokeWidth="1.4" /> },
  velocity_max: {
    word: "velocity",
    draw: (x, y) => <path d={`M${x - 4} ${y}h8M${x} ${y - 4}v8`} stroke="var(--accent)" strokeWidth="1.8" />,
  },
};

export function TrendChart({ lift }: { lift: Schemas["LiftOut"] }) {
  const { unit } = lift;
  const points = lift.trend;
  const first = lift.line[0];
  const last = lift.line.at(-1);
  if (!first || !last) return null;
  const all = [...points.map((p) => p.load), ...lift.line.flatMap((p) => [p.load - p.error, p.load + p.error])];
  const start = points[0] && points[0].day < first.day ? points[0].day : first.day;
  const x = scaleTime([new Date(start), new Date(last.day)], [PAD.left, W - PAD.right]);
  const y = scaleLinear([Math.min(...all) * 0.96, Math.max(...all) * 1.03], [H - PAD.bottom, PAD.top]).nice(5);
  const at = (day: string) => x(new Date(day));
  const path = lift.line.map((p, i) => `${i ? "L" : "M"}${at(p.day).toFixed(1)} ${y(p.load).toFixed(1)}`).join("");
  const upper = lift.line.map((p) => `${at(p.day).toFixed(1)} ${y(p.load + p.error).toFixed(1)}`);
  const lower = lift.line.map((p) => `${at(p.day).toFixed(1)} ${y(p.load - p.error).toFixed(1)}`).reverse();
  const used = [...new Set(points.map((p) => p.kind))];
  return (
    <figure className="sheet pad m-0">
      <h2>{lift.exercise}: e1RM over time</h2>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label={`${lift.exercise}: ${points.length} marks, now ${lift.max} ${unit}`}
      >
        {y.ticks(5).map((t) => (
          <g key={t}>
            <path d={`M${PAD.left} ${y(t)}H${W - PAD.right}`} stroke="var(--rule)" />
            <text x={PAD.left - 6} y={y(t) + 4} textAnchor="end" fontSize="12" fill="var(--soft)">
              {t}
            </text>
          </g>
        ))}
        <text x={PAD.left + 4} y={10} fontSize="11" fill="var(--soft)">
          {unit}
        </text>
        {x.ticks(6).map((t) => (
          <text key={t.getTime()} x={x(t)} y={H - 8} textAnchor="middle" fontSize="11.5" fill="var(--soft)">
            {t.toLocaleDateString("en-GB", { month: "short", year: t.getMonth() === 0 ? "2-digit" : undefined })}
          </text>
        ))}
        <path d={`M${[...upper, ...lower].join("L")}Z`} fill="var(--accent)" opacity="0.12" />
        <path d={path} fill="none" stroke="var(--accent)" strokeWidth="2" />
        {points.map((p, i) => (
          <g key={i}>
            <title>{`${dayMonth(p.day)}: ${p.words}, ${p.load} ${unit}`}</title>
            {KINDS[p.kind]?.draw(at(p.day), y(p.load))}
          </g>
        ))}
      </svg>
      <figcaption className="small soft d-flex flex-wrap gap-3">
        {used.map((k) => (
          <span key={k}>
            <svg width="14" height="14" aria-hidden className="me-1">
              {KINDS[k]?.draw(7, 7)}
            </svg>
            {KINDS[k]?.word}
          </span>
        ))}
        <span>line and band: the estimate ± one error. It supports judgement.</span>
      </figcaption>
    </figure>
  );
}
