import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import Form from "react-bootstrap/Form";
import { Link, useParams } from "react-router";

import { api, need, type Schemas } from "../../api/client";
import { keep as keepAnswer, keys, stale } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { longDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";

type After = Schemas["AfterOut"];

/** A competition looked back on: results beside the forecast, what the taper was, what to keep and change. */
export default function AfterScreen() {
  const entry = Number(useParams().entry);
  const after = useQuery({
    queryKey: keys.after(entry),
    queryFn: () => need(api.GET("/api/competitions/{competition_id}/after", { params: { path: { competition_id: entry } } })),
  });
  if (after.isPending) return <Loading what="the competition" />;
  if (after.isLoadingError) return <Failed error={after.error} again={() => void after.refetch()} />;
  const a = after.data;
  return (
    <div className="page">
      <h1 className="mb-0">
        {a.is_over ? "After" : "Before"} {a.name}
      </h1>
      <p className="soft">
        <Link to={`/athletes/${a.athlete_id}`}>{a.athlete}</Link> · {longDay(a.day)}
        {!a.is_over && " · the forecast as it stands; results are written afterwards"}
      </p>
      <Result key={entry} after={a} />
    </div>
  );
}

function Result({ after: a }: { after: After }) {
  const [numbers, setNumbers] = useState(a.events.map((e) => (e.result === null ? "" : String(e.result))));
  const [place, setPlace] = useState(a.place);
  const [keep, setKeep] = useState(a.keep);
  const [change, setChange] = useState(a.change);
  const may = a.may_write && a.is_over;
  const write = useAction(
    (confirm: boolean) =>
      need(
        api.PUT("/api/competitions/{competition_id}/after", {
          params: { path: { competition_id: a.entry_id } },
          body: { events: numbers.map((n) => (n.trim() === "" ? null : typedNumber(n))), place, keep, change, confirm },
        }),
      ),
    {
      after: (client, out) => {
        keepAnswer(client, keys.after(a.entry_id), out);
        return stale.afterLearning(client);
      },
    },
  );
  return (
    <form
      className="sheet mb-3"
      aria-label="The result"
      onSubmit={(e) => {
        e.preventDefault();
        write.run(write.problem?.status === 428);
      }}
    >
      <Events after={a} may={may} numbers={numbers} onType={(at, text) => setNumbers(numbers.map((x, i) => (i === at ? text : x)))} />
      <div className="pad">
        {a.taper && <p>The way there: {a.taper}</p>}
        <div className="d-flex flex-wrap gap-3 align-items-end">
          <Words id="place" label="Place or score" value={place} onType={setPlace} may={may} most={60} hint="3rd of 14" />
          <Words id="keep" label="Keep for next time" value={keep} onType={setKeep} may={may} most={170} hint="openers two weeks out" />
          <Words
            id="change"
            label="Change for next time"
            value={change}
            onType={setChange}
            may={may}
            most={170}
            hint="two days less taper"
          />
          {may && (
            <Button type="submit" disabled={write.isPending}>
              {write.problem?.status === 428 ? "It is right, keep it" : a.is_written ? "Correct the result" : "Keep the result"}
            </Button>
          )}
        </div>
        {write.problem && <Trouble problem={write.problem} />}
        <p className="soft small mt-2 mb-0">
          {a.is_written && "Written. "}
          Loads stand among the results of their lift, so that the next season starts from them; what to keep and change stands under{" "}
          <Link to={`/learning/athlete/${a.athlete_id}`}>Learning</Link>.
        </p>
      </div>
    </form>
  );
}

interface EventsProps {
  after: After;
  may: boolean;
  numbers: string[];
  onType: (at: number, text: string) => void;
}

function Events({ after: a, may, numbers, onType }: EventsProps) {
  if (a.events.length === 0) {
    return (
      <p className="pad soft mb-0">
        This competition names no events with a number. <Link to={`/athletes/${a.athlete_id}/contest`}>Events</Link> are added before it.
      </p>
    );
  }
  return (
    <div className="scroll-x">
      <table className="board">
        <thead>
          <tr>
            <th>Event</th>
            <th>Forecast</th>
            <th>Result</th>
            <th>Beside the forecast</th>
          </tr>
        </thead>
        <tbody>
          {a.events.map((e, i) => (
            <tr key={i}>
              <td>
                <b>{e.name}</b>
                <div className="soft small">{e.exercise}</div>
              </td>
              <td className="num">
                {e.forecast ? (
                  <Working data={e.working}>{e.forecast}</Working>
                ) : (
                  <span className="soft">{e.is_by_load ? "no result known before" : "none for this event"}</span>
                )}
              </td>
              <td className="text-nowrap">
                {may ? (
                  <input
                    className="form-control form-control-sm d-inline-block"
                    style={{ width: 96 }}
                    inputMode="decimal"
                    aria-label={`Result of ${e.name}`}
                    aria-invalid={Number.isNaN(typedNumber(numbers[i] || "0")) || undefined}
                    value={numbers[i] ?? ""}
                    onChange={(event) => onType(i, event.target.value)}
                  />
                ) : (
                  (e.result ?? <span className="soft">–</span>)
                )}
                {e.is_by_load && <span className="soft"> {e.unit}</span>}
              </td>
              <td>{e.words || <span className="soft">–</span>}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface WordsProps {
  id: string;
  label: string;
  value: string;
  onType: (text: string) => void;
  may: boolean;
  most: number;
  hint: string;
}

function Words({ id, label, value, onType, may, most, hint }: WordsProps) {
  return (
    <Form.Group controlId={`after-${id}`} style={{ flex: `${most > 100 ? 3 : 1} 1 ${most > 100 ? 240 : 140}px` }}>
      <Form.Label className="small mb-0">{label}</Form.Label>
      <Form.Control
        size="sm"
        value={value}
        maxLength={most}
        placeholder={may ? hint : ""}
        readOnly={!may}
        onChange={(e) => onType(e.target.value)}
      />
    </Form.Group>
  );
}
