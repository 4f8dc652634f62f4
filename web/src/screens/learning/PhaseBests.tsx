import { useQuery } from "@tanstack/react-query";

import { api, need } from "../../api/client";
import { keys } from "../../api/keys";
import { Failed, Loading } from "../../parts/states";

/** The best of each phase of this season, with that of the same phase a season before under it. */
export function PhaseBests({ id }: { id: number }) {
  const phases = useQuery({
    queryKey: keys.phases(id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/phase-bests", { params: { path: { athlete_id: id } } })),
  });
  if (phases.isPending) return <Loading what="the bests of each phase" />;
  if (phases.isLoadingError) return <Failed error={phases.error} again={() => void phases.refetch()} />;
  const p = phases.data;
  if (p.rows.length === 0) return null;
  return (
    <section className="sheet mb-3" aria-label="Bests by phase">
      <div className="pad pb-0">
        <h2 className="mb-0">Bests by phase</h2>
        <p className="soft small m-0">
          {p.has_before
            ? "This season; under it the same phase a season before."
            : "This season; there is no season before to compare with yet."}
        </p>
      </div>
      <div className="scroll-x">
        <table className="board">
          <thead>
            <tr>
              <th>Exercise</th>
              {p.phases.map((name) => (
                <th key={name}>{name}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {p.rows.map((r) => (
              <tr key={`${r.exercise} ${r.what}`}>
                <td>
                  {r.exercise} <span className="soft small">{r.what}</span>
                </td>
                {r.cells.map((c, n) => (
                  <td key={p.phases[n]} className="num text-nowrap">
                    {c.now || <span className="soft">–</span>}
                    {c.before && (
                      <div className="soft small">
                        <span className="visually-hidden">a season before: </span>
                        {c.before}
                      </div>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
