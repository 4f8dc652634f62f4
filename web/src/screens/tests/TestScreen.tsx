import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useParams } from "react-router";

import { api, need, type Problem, type Schemas } from "../../api/client";
import { useTest } from "../../api/hooks";
import { keys } from "../../api/keys";
import { useAction } from "../../api/useAction";
import { typedNumber } from "../../logic/numbers";
import { clock, longDay } from "../../parts/dates";
import { Plates } from "../../parts/Plates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Ladder } from "./Ladder";
import { NumberField } from "../../parts/NumberField";
import { TrialSensor, useMeasured } from "../trials/TrialSensor";

type Test = Schemas["TestOut"];
const FELT = [3, 4, 5, 6, 7, 8, 9, 10];

/** A guided test as it runs: the ladder of loads, what comes next and why, and one tap for what was done. */
export default function TestScreen() {
  const id = Number(useParams().id);
  const test = useTest(id);
  if (test.isPending) return <Loading what="the test" />;
  if (test.isLoadingError) return <Failed error={test.error} again={() => void test.refetch()} />;
  return <Running test={test.data} />;
}

function Running({ test: t }: { test: Test }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const measured = useMeasured(t.id, !t.ended && t.asks_velocity);
  const path = { params: { path: { test_id: t.id } } };
  const undo = useAction(() => need(api.POST("/api/tests/{test_id}/undo", path)), { say: setProblem });
  const end = useAction(() => need(api.POST("/api/tests/{test_id}/end", path)), { say: setProblem });
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>
            {t.exercise} · {t.name}
          </h1>
          <p className="soft m-0">
            {t.athlete_name} · {longDay(t.day)} · {t.how}
            {t.max_words && ` · e1RM ${t.max_words}`}
          </p>
        </div>
        <div className="ms-auto d-flex gap-2 align-items-end">
          {!t.ended && t.asks_velocity && <TrialSensor trial={t.id} measured={measured} />}
          {!t.ended && (
            <Button variant="plain" className="tap" disabled={t.attempts.length === 0} onClick={() => undo.run(undefined)}>
              Undo
            </Button>
          )}
          <Link className="btn btn-plain tap d-inline-flex align-items-center" to={`/athletes/${t.athlete_id}/tests`}>
            All tests
          </Link>
        </div>
      </div>
      {problem && (
        <div className="mb-2">
          <Trouble problem={problem} />
        </div>
      )}
      <div className="with-margin">
        <div>
          {t.next && !t.ended && (
            <Next key={t.attempts.length} test={t} step={t.next} seen={measured?.velocities_mps ?? []} onProblem={setProblem} />
          )}
          {t.result && !t.ended && (
            <section className="sheet pad mb-3">
              <div className="says advice">{t.result.words}</div>
              <div className="d-flex gap-2 mt-3">
                <Button className="go px-4" disabled={end.isPending} onClick={() => end.run(undefined)}>
                  {t.result.mark ? `Save as ${t.result.mark}` : "End the test"}
                </Button>
              </div>
              <p className="soft small mb-0 mt-2">A wrong tap can be undone until it is kept.</p>
            </section>
          )}
          {t.ended && (
            <section className="sheet pad mb-3">
              <div className="says advice">{t.outcome}</div>
              <p className="mb-0 mt-2">
                <Link to={`/athletes/${t.athlete_id}`}>See what it did to the max</Link>
              </p>
            </section>
          )}
          <div className="sheet pad">
            <h2>Ladder</h2>
            <Ladder test={t} />
          </div>
        </div>
        <aside aria-label="Beside the test">
          {t.asks_velocity && t.fit_words && (
            <div className="note asks">
              <b>{t.fit_words}</b> {t.fit.join("; ")}
            </div>
          )}
          <div className="note">
            <b>Bear in mind.</b> {t.caution}
          </div>
          {!t.ended && t.attempts.length > 0 && t.next && (
            <Button variant="plain" className="tap mb-3" disabled={end.isPending} onClick={() => end.run(undefined)}>
              Stop here
            </Button>
          )}
          <h2>Done</h2>
          {t.attempts.length === 0 && <p className="soft">Nothing yet.</p>}
          <ol className="list-unstyled">
            {t.attempts.map((a) => (
              <li key={a.number} className="border-bottom py-1">
                <b className="num">
                  {a.load} {t.unit} × {a.reps}
                </b>
                <span className="soft">
                  {a.felt !== null && ` · felt ${a.felt}`}
                  {a.velocity_mps !== null && ` · ${a.velocity_mps.toFixed(2)} m/s`}
                </span>
                {a.form_broke && <span className="clay"> · technique broke</span>}
                {a.missed && <span className="clay"> · missed</span>}
              </li>
            ))}
          </ol>
        </aside>
      </div>
    </div>
  );
}

