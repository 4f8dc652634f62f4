import { scaleLinear } from "d3-scale";
import { useState } from "react";

import type { Schemas } from "../../api/client";

type Week = Schemas["WeekDoneOut"];
type Measure = "main_sets" | "au" | "volume" | "contacts" | "sprint_m";
const NAMES: Record<Measure, string> = {
  main_sets: "Main sets",
  au: "Load, AU",
  volume: "Volume",
  contacts: "Foot contacts",
  sprint_m: "Sprint, m",
};
const W = 460;
const H = 190;
const FOOT = 22;

function of(week: Week, measure: Measure): { planned: number | null; done: number } {
  if (measure === "au") return { planned: week.planned_au, done: week.done_au };
  // loads of what was never started are not known: a planned volume would be a guess
  return { planned: measure === "volume" ? null : week.planned[measure], done: week.done[measure] };
}

/** Each week as two bars: what was planned, and what was done of it. */
export function DonePlanned({ learning: l }: { learning: Schemas["LearningOut"] }) {
  const [measure, setMeasure] = useState<Measure>("main_sets");
  const rows = l.weeks.map((w) => ({ week: w, ...of(w, measure) }));
  const most = Math.max(1, ...rows.flatMap((r) => [r.planned ?? 0, r.done]));
  const y = scaleLinear([0, most], [H - FOOT, 18]);
  const step = (W - 8) / rows.length;
  const wide = Math.min(34, step * 0.36);
  const words = l.weeks.filter((w) => w.words).map((w) => `${w.label}: ${w.words}`);
  return (
    <section className="sheet pad" aria-label="Planned and done">
      <div className="d-flex flex-wrap gap-2 align-items-baseline">
        <h2 className="me-auto">Planned and done, week by week</h2>
        <div className="d-flex flex-wrap gap-1" role="group" aria-label="What is counted">
          {(Object.keys(NAMES) as Measure[]).map((m) => (
            <button
              key={m}
              type="button"
              className={m === measure ? "btn btn-sm btn-secondary" : "btn btn-sm btn-plain"}
              aria-pressed={m === measure}
              onClick={() => setMeasure(m)}
            >
              {m === "volume" ? `Volume, ${l.mass_unit}` : NAMES[m]}
            </button>
          ))}
        </div>
      </div>
      <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={rows.map(said).join("; ")} style={{ width: "100%", display: "block" }}>
        {rows.map((r, i) => {
          const x = 4 + i * step + step / 2;
          return (
            <g key={r.week.monday}>
              {r.planned !== null && (
                <>
                  <rect className="bar-planned" x={x - wide - 1} y={y(r.planned)} width={wide} height={H - FOOT - y(r.planned)} />
                  {rows.length <= 12 && <Figure x={x - wide / 2 - 1} y={y(r.planned)} n={r.planned} />}
                </>
              )}
              <rect className="bar-done" x={x + 1} y={y(r.done)} width={wide} height={H - FOOT - y(r.done)} />
              {rows.length <= 12 && <Figure x={x + wide / 2 + 1} y={y(r.done)} n={r.done} strong />}
              {(rows.length <= 8 || i % 2 === 0) && (
                <text x={x} y={H - 6} fontSize="11" textAnchor="middle" fill="var(--soft)">
                  {r.week.label}
                </text>
              )}
            </g>
          );
        })}
        <path d={`M2 ${H - FOOT}H${W - 2}`} stroke="var(--plate-line)" />
      </svg>
      <p className="small m-0">
        <span className="key-planned" aria-hidden /> planned <span className="key-done ms-2" aria-hidden /> done
        {measure === "volume" && <span className="soft"> · only what was done: the loads of a session are set when it begins</span>}
      </p>
      {measure === "main_sets" && words.length > 0 && <p className="soft small mb-0 mt-1">{words.slice(-3).join(" ")}</p>}
    </section>
  );
}

function said(r: { week: Week; planned: number | null; done: number }): string {
  return `week of ${r.week.label}: ${r.planned === null ? "" : `${r.planned} planned, `}${r.done} done`;
}

function Figure({ x, y, n, strong = false }: { x: number; y: number; n: number; strong?: boolean }) {
  return (
    <text x={x} y={y - 4} fontSize="11" textAnchor="middle" fontWeight={strong ? 600 : 400} fill="var(--bs-body-color)">
      {n >= 10000 ? `${Math.round(n / 1000)}k` : n}
    </text>
  );
}
