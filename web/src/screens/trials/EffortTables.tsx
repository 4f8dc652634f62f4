import { useQuery } from "@tanstack/react-query";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Failed, Loading } from "../../parts/states";
import { counted } from "../../parts/counted";

type Table = Schemas["EffortTableOut"];

/** How fast the last repetition was at each felt effort: points, the fitted line, and what is missing before it counts. */
export function EffortTables({ id }: { id: number }) {
  const effort = useQuery({
    queryKey: keys.effort(id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/effort", { params: { path: { athlete_id: id } } })),
  });
  if (effort.isPending) return <Loading what="velocity and effort" />;
  if (effort.isLoadingError) return <Failed error={effort.error} again={() => void effort.refetch()} />;
  return (
    <div className="sheet pad">
      <h2>Last-rep velocity and effort</h2>
      {effort.data.length === 0 && (
        <p className="soft m-0">Sets with a sensor and the repetitions left in reserve build this table, one lift at a time.</p>
      )}
      {effort.data.slice(0, 4).map((t) => (
        <div key={t.exercise_id} className="mb-3">
          <div className="fw-semibold">
            {t.exercise}{" "}
            <span className="soft fw-normal">
              {counted(t.pairs.length, "set")}, ± {t.spread_mps.toFixed(2)} {t.velocity_words}
            </span>
          </div>
          <div className="d-flex gap-3 align-items-start">
            <EffortPlot table={t} />
            <table className="board" style={{ width: 150 }}>
              <thead>
                <tr>
                  <th>RPE</th>
                  <th className="right">m/s</th>
                </tr>
              </thead>
              <tbody>
                {t.rows.map((r) => (
                  <tr key={r.rpe}>
                    <td className="num">{r.rpe}</td>
                    <td className="num right">{r.velocity_mps.toFixed(2)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p className={`small m-0 ${t.is_open ? "soft" : "clay"}`}>
            {t.is_open
              ? "In use: it settles half a point and names effort that was said too low."
              : `Not in use yet: ${t.missing.join("; ")}.`}
          </p>
        </div>
      ))}
    </div>
  );
}

function EffortPlot({ table }: { table: Table }) {
  const [w, h, left, base] = [300, 150, 34, 124];
  const speeds = table.pairs.map((p) => p.velocity_mps);
  const top = Math.max(...speeds, 0.3) * 1.08;
  const low = Math.min(...speeds, 0.2) * 0.9;
  const x = (rpe: number) => left + ((rpe - 5) / 5) * (w - left - 10);
  const y = (v: number) => base - ((v - low) / (top - low)) * (base - 8);
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      width={300}
      role="img"
      aria-label={`${table.exercise}: ${table.rows.map((r) => `RPE ${r.rpe} at ${r.velocity_mps.toFixed(2)}`).join(", ")} m/s`}
    >
      <path d={`M${left} 6V${base}H${w - 6}`} fill="none" stroke="var(--plate-line)" />
      {[5, 6, 7, 8, 9, 10].map((r) => (
        <text key={r} x={x(r)} y={base + 15} fontSize="12" textAnchor="middle" fill="var(--soft)">
          {r}
        </text>
      ))}
      <text x={w - 6} y={base + 26} fontSize="12" textAnchor="end" fill="var(--soft)">
        RPE
      </text>
      {[low + (top - low) * 0.1, top * 0.97].map((v) => (
        <text key={v} x={left - 4} y={y(v) + 4} fontSize="12" textAnchor="end" fill="var(--soft)">
          {v.toFixed(2)}
        </text>
      ))}
      {table.pairs.map((p, i) => (
        <circle key={i} cx={x(p.rpe)} cy={y(p.velocity_mps)} r="3" fill="var(--bar)" />
      ))}
      <polyline
        points={table.rows.map((r) => `${x(r.rpe)},${y(r.velocity_mps)}`).join(" ")}
        fill="none"
        stroke="var(--accent)"
        strokeWidth="2"
      />
    </svg>
  );
}