interface Coming {
  test: Test;
  step: Schemas["StepOut"];
  /** what the test's sensor saw since the last set, in m/s */
  seen: number[];
  onProblem: (p: Problem | null) => void;
}

function Next({ test: t, step, seen, onProblem }: Coming) {
  const client = useQueryClient();
  const [felt, setFelt] = useState<number | null>(null);
  const [load, setLoad] = useState(step.load);
  const [reps, setReps] = useState(step.or_more ? "" : String(step.reps));
  const [typedVelocity, setVelocity] = useState<string | null>(null);
  const velocity = typedVelocity ?? (seen.length > 0 ? Math.max(...seen).toFixed(2) : "");
  const [changing, setChanging] = useState(false);
  const log = useAction(
    (body: Schemas["AttemptIn"]) => need(api.POST("/api/tests/{test_id}/attempts", { params: { path: { test_id: t.id } }, body })),
    { say: onProblem },
  );
  const number = (text: string) => typedNumber(text) ?? 0;

  function save(how: { form_broke?: boolean; missed?: boolean }) {
    const body: Schemas["AttemptIn"] = {
      number: t.attempts.length + 1,
      load: number(load),
      load_kg: 0,
      reps: how.missed ? 0 : number(reps),
      felt,
      form_broke: how.form_broke ?? false,
      missed: how.missed ?? false,
      velocity_mps: velocity.trim() ? number(velocity) : null,
    };
    log.run(body, () => void client.invalidateQueries({ queryKey: keys.measured(t.id) }));
  }

  const asksReps = step.or_more || changing;
  return (
    <section className="sheet pad mb-3" aria-label="Next set">
      <div className="d-flex align-items-end gap-4 flex-wrap">
        <div className="big-kg">
          {step.load}
          <small>
            {step.unit} × {step.reps}
            {step.or_more && " or more"}
          </small>
        </div>
        <Plates perSide={step.per_side_kg} words={step.per_side_words} unit={step.unit} scale={1.5} />
        <div className="ms-auto text-end">
          <div className="fw-semibold">{step.why}</div>
          <div className="soft">{step.rest_s > 0 ? `rest ${clock(step.rest_s)} before it` : "first set"}</div>
        </div>
      </div>
      <div className="d-flex flex-wrap align-items-end gap-3 mt-3">
        {t.asks_felt && (
          <div role="group" aria-label="Felt effort" className="d-flex flex-wrap align-items-center gap-1">
            <span className="soft me-1">felt, of 10</span>
            {FELT.map((value) => (
              <Button
                key={value}
                variant={felt === value ? "primary" : "plain"}
                className="tap"
                aria-pressed={felt === value}
                onClick={() => setFelt(felt === value ? null : value)}
              >
                {value}
              </Button>
            ))}
          </div>
        )}
        {t.asks_velocity && (
          <NumberField
            id="attempt-velocity"
            label="fastest rep, m/s"
            width={150}
            isLarge
            value={velocity}
            onChange={(e) => setVelocity(e.target.value)}
          />
        )}
        {asksReps && (
          <NumberField
            id="attempt-reps"
            label="reps with form"
            width={110}
            isLarge
            isWhole
            value={reps}
            onChange={(e) => setReps(e.target.value)}
          />
        )}
        {changing && (
          <NumberField id="attempt-load" label={step.unit} width={110} isLarge value={load} onChange={(e) => setLoad(e.target.value)} />
        )}
      </div>
      <div className="d-flex flex-wrap gap-2 mt-3">
        <Button className="go flex-grow-1" disabled={log.isPending || (asksReps && !reps.trim())} onClick={() => save({})}>
          {asksReps ? `Log ${load} × ${reps || "…"}` : `Done: ${step.load} × ${step.reps}`}
        </Button>
        <Button variant="plain" className="tap px-3" onClick={() => setChanging(!changing)} aria-expanded={changing}>
          Change
        </Button>
        <Button variant="plain" className="tap px-3" disabled={log.isPending} onClick={() => save({ form_broke: true })}>
          Technique broke
        </Button>
        <Button variant="plain" className="tap px-3" disabled={log.isPending} onClick={() => save({ missed: true })}>
          Missed
        </Button>
      </div>
    </section>
  );
}
