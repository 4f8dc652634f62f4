import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { shortDay } from "../../parts/dates";
import { Trouble } from "../../parts/states";

type Learning = Schemas["LearningOut"];
type Row = Schemas["MissedSessionOut"];

/** Sessions that were missed or made easier, each with its reason, and the reasons counted. */
export function Missed({ learning: l, weeks }: { learning: Learning; weeks: number }) {
  const say = useAction(
    (to: { row: Row; reason: string }) =>
      need(
        api.PUT("/api/athletes/{athlete_id}/missed/{day}/{key}", {
          params: { path: { athlete_id: to.row.athlete_id, day: to.row.day, key: to.row.key } },
          body: { reason: to.reason, note: "", weeks },
        }),
      ),
    { after: (client) => stale.afterLearning(client) },
  );
  if (l.missed.length + l.easier.length === 0) return null;
  return (
    <section className="sheet mb-3" aria-label="Missed and made easier">
      <h2 className="pad pb-0 mb-1">Missed and made easier</h2>
      <p className="soft pad py-0 mb-1">{l.reasons.map((r) => `${r.count} × ${r.words}`).join(" · ")}</p>
      {say.problem && <Trouble problem={say.problem} />}
      <div className="scroll-x">
        <table className="board">
          <thead>
            <tr>
              <th>Day</th>
              {l.whose === "squad" && <th>Who</th>}
              <th>Session</th>
              <th>What</th>
              <th>Why</th>
            </tr>
          </thead>
          <tbody>
            {[...l.missed, ...l.easier].map((m) => (
              <tr key={`${m.athlete_id}-${m.day}-${m.key}`}>
                <td className="text-nowrap">{shortDay(m.day)}</td>
                {l.whose === "squad" && (
                  <td>
                    <Link to={`/learning/athlete/${m.athlete_id}`}>{m.athlete}</Link>
                  </td>
                )}
                <td>
                  {m.key} · {m.theme}
                </td>
                <td>{m.plan ? `plan ${m.plan}` : "missed"}</td>
                <td>
                  {m.plan || !l.may_say ? (
                    m.reason || <span className="soft">no reason said</span>
                  ) : (
                    <Form.Select
                      size="sm"
                      style={{ minWidth: "11em" }}
                      aria-label={`Why ${m.athlete} missed ${m.key} on ${shortDay(m.day)}`}
                      value={m.reason_key}
                      disabled={say.isPending}
                      onChange={(e) => say.run({ row: m, reason: e.target.value })}
                    >
                      <option value="">no reason said</option>
                      {l.reason_choices.map((c) => (
                        <option key={c.key} value={c.key}>
                          {c.name}
                        </option>
                      ))}
                    </Form.Select>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
