import { useState } from "react";

import { api, need, type Schemas } from "../api/client";
import { useAction } from "../api/useAction";
import { dayMonth } from "./dates";
import { Trouble } from "./states";

/** A rise of a max that waits: what says so, what it may be, and the three answers. */
export function RiseAnswers({ rise, isShort = false }: { rise: Schemas["RiseOut"]; isShort?: boolean }) {
  const [on, setOn] = useState(rise.ask_again_on);
  const params = { path: { athlete_id: rise.athlete_id } };
  const decide = useAction((answer: "accept" | "refuse" | "later") =>
    need(
      api.POST("/api/athletes/{athlete_id}/max-decisions", {
        params,
        body: { exercise_id: rise.exercise_id, evidence: rise.evidence, answer, ask_again_on: answer === "later" ? on : null },
      }),
    ),
  );
  return (
    <div className="small">
      <p className="mb-1">
        {rise.words} {rise.why_asked} With it the max is {rise.would_be}.
        {rise.put_off_to && ` Asked again on ${dayMonth(rise.put_off_to)}.`}
      </p>
      {isShort ? (
        <details className="mb-1">
          <summary>What it may be</summary>
          <Readings words={rise.readings} />
        </details>
      ) : (
        <Readings words={rise.readings} />
      )}
      <div className="d-flex flex-wrap gap-2 align-items-center">
        <button type="button" className="btn btn-plain btn-sm" onClick={() => decide.run("accept")} disabled={decide.isPending}>
          Accept it
        </button>
        <button type="button" className="btn btn-plain btn-sm" onClick={() => decide.run("refuse")} disabled={decide.isPending}>
          Refuse it
        </button>
        <form
          className="d-flex gap-1 align-items-center"
          onSubmit={(e) => {
            e.preventDefault();
            decide.run("later");
          }}
        >
          <button type="submit" className="btn btn-plain btn-sm text-nowrap" disabled={decide.isPending}>
            Ask again on
          </button>
          <input
            type="date"
            className="form-control form-control-sm"
            aria-label={`Ask again on: ${rise.exercise}`}
            value={on}
            max={rise.ask_again_last}
            required
            onChange={(e) => setOn(e.target.value)}
          />
        </form>
      </div>
      {decide.problem && <Trouble problem={decide.problem} />}
    </div>
  );
}

function Readings({ words }: { words: string[] }) {
  return (
    <ul className="mb-1 ps-3">
      {words.map((w) => (
        <li key={w}>{w}</li>
      ))}
    </ul>
  );
}
