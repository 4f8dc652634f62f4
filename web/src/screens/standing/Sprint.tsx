import { scaleLinear } from "d3-scale";
import { useState } from "react";
import Form from "react-bootstrap/Form";

import { api, need, type Schemas } from "../../api/client";
import { useMe } from "../../api/hooks";
import { useAction } from "../../api/useAction";
import { dayYear } from "../../parts/dates";
import { Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";

type Run = Schemas["SprintOut"];
const W = 420;
const H = 170;
const PAD = { left: 34, right: 14, top: 12, bottom: 26 };

/** A sprint by its splits: the speed over the distance, how near the times lie to their curve, and a line to type the next run. */
export function Sprint({ id, run }: { id: number; run: Run | null }) {
  const today = useMe().data?.today ?? "";
  const [text, setText] = useState("");
  const [day, setDay] = useState("");
  const keep = useAction((body: Schemas["SplitsIn"]) =>
    need(api.POST("/api/athletes/{athlete_id}/splits", { params: { path: { athlete_id: id } }, body })),
  );
  return (
    <section className="sheet pad mb-3" aria-label="Sprint">
      <h2>Sprint</h2>
      {run ? <Curve run={run} /> : <p className="soft small mb-2">Three splits of one run and more give its curve.</p>}
      <form
        className="d-flex flex-wrap gap-2 align-items-end"
        aria-label="Splits of a run"
        onSubmit={(e) => {
          e.preventDefault();
          keep.run({ day: day || today, text }, () => setText(""));
        }}
      >
        <Form.Group controlId="splits-text" className="flex-grow-1">
          <Form.Label className="small mb-0">Metres and seconds from a standing start</Form.Label>
          <Form.Control size="sm" value={text} required placeholder="10 1.78, 20 3.02, 30 4.15" onChange={(e) => setText(e.target.value)} />
        </Form.Group>
        <Form.Group controlId="splits-day">
          <Form.Label className="small mb-0">Run on</Form.Label>
          <Form.Control size="sm" type="date" value={day || today} max={today} onChange={(e) => setDay(e.target.value)} />
        </Form.Group>
        <button type="submit" className="btn btn-plain btn-sm" disabled={keep.isPending}>
          Save the run
        </button>
      </form>
      {keep.problem && <Trouble problem={keep.problem} />}
    </section>
  );
}

function Curve({ run }: { run: Run }) {
  const far = run.curve.at(-1)?.distance_m ?? 0;
  const x = scaleLinear([0, far], [PAD.left, W - PAD.right]);
  const y = scaleLinear([0, run.vmax_mps * 1.08], [H - PAD.bottom, PAD.top]);
  const path = run.curve.map((p, i) => `${i ? "L" : "M"}${x(p.distance_m).toFixed(1)} ${y(p.speed_mps).toFixed(1)}`).join("");
  const words = run.splits.map((s) => `${s.distance_m} m in ${s.time_s.toFixed(2)} s`).join(", ");
  return (
    <>
      <p className={`mb-1 ${run.is_sure ? "" : "clay"}`}>
        <Working data={run.working} label={`Top speed ${run.vmax_mps.toFixed(2)} m/s, show the working`}>
          {run.vmax_mps.toFixed(2)} m/s
        </Working>{" "}
        <span className="small">
          {run.words} {dayYear(run.day)}.{!run.is_sure && ` Not sure: ${run.working.missing.join("; ")}.`}
        </span>
      </p>
      <svg viewBox={`0 0 ${W} ${H}`} width="100%" role="img" aria-label={`Speed over ${far.toFixed(0)} m: ${words}`}>
        {y.ticks(4).map((t) => (
          <g key={t}>
            <path d={`M${PAD.left} ${y(t)}H${W - PAD.right}`} stroke="var(--rule)" />
            <text x={PAD.left - 6} y={y(t) + 4} textAnchor="end" fontSize="12" fill="var(--soft)">
              {t}
            </text>
          </g>
        ))}
        <text x={PAD.left + 4} y={10} fontSize="11" fill="var(--soft)">
          m/s
        </text>
        <path d={`M${PAD.left} ${y(run.vmax_mps)}H${W - PAD.right}`} stroke="var(--accent)" strokeDasharray="4 3" />
        <path d={path} fill="none" stroke="var(--accent)" strokeWidth="2" />
        {run.splits.map((s) => (
          <g key={s.distance_m}>
            <path d={`M${x(s.distance_m)} ${H - PAD.bottom}v-6`} stroke="var(--clay)" strokeWidth="2" />
            <text x={x(s.distance_m)} y={H - 10} textAnchor="middle" fontSize="11.5" fill="var(--soft)">
              {s.distance_m} m
            </text>
          </g>
        ))}
      </svg>
      <p className="soft small mb-2">
        {run.splits.map((s) => `${s.distance_m} m ${s.time_s.toFixed(2)} s (curve ${s.curve_s.toFixed(2)})`).join(" · ")}
      </p>
    </>
  );
}
