import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { useParams } from "react-router";

import { api, need, problemOf, type Schemas } from "../../api/client";
import { useContest, useSeasonChange } from "../../api/hooks";
import { typedNumber } from "../../logic/numbers";
import { longDay, shortDay, toGo } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { SeasonTabs } from "../season/SeasonTabs";

type Contest = Schemas["ContestOut"];
type Row = { kind: string; name: string; contest_day: string; load: string };

/** What is contested, and the last hard work before it, worked back from the day. */
export default function ContestScreen() {
  const id = Number(useParams().id);
  const contest = useContest(id);
  if (contest.isPending) return <Loading what="the contest" />;
  if (contest.isError) {
    return (
      <div className="page">
        <SeasonTabs id={id} />
        <Failed error={contest.error} again={() => void contest.refetch()} />
      </div>
    );
  }
  const c = contest.data;
  return (
    <div className="page">
      <h1>
        {c.day ? (
          <>
            {c.competition}, {longDay(c.day)} · {toGo(c.days_to_go ?? 0)}
          </>
        ) : (
          `${c.athlete_name}: no main competition ahead`
        )}
      </h1>
      <SeasonTabs id={id} />
      {c.competition_id !== null && (
        <div className="with-margin">
          <div>
            <Exposures contest={c} />
            <Events key={JSON.stringify([c.events, c.weigh_in])} id={id} contest={c} competition={c.competition_id} />
          </div>
          <aside aria-label="Notes in the margin">
            {c.class_words && (
              <div className={c.class_is_far ? "note asks" : "note"}>
                <b>Body mass:</b> {c.class_words}
              </div>
            )}
            <div className="note">
              <b>{c.last_session}</b> Then travel and rest.
            </div>
            <div className="note">{c.dropped}</div>
            {c.after.map((words) => (
              <div className="note" key={words}>
                <b>Afterwards.</b> {words}
              </div>
            ))}
            <div className="note">
              <b>Rehearsing the order of the contest</b> is done by some schools and not by others: it is offered, not required.
            </div>
          </aside>
        </div>
      )}
    </div>
  );
}

function Exposures({ contest: c }: { contest: Contest }) {
  if (c.exposures.length === 0) {
    return <p className="sheet pad">Say below what is contested: the last hard exposures are worked back from the day.</p>;
  }
  return (
    <div className="sheet mb-3">
      <table className="board">
        <caption className="pad fw-semibold text-body" style={{ captionSide: "top" }}>
          Last hard exposures
        </caption>
        <thead>
          <tr>
            <th>Day</th>
            <th className="right">days before</th>
            <th>Event</th>
            <th>What</th>
            <th className="right">of the contest load or effort</th>
            <th>Instead, or beside it</th>
          </tr>
        </thead>
        <tbody>
          {c.exposures.map((e) => (
            <tr key={`${e.event}${e.what}`}>
              <td className="nowrap fw-semibold">
                {shortDay(e.day)}
                {e.first !== e.last && (
                  <div className="soft small fw-normal">
                    window {shortDay(e.first)} to {shortDay(e.last)}
                  </div>
                )}
              </td>
              <td className="right num">{e.days_out}</td>
              <td>{e.event}</td>
              <td>
                {e.what}
                {e.note && <div className="clay small">{e.note}</div>}
              </td>
              <td className="right nowrap num">
                {e.share_low === e.share_high ? e.share_low : `${e.share_low}–${e.share_high}`} %
                {e.low_kg !== null && <div className="soft small">{e.low_kg === e.high_kg ? e.low_kg : `${e.low_kg}–${e.high_kg}`} kg</div>}
              </td>
              <td className="small soft">{e.instead}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small pad mb-0">
        Common practice; days before are counted from the day of each event. Weekdays are those of the planned sessions.
      </p>
    </div>
  );
}

function Events({ id, contest: c, competition }: { id: number; contest: Contest; competition: number }) {
  const [rows, setRows] = useState<Row[]>(
    c.events.map((e) => ({
      kind: e.kind,
      name: e.name ?? "",
      contest_day: String((e.contest_day ?? 0) + 1),
      load: e.load_kg === null || e.load_kg === undefined ? "" : String(e.load_kg),
    })),
  );
  const [weighIn, setWeighIn] = useState(c.weigh_in ?? "");
  const save = useSeasonChange(id, (body: Schemas["ChangeCompetition"]) =>
    need(api.PATCH("/api/competitions/{competition_id}", { params: { path: { competition_id: competition } }, body })),
  );
  const change = (i: number, part: Partial<Row>) => setRows(rows.map((r, j) => (j === i ? { ...r, ...part } : r)));
  const number = (text: string) => typedNumber(text) ?? 0;
  return (
    <form
      className="sheet pad"
      aria-label="What is contested"
      onSubmit={(e) => {
        e.preventDefault();
        const events = rows.map((r) => ({
          kind: r.kind,
          name: r.name,
          contest_day: Math.max(0, Math.round(number(r.contest_day)) - 1),
          load_kg: r.load.trim() ? number(r.load) : null,
        }));
        save.mutate({ events, weigh_in: weighIn || null, scope: "athlete" });
      }}
    >
      <h2>What is contested</h2>
      {rows.map((r, i) => (
        <div key={i} className="d-flex flex-wrap gap-2 align-items-end mb-2">
          <Form.Group controlId={`event-kind-${i}`}>
            <Form.Label className="small mb-0">Event</Form.Label>
            <Form.Select size="sm" value={r.kind} onChange={(e) => change(i, { kind: e.target.value })}>
              {c.event_kinds.map((k) => (
                <option key={k.id} value={k.id}>
                  {k.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId={`event-name-${i}`}>
            <Form.Label className="small mb-0">Called</Form.Label>
            <Form.Control
              size="sm"
              value={r.name}
              maxLength={60}
              onChange={(e) => change(i, { name: e.target.value })}
              style={{ width: 150 }}
            />
          </Form.Group>
          <Form.Group controlId={`event-day-${i}`}>
            <Form.Label className="small mb-0">On day</Form.Label>
            <Form.Control
              size="sm"
              inputMode="numeric"
              value={r.contest_day}
              onChange={(e) => change(i, { contest_day: e.target.value })}
              style={{ width: 70 }}
            />
          </Form.Group>
          <Form.Group controlId={`event-load-${i}`}>
            <Form.Label className="small mb-0">Contest load, kg</Form.Label>
            <Form.Control
              size="sm"
              inputMode="decimal"
              value={r.load}
              onChange={(e) => change(i, { load: e.target.value })}
              style={{ width: 100 }}
            />
          </Form.Group>
          <Button size="sm" variant="plain" aria-label={`Take out: event ${i + 1}`} onClick={() => setRows(rows.filter((_, j) => j !== i))}>
            Take out
          </Button>
        </div>
      ))}
      <div className="d-flex flex-wrap gap-2 align-items-end">
        <Button
          size="sm"
          variant="plain"
          onClick={() => setRows([...rows, { kind: c.event_kinds[0]?.id ?? "", name: "", contest_day: "1", load: "" }])}
        >
          Add an event
        </Button>
        <Form.Group controlId="weigh-in">
          <Form.Label className="small mb-0">Weigh-in, if any</Form.Label>
          <Form.Control size="sm" type="date" value={weighIn} onChange={(e) => setWeighIn(e.target.value)} />
        </Form.Group>
        <Button size="sm" type="submit" disabled={save.isPending}>
          Work it back
        </Button>
      </div>
      {save.isError && (
        <div className="mt-2">
          <Trouble problem={problemOf(save.error)} />
        </div>
      )}
    </form>
  );
}
