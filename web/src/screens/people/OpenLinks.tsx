import { useQuery, useQueryClient } from "@tanstack/react-query";

import { api, need } from "../../api/client";
import { keys } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { moment } from "../../parts/dates";
import { Failed, Trouble } from "../../parts/states";

/** The links that open something now: who made each, and how long it is good. */
export function OpenLinks() {
  const client = useQueryClient();
  const links = useQuery({ queryKey: keys.links, queryFn: () => need(api.GET("/api/links")) });
  const end = useAction((id: number) => need(api.POST("/api/links/{link_id}/end", { params: { path: { link_id: id } } })), {
    after: (_, fresh) => client.setQueryData(keys.links, fresh),
  });
  if (links.isLoadingError) return <Failed error={links.error} again={() => void links.refetch()} />;
  return (
    <section aria-label="Open links">
      <h2>Open links</h2>
      <p className="soft">Whoever has one of these addresses needs no password for what it opens.</p>
      {end.problem && <Trouble problem={end.problem} />}
      {links.data?.length === 0 && <p className="soft">None is open.</p>}
      {(links.data?.length ?? 0) > 0 && (
        <div className="sheet">
          <table className="board">
            <thead>
              <tr>
                <th>Opens</th>
                <th>Made by</th>
                <th>Good until</th>
                <th>
                  <span className="visually-hidden">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {links.data?.map((l) => (
                <tr key={l.id}>
                  <td>{l.words}</td>
                  <td>{l.maker || "–"}</td>
                  <td className="nowrap">{moment(l.until)}</td>
                  <td className="right">
                    <button
                      type="button"
                      className="btn btn-plain btn-sm"
                      aria-label={`End the link: ${l.words}`}
                      onClick={() => end.run(l.id)}
                    >
                      End
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
