import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Form from "react-bootstrap/Form";
import { Link } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { dayMonth } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { LinesMoved } from "./LinesMoved";

interface Props {
  whose: string;
  id: number;
  /** A group of the squad, or nothing for all of it. */
  group: string;
  /** The first day of the weeks shown. */
  first: string;
}

/** Each lift's max on two days, and whether what lies between is more than noise: of an athlete, or of a squad lift by lift. */
export function Progress({ whose, id, group, first }: Props) {
  const [days, setDays] = useState<{ first?: string; last?: string }>({});
  const [lift, setLift] = useState("");
  const query = { first: days.first ?? first, last: days.last, group };
  const progress = useQuery({
    queryKey: keys.progress(whose, id, group, query.first, query.last ?? ""),
    queryFn: () => need(api.GET("/api/learning/{whose}/{pk}/progress", { params: { path: { whose, pk: id }, query } })),
    placeholderData: (before) => before,
  });
  if (progress.isPending) return <Loading what="the progress" />;
  const p = progress.data;
  const chosen = p?.lifts.find((x) => x.exercise_id === lift) ?? p?.lifts[0];
  return (
    <section className="sheet mb-3" aria-label="Progress">
      <div className="pad pb-1 d-flex flex-wrap align-items-end gap-3">
        <h2 className="me-auto mb-0">Two days beside each other</h2>
        {whose === "squad" && p && p.lifts.length > 0 && (
          <Form.Group controlId="progress-lift">
            <Form.Label className="small mb-0">Of what</Form.Label>
            <Form.Select size="sm" value={chosen?.exercise_id} onChange={(e) => setLift(e.target.value)}>
              {p.lifts.map((x) => (
                <option key={x.exercise_id} value={x.exercise_id}>
                  {x.exercise}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        <Day id="progress-first" label="From" day={query.first} of={p?.days} choose={(day) => setDays({ ...days, first: day })} />
        <Day
          id="progress-last"
          label="To"
          day={days.last ?? p?.last ?? ""}
          of={p?.days}
          choose={(day) => setDays({ ...days, last: day })}
        />
      </div>
      {progress.isLoadingError ? (
        <div className="pad">
          <Failed error={progress.error} again={() => void progress.refetch()} />
        </div>
      ) : !p || !chosen ? (
        <p className="soft pad pt-0 m-0">Nothing is known around both days.</p>
      ) : (
        <>
          <Table page={p} lifts={whose === "squad" ? [chosen] : p.lifts} isSquad={whose === "squad"} />
          <LinesMoved lines={p.lines} />
          <p className="soft small pad py-1 m-0">{p.rule}</p>
        </>
      )}
    </section>
  );
}

interface DayProps {
  id: string;
  label: string;
  day: string;
  /** The ends of phases, to choose from. */
  of: Schemas["SeasonDayOut"][] | undefined;
  choose: (day: string) => void;
}

/** A day by its date, or as the end of a phase. */
function Day({ id, label, day, of = [], choose }: DayProps) {
  const listed = of.some((d) => d.day === day);
  return (
    <div className="d-flex flex-column">
      <Form.Group controlId={id}>
        <Form.Label className="small mb-0">{label}</Form.Label>
        <Form.Control size="sm" type="date" value={day} onChange={(e) => e.target.value && choose(e.target.value)} />
      </Form.Group>
      {of.length > 0 && (
        <Form.Select
          size="sm"
          className="mt-1"
          aria-label={`${label} the end of a phase`}
          value={listed ? day : ""}
          onChange={(e) => e.target.value && choose(e.target.value)}
        >
          <option value="">a day of one’s own</option>
          {of.map((d) => (
            <option key={d.day} value={d.day}>
              {d.words}
            </option>
          ))}
        </Form.Select>
      )}
    </div>
  );
}

function Table({ page, lifts, isSquad }: { page: Schemas["ProgressPageOut"]; lifts: Schemas["LiftProgressOut"][]; isSquad: boolean }) {
  return (
    <div className="scroll-x">
      <table className="board">
        <thead>
          <tr>
            <th>{isSquad ? "Athlete" : "Of what"}</th>
            <th>{dayMonth(page.first)}</th>
            <th>{dayMonth(page.last)}</th>
            <th>Change</th>
            <th>Matters from</th>
            <th>Beside its error</th>
          </tr>
        </thead>
        <tbody>
          {lifts.flatMap((x) =>
            x.rows.map((r) => (
              <tr key={`${x.exercise_id} ${r.athlete_id}`}>
                <td>{isSquad ? <Link to={`/learning/athlete/${r.athlete_id}`}>{r.athlete}</Link> : x.exercise}</td>
                <td className="num">{r.then}</td>
                <td className="num">{r.now}</td>
                <td className="num">
                  {r.change} <span className="soft">{r.share}</span>
                </td>
                <td className="num soft">{x.worthwhile || "–"}</td>
                <td className={r.is_more_than_noise ? "fw-semibold" : "soft"}>{r.words}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </div>
  );
}
