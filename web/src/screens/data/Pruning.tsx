import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { firstProblem, useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { Failed, Loading, Trouble } from "../../parts/states";

type Upkeep = Schemas["UpkeepOut"];

/** What serves for a while only: how much there is, how long it is kept. */
export function Pruning() {
  const found = useQuery({ queryKey: keys.upkeep, queryFn: () => need(api.GET("/api/upkeep")) });
  if (found.isPending) return <Loading what="the size of the data" />;
  if (found.isLoadingError) return <Failed error={found.error} again={() => void found.refetch()} />;
  return <Kept key={found.data.days} upkeep={found.data} />;
}

function Kept({ upkeep: u }: { upkeep: Upkeep }) {
  const client = useQueryClient();
  const told = { after: (_: unknown, fresh: Upkeep) => client.setQueryData(keys.upkeep, fresh) };
  const [days, setDays] = useState(String(u.days));
  const set = useAction((n: number) => need(api.PUT("/api/upkeep/days", { body: { days: n } })), told);
  const away = useAction(() => need(api.POST("/api/upkeep/throw-away")), told);
  const problem = firstProblem(set, away);
  const served = u.passing.reduce((sum, p) => sum + p.served, 0);
  return (
    <section className="sheet pad my-3" aria-label="What is kept for a while only">
      <h2>Kept for a while only</h2>
      <p className="soft">
        The data take {u.database_mb.toLocaleString("en-GB")} MB. What is listed here serves for some days and is thrown away by itself
        every few minutes once it is older than that. Results, plans, sessions, sets and repetitions are never among it.
      </p>
      <table className="board mb-2">
        <thead>
          <tr>
            <th>What</th>
            <th className="right">Rows</th>
            <th className="right">Have served</th>
          </tr>
        </thead>
        <tbody>
          {u.passing.map((p) => (
            <tr key={p.key}>
              <td>{p.words}</td>
              <td className="right num">{p.rows.toLocaleString("en-GB")}</td>
              <td className="right num">{p.served.toLocaleString("en-GB")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <form
        className="d-flex flex-wrap align-items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          set.run(typedNumber(days) ?? 0);
        }}
      >
        <label>
          <span className="d-block small">Keep for, days</span>
          <input
            className="form-control"
            inputMode="numeric"
            style={{ width: 110 }}
            value={days}
            aria-describedby="kept-bounds"
            onChange={(e) => setDays(e.target.value)}
          />
        </label>
        <Button type="submit" variant="plain" disabled={set.isPending || days === String(u.days)}>
          Save
        </Button>
        <span className="soft small" id="kept-bounds">
          {u.least_days} to {u.most_days} days
        </span>
        <Button className="ms-auto" variant="plain" disabled={away.isPending || served === 0} onClick={() => away.run(undefined)}>
          {away.isPending ? "Throwing away …" : "Throw away what is older now"}
        </Button>
      </form>
      {problem && <Trouble problem={problem} />}
    </section>
  );
}
