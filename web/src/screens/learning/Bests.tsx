import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link } from "react-router";

import { api, need } from "../../api/client";
import { keys } from "../../api/keys";
import { shortDay } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";

const SHOWN = 8;

/** What went beyond everything before in the weeks shown, the newest first. */
export function Bests({ whose, id, group, weeks }: { whose: string; id: number; group: string; weeks: number }) {
  const [all, setAll] = useState(false);
  const bests = useQuery({
    queryKey: keys.bests(whose, id, group, weeks),
    queryFn: () => need(api.GET("/api/learning/{whose}/{pk}/bests", { params: { path: { whose, pk: id }, query: { weeks, group } } })),
  });
  if (bests.isPending) return <Loading what="the bests" />;
  if (bests.isLoadingError) return <Failed error={bests.error} again={() => void bests.refetch()} />;
  const { count, bests: rows } = bests.data;
  const shown = all ? rows : rows.slice(0, SHOWN);
  return (
    <section className="sheet mb-3" aria-label="Bests">
      <h2 className="pad pb-0 mb-1">Bests of these weeks</h2>
      {count === 0 ? (
        <p className="soft pad pt-0 m-0">
          No set went beyond what was done before. A first result is none: it is what the next is held against.
        </p>
      ) : (
        <div className="scroll-x">
          <table className="board">
            <thead>
              <tr>
                {whose === "squad" && <th>Athlete</th>}
                <th>Exercise</th>
                <th>Best</th>
                <th>Day</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((b) => (
                <tr key={`${b.athlete_id} ${b.exercise} ${b.ref} ${b.words}`}>
                  {whose === "squad" && (
                    <td>
                      <Link to={`/learning/athlete/${b.athlete_id}`}>{b.athlete}</Link>
                    </td>
                  )}
                  <td>{b.exercise}</td>
                  <td className="num">{b.words}</td>
                  <td className="num text-nowrap">{shortDay(b.day)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {rows.length > SHOWN && (
        <Button variant="link" className="pad" onClick={() => setAll(!all)} aria-expanded={all}>
          {all ? `The newest ${SHOWN}` : `All ${rows.length}`}
          {all && count > rows.length && `, of ${count}`}
        </Button>
      )}
    </section>
  );
}
