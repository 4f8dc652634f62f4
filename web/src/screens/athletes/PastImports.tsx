import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, need, type Schemas } from "../../api/client";
import { keys, stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { moment } from "../../parts/dates";
import { Trouble } from "../../parts/states";

/** The tables taken in last: each can be taken back, as long as it stands. */
export function PastImports() {
  const client = useQueryClient();
  const imports = useQuery({ queryKey: keys.imports, queryFn: () => need(api.GET("/api/import/athletes")) });
  const [done, setDone] = useState<Schemas["TakenBackOut"] | null>(null);
  const undo = useAction((id: number) => need(api.POST("/api/import/athletes/{table_id}/undo", { params: { path: { table_id: id } } })), {
    after: (_, back) => {
      setDone(back);
      void stale.afterPlan(client);
    },
  });
  if (!imports.data || imports.data.length === 0) return null;
  return (
    <section className="sheet" aria-label="Tables taken in">
      <div className="pad">
        <h2 className="m-0">Tables taken in</h2>
        {undo.problem && <Trouble problem={undo.problem} />}
        {done && (
          <p className="says mb-0 mt-2" role="status">
            Taken back: {done.athletes} {done.athletes === 1 ? "athlete" : "athletes"}, {done.results}{" "}
            {done.results === 1 ? "result" : "results"}, {done.fields} filled-in {done.fields === 1 ? "value" : "values"}.
            {done.stay.length > 0 && ` ${done.stay.join(", ")} stay: something was done for them since.`}
          </p>
        )}
      </div>
      <table className="board">
        <caption className="visually-hidden">The last tables taken in</caption>
        <tbody>
          {imports.data.map((t) => (
            <tr key={t.id}>
              <td className="nowrap">{moment(t.at)}</td>
              <td>{t.words}</td>
              <td>{t.person}</td>
              <td className="right">
                {t.undone ? (
                  <span className="soft">taken back</span>
                ) : (
                  <button
                    type="button"
                    className="btn btn-plain btn-sm"
                    disabled={undo.isPending}
                    aria-label={`Undo: ${t.words}`}
                    onClick={() => undo.run(t.id)}
                  >
                    Undo
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
