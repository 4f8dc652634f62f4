import { useQuery } from "@tanstack/react-query";
import Form from "react-bootstrap/Form";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { shortDay } from "../../parts/dates";
import { Failed, Loading } from "../../parts/states";
import { WhoseSelect } from "../../parts/WhoseSelect";
import { Working } from "../../parts/Working";
import { Beside } from "./Beside";
import { Bests } from "./Bests";
import { DonePlanned } from "./DonePlanned";
import { Findings } from "./Findings";
import { LoadLines } from "./LoadLines";
import { Missed } from "./Missed";
import { PhaseBests } from "./PhaseBests";
import { Progress } from "./Progress";
import { WorkTable } from "./WorkTable";

const SPANS = [4, 8, 12, 26];

/** What the last weeks did and taught: of a squad or an athlete. */
export default function LearningScreen() {
  const { whose = "squad", id: raw } = useParams();
  const id = Number(raw);
  const [search, setSearch] = useSearchParams();
  const weeks = Number(search.get("weeks")) || 4;
  const group = search.get("group") ?? "";
  const choose = (to: Record<string, string>) => setSearch({ ...Object.fromEntries(search), ...to }, { replace: true });
  const go = useNavigate();
  const learning = useQuery({
    queryKey: keys.learning(whose, id, group, weeks),
    queryFn: () => need(api.GET("/api/learning/{whose}/{pk}", { params: { path: { whose, pk: id }, query: { weeks, group } } })),
    placeholderData: (before) => (before?.whose === whose && before.id === id ? before : undefined),
  });
  if (learning.isPending) return <Loading what="the last weeks" />;
  if (learning.isLoadingError) return <Failed error={learning.error} again={() => void learning.refetch()} />;
  const l = learning.data;
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-3">
        <div className="me-auto">
          <h1 className="mb-0">What the last {l.weeks_shown === 1 ? "week" : `${l.weeks_shown} weeks`} did and taught</h1>
          <p className="soft m-0">
            {l.name} · {l.headline}
          </p>
        </div>
        <WhoseSelect
          id="learning-of"
          value={`${whose}-${id}`}
          onChoose={(of) => void go(`/learning/${of.replace("-", "/")}${weeks === 4 ? "" : `?weeks=${weeks}`}`)}
        />
        {l.groups.length > 0 && (
          <Form.Group controlId="learning-group">
            <Form.Label className="small mb-0">Group</Form.Label>
            <Form.Select size="sm" value={l.group} onChange={(e) => choose({ group: e.target.value })}>
              <option value="">all of them</option>
              {l.groups.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        <Form.Group controlId="learning-weeks">
          <Form.Label className="small mb-0">Weeks</Form.Label>
          <Form.Select size="sm" value={weeks} onChange={(e) => choose({ weeks: e.target.value })}>
            {SPANS.map((n) => (
              <option key={n} value={n}>
                the last {n}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Link
          className="btn btn-plain btn-sm"
          to={`/report/${whose}/${id}?${new URLSearchParams({ weeks: String(weeks), ...(group ? { group } : {}) }).toString()}`}
        >
          Report
        </Link>
        {l.last_day && (
          <Link className="btn btn-plain btn-sm" to={`/learning/day/${l.last_day}`}>
            Day by day
          </Link>
        )}
      </div>
      <Contests contests={l.contests} isSquad={l.whose === "squad"} />
      <div className="learning-charts mb-3">
        <DonePlanned learning={l} />
        <Load learning={l} />
      </div>
      {l.weeks[0] && <Progress key={group} whose={whose} id={id} group={group} first={l.weeks[0].monday} />}
      <Beside key={`beside ${group}`} whose={whose} id={id} group={group} />
      <Bests whose={whose} id={id} group={group} weeks={weeks} />
      {whose === "athlete" && <PhaseBests id={id} />}
      <Findings whose={whose} id={id} />
      <Missed learning={l} weeks={weeks} />
      <WorkTable learning={l} />
    </div>
  );
}

/** Competitions that have been: whose result is written, and whose is missing. */
function Contests({ contests, isSquad }: { contests: Schemas["PastContestOut"][]; isSquad: boolean }) {
  if (contests.length === 0) return null;
  const names = [...new Set(contests.map((c) => c.name))];
  return (
    <section className="sheet pad mb-3" aria-label="Competitions that have been">
      {names.map((name) => {
        const of = contests.filter((c) => c.name === name);
        const missing = of.filter((c) => !c.is_written).length;
        const stands =
          missing === 0
            ? isSquad
              ? "every result is written"
              : "the result is written"
            : isSquad
              ? `results are missing for ${missing}`
              : "the result is missing";
        return (
          <p key={name} className="m-0">
            <b>After {name}</b>
            {of[0] && `, ${shortDay(of[0].day)}`}: {stands}.{" "}
            {of.map((c) => (
              <Link key={c.entry_id} className="me-2" to={`/athletes/${c.athlete_id}/after/${c.entry_id}`}>
                {isSquad ? `${c.athlete}${c.is_written ? "" : " …"}` : c.is_written ? "Look back" : "Write it"}
              </Link>
            ))}
          </p>
        );
      })}
    </section>
  );
}

function Load({ learning: l }: { learning: Schemas["LearningOut"] }) {
  return (
    <section className="sheet pad" aria-label="Training load">
      <h2>Load, session RPE × minutes</h2>
      {l.days.length > 0 ? <LoadLines days={l.days} /> : <p className="soft">No session has been done in these weeks.</p>}
      {l.load_words && (
        <p className="mb-1">
          <Working data={l.load_working}>{l.load_words}</Working> {l.apart_words}
        </p>
      )}
      {l.apart.length > 0 && (
        <ul className="small mb-1 ps-3">
          {l.apart.map((a) => (
            <li key={a.athlete_id}>
              <Link to={`/learning/athlete/${a.athlete_id}`}>{a.athlete}</Link>: {a.words}
            </li>
          ))}
        </ul>
      )}
      <p className="soft small m-0">
        {l.seed} {l.estimated > 0 && `${l.estimated} sessions lack effort or minutes: their load is worked out from their main sets. `}
        {l.caution}
      </p>
    </section>
  );
}
