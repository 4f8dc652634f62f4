import { scaleLinear } from "d3-scale";

import type { Schemas } from "../../api/client";
import { dayMonth } from "../../parts/dates";

type Chart = Schemas["ChartOut"];
type Series = Schemas["SeriesOut"];
const W = 400;
const H = 170;
const PAD = { left: 40, right: 8, top: 18, bottom: 22 };
const FOOT = H - PAD.bottom;

/** Bars of weeks, or points with their line and band, over named days; what they say stands under it. */
export function ReportChart({ chart }: { chart: Chart }) {
  const days = [...new Set(chart.series.flatMap((s) => s.points.map((p) => p.day)))].sort();
  const values = chart.series.flatMap((s) => s.points.flatMap((p) => [p.value, p.low ?? p.value, p.high ?? p.value]));
  const bars = chart.series.filter((s) => s.is_bars);
  const lowest = bars.length > 0 ? 0 : Math.min(...values) * 0.97;
  const y = scaleLinear([lowest, Math.max(1, Math.max(...values) * (bars.length > 0 ? 1 : 1.03))], [FOOT, PAD.top]);
  const slot = (W - PAD.left - PAD.right) / Math.max(1, days.length);
  const x = (day: string) => PAD.left + slot * (days.indexOf(day) + 0.5);
  const every = Math.ceil(days.length / 6);
  return (
    <figure className="m-0">
      <figcaption className="small fw-semibold">
        {chart.title}, {chart.unit}
        {bars.length > 1 && (
          <span className="fw-normal ms-2">
            <span className="key-planned" aria-hidden /> {bars[0]?.name} <span className="key-done ms-2" aria-hidden /> {bars[1]?.name}
          </span>
        )}
      </figcaption>
      <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={chart.sentence} style={{ width: "100%", display: "block" }}>
        {y.ticks(3).map((v) => (
          <g key={v}>
            <path d={`M${PAD.left} ${y(v)}H${W - PAD.right}`} stroke="var(--plate-line)" strokeDasharray="2 3" />
            <text x={PAD.left - 5} y={y(v) + 4} fontSize="11" textAnchor="end" fill="var(--soft)">
              {v}
            </text>
          </g>
        ))}
        {bars.map((s, n) => (
          <Bars key={s.name} series={s} at={n} of={bars.length} slot={slot} x={x} y={y} />
        ))}
        {chart.series
          .filter((s) => !s.is_bars)
          .map((s) => (
            <Line key={s.name} series={s} x={x} y={y} />
          ))}
        <path d={`M${PAD.left} ${PAD.top}V${FOOT}H${W - PAD.right}`} fill="none" stroke="var(--plate-line)" />
        {days.map((day, n) =>
          n % every === 0 ? (
            <text key={day} x={x(day)} y={H - 6} fontSize="11" textAnchor="middle" fill="var(--soft)">
              {dayMonth(day)}
            </text>
          ) : null,
        )}
      </svg>
      <p className="small m-0">{chart.sentence}</p>
    </figure>
  );
}

type Scale = (v: number) => number;

function Bars({
  series,
  at,
  of,
  slot,
  x,
  y,
}: {
  series: Series;
  at: number;
  of: number;
  slot: number;
  x: (d: string) => number;
  y: Scale;
}) {
  const wide = (0.7 * slot) / of;
  return (
    <>
      {series.points.map((p) => {
        const left = x(p.day) - 0.35 * slot + at * wide;
        return (
          <g key={p.day}>
            <rect
              className={at === of - 1 ? "bar-done" : "bar-planned"}
              x={left}
              y={y(p.value)}
              width={wide}
              height={Math.max(0, FOOT - y(p.value))}
            />
            {series.points.length <= 12 && (
              <text x={left + wide / 2} y={y(p.value) - 3} fontSize="10" textAnchor="middle" fill="var(--bs-body-color)">
                {p.value}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

function Line({ series, x, y }: { series: Series; x: (d: string) => number; y: Scale }) {
  const along = series.points.map((p) => `${x(p.day).toFixed(1)} ${y(p.value).toFixed(1)}`);
  const upper = series.points.flatMap((p) => (p.high === null ? [] : [`${x(p.day).toFixed(1)} ${y(p.high).toFixed(1)}`]));
  const lower = series.points.flatMap((p) => (p.low === null ? [] : [`${x(p.day).toFixed(1)} ${y(p.low).toFixed(1)}`])).reverse();
  const ends = [series.points[0], series.points.at(-1)].filter((p) => p !== undefined);
  return (
    <>
      {upper.length > 1 && <path d={`M${[...upper, ...lower].join("L")}Z`} fill="var(--bar)" opacity="0.5" />}
      {along.length > 1 && <path d={`M${along.join("L")}`} fill="none" stroke="var(--accent)" strokeWidth="2.5" />}
      {series.points.map((p) => (
        <circle key={p.day} cx={x(p.day)} cy={y(p.value)} r="3" fill="var(--accent)" />
      ))}
      {ends.map((p) => (
        <text key={p.day} x={x(p.day)} y={y(p.value) - 7} fontSize="11" textAnchor="middle" fill="var(--bs-body-color)">
          {Math.round(p.value)}
        </text>
      ))}
    </>
  );
}
