import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { keep, keys } from "../../api/keys";
import { send } from "../../api/outbox";
import { typedNumber, typedNumbers } from "../../logic/numbers";
import { clock, kg, longDay } from "../../parts/dates";
import { Plates } from "../../parts/Plates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { LadderPlot } from "./LadderPlot";
import { RestPlot } from "./RestPlot";
import { NumberField } from "../../parts/NumberField";
import { TrialSensor, useMeasured } from "./TrialSensor";

type Trial = Schemas["TrialOut"];
type Act = (path: string, body: unknown) => Promise<unknown>;

/** A trial as it runs: what to do now, what the tries say so far, and what would be kept. */
export default function TrialScreen() {
  const id = Number(useParams().id);
  const client = useQueryClient();
  const key = keys.trial(id);
  const trial = useQuery({ queryKey: key, queryFn: () => need(api.GET("/api/trials/{trial_id}", { params: { path: { trial_id: id } } })) });
  const [problem, setProblem] = useState<Problem | null>(null);
  const measured = useMeasured(id, trial.data !== undefined && !trial.data.ended);
  if (trial.isPending) return <Loading what="the trial" />;
  if (trial.isLoadingError) return <Failed error={trial.error} again={() => void trial.refetch()} />;
  const t = trial.data;
  const act: Act = (path, body) => {
    setProblem(null);
    return send<Trial>(`/api/trials/${id}/${path}`, body)
      .then((fresh) => {
        keep(client, key, fresh);
        void client.invalidateQueries({ queryKey: keys.trials(fresh.athlete_id) });
        void client.invalidateQueries({ queryKey: keys.measured(id) });
      })
      .catch((e: unknown) => {
        setProblem(problemOf(e));
        throw e;
      });
  };
  const quiet = (path: string, body: unknown) => void act(path, body).catch(() => undefined);
  return (
    <div className="page">
      <div className="d-flex flex-wrap align-items-end gap-3 mb-2">
        <div>
          <h1>
            {t.exercise} · {t.name}
          </h1>
          <p className="soft m-0">
            {t.athlete_name} · {longDay(t.day)} · {t.how}
            {t.target_mps !== null && ` · at ${t.target_mps.toFixed(2)} ${t.velocity_words}`}
            {t.record_words && ` · record ${t.record_words}`}
            {t.heavy_set && ` · ${t.heavy_set}`}
          </p>
        </div>
        <div className="ms-auto d-flex gap-2 align-items-end">
          {!t.ended && <TrialSensor trial={id} measured={measured} />}
          {!t.ended && (
            <Button variant="plain" className="tap" disabled={t.tries.length === 0} onClick={() => quiet("undo", {})}>
              Undo
            </Button>
          )}
          <Link className="btn btn-plain tap d-inline-flex align-items-center" to={`/athletes/${t.athlete_id}/trials`}>
            All trials
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
          {!t.ended && !t.is_over && (t.kind === "ladder" || t.kind === "single") && (
            <LoadTry key={t.tries.length} t={t} act={act} seen={measured?.velocities_mps ?? []} />
          )}
          {!t.ended && t.kind === "rest" && t.next_rest_s !== null && (
            <RestTry key={t.tries.length} t={t} act={act} seen={measured?.heights_cm ?? []} />
          )}
          {!t.ended && t.kind === "reps" && <JumpTry key={t.tries.length} t={t} act={act} rest={null} seen={measured?.heights_cm ?? []} />}
          <section className="sheet pad mb-3" aria-label="So far">
            <div className="says advice">
              {t.ended ? t.outcome : t.sentence}{" "}
              <Working data={t.working} label="why: show the working">
                why
              </Working>
            </div>
            {t.kind === "ladder" && <LadderPlot t={t} />}
            {t.kind === "rest" && t.windows.length > 0 && <RestPlot t={t} />}
            {t.kind === "reps" && t.means_cm.length > 0 && (
              <p className="num fs-4 mt-2 mb-0">
                {t.means_cm.map((m, i) => (
                  <span key={i} className={t.kept_reps !== null && i >= t.kept_reps ? "soft" : "fw-semibold"}>
                    {m.toFixed(1)}
                    {i < t.means_cm.length - 1 && " · "}
                  </span>
                ))}{" "}
                <span className="soft fs-6">cm, mean of each jump of the set</span>
              </p>
            )}
          </section>
          {!t.ended && (t.is_over || (t.kind === "reps" && t.kept_reps !== null)) && (
            <div className="d-flex flex-wrap gap-2">
              <Button className="go px-4" onClick={() => quiet("end", { keep: true })}>
                {t.kept_words ? `Save ${t.kept_words}` : "End it"}
              </Button>
              {t.kept_words && (
                <Button variant="plain" className="tap px-3" onClick={() => quiet("end", { keep: false })}>
                  End without keeping
                </Button>
              )}
            </div>
          )}
        </div>
        <Beside t={t} onStop={() => quiet("end", { keep: t.kind === "ladder" || t.kind === "single" })} />
      </div>
    </div>
  );
}

/** What to bear in mind, and the tries so far. */
function Beside({ t, onStop }: { t: Trial; onStop: () => void }) {
  return (
    <aside aria-label="Beside the trial">
      <div className="note">
        <b>Bear in mind.</b> {t.caution}
      </div>
      <h2>Done</h2>
      {t.tries.length === 0 && <p className="soft">Nothing yet.</p>}
      <ol className="list-unstyled">
        {t.tries.map((x) => (
          <li key={x.number} className="border-bottom py-1">
            {x.load_words && <b className="num">{x.load_words}</b>}
            {x.velocity_mps !== null && <span className="num"> · {x.velocity_mps.toFixed(2)}</span>}
            {x.rest_s !== null && <b>{x.rest_s === 0 ? "baseline" : `rest ${clock(x.rest_s)}`}</b>}
            {x.heights_cm.length > 0 && <span className="num"> · {x.heights_cm.map((h) => h.toFixed(1)).join(" ")} cm</span>}
            {x.load_words && (
              <span className={x.passed ? "soft" : "clay"}> · {x.passed ? "pass" : x.form_held ? "under" : "technique broke"}</span>
            )}
          </li>
        ))}
      </ol>
      {!t.ended && !t.is_over && t.tries.length > 0 && (
        <Button variant="plain" className="tap" onClick={onStop}>
          Stop here
        </Button>
      )}
    </aside>
  );
}

function LoadTry({ t, act, seen }: { t: Trial; act: Act; seen: number[] }) {
  const [load, setLoad] = useState(kg(t.next_load));
  const [typed, setTyped] = useState<string | null>(null);
  const velocity = typed ?? (seen.length > 0 ? Math.max(...seen).toFixed(2) : "");
  const [changing, setChanging] = useState(false);
  const number = (text: string) => typedNumber(text) ?? 0;
  const save = (held: boolean) =>
    void act("tries", {
      number: t.tries.length + 1,
      load: number(load),
      velocity_mps: t.asks_velocity ? number(velocity) : null,
      form_held: held,
    }).catch(() => undefined);
  return (
    <form
      className="sheet pad mb-3"
      aria-label="Next try"
      onSubmit={(e) => {
        e.preventDefault();
        save(true);
      }}
    >
      <div className="d-flex align-items-end gap-4 flex-wrap">
        <div className="big-kg">
          {kg(t.next_load)}
          <small>{t.unit} × 1</small>
        </div>
        <Plates perSide={t.next_per_side_kg} words={t.next_per_side_words} unit={t.unit} scale={1.5} />
        {t.confirm && <b className="clay">second repetition at this load</b>}
      </div>
      <div className="d-flex flex-wrap align-items-end gap-3 mt-3">
        {t.asks_velocity && (
          <NumberField
            label={`${t.velocity_words}`}
            width={130}
            isLarge
            className="fs-4"
            required
            autoFocus
            value={velocity}
            onChange={(e) => setTyped(e.target.value)}
          />
        )}
        {changing && (
          <NumberField label={`${t.unit} on the bar`} width={110} isLarge value={load} onChange={(e) => setLoad(e.target.value)} />
        )}
        <Button type="submit" className="go flex-grow-1">
          {t.asks_velocity ? "Log it" : `Good: ${load}`}
        </Button>
        <Button variant="plain" className="tap px-3" aria-expanded={changing} onClick={() => setChanging(!changing)}>
          Other load
        </Button>
        <Button variant="plain" className="tap px-3" disabled={t.asks_velocity && !velocity.trim()} onClick={() => save(false)}>
          Technique broke
        </Button>
      </div>
    </form>
  );
}

function RestTry({ t, act, seen }: { t: Trial; act: Act; seen: number[] }) {
  const rest = t.next_rest_s ?? 0;
  const [from, setFrom] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (from === null) return;
    const timer = setInterval(() => setNow(performance.now()), 100);
    return () => clearInterval(timer);
  }, [from]);
  const left = from === null ? rest : Math.max(0, rest - (now - from) / 1000);
  return (
    <section className="sheet pad mb-3" aria-label="Next round">
      <div className="d-flex align-items-end gap-4 flex-wrap">
        <div>
          <div className="soft">
            round {t.tries.length + 1} of {t.order.length}
          </div>
          <div className="big-kg">
            {rest === 0 ? "baseline" : clock(Math.ceil(left))}
            <small>
              {rest === 0 ? "no heavy set" : from === null ? "rest after the heavy set" : left > 0 ? "until the jumps" : "jump now"}
            </small>
          </div>
        </div>
        {rest > 0 && (
          <Button
            className="tap px-4"
            onClick={() => {
              setNow(performance.now());
              setFrom(performance.now());
            }}
          >
            {from === null ? "Heavy set done: start the rest" : "Start again"}
          </Button>
        )}
      </div>
      <JumpTry t={t} act={act} rest={rest} seen={seen} />
    </section>
  );
}

function JumpTry({ t, act, rest, seen }: { t: Trial; act: Act; rest: number | null; seen: number[] }) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? seen.map((h) => h.toFixed(1)).join(" ");
  const heights = typedNumbers(text);
  return (
    <form
      className={rest === null ? "sheet pad mb-3" : "mt-3"}
      aria-label="Jumps of this set"
      onSubmit={(e) => {
        e.preventDefault();
        void act("tries", { number: t.tries.length + 1, heights_cm: heights }).catch(() => undefined);
      }}
    >
      <div className="d-flex flex-wrap align-items-end gap-3">
        <label className="small flex-grow-1">
          Heights in cm, with spaces between
          <input
            className="form-control tap num fs-4"
            inputMode="decimal"
            required
            value={text}
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
        <Button type="submit" className="go px-4">
          Log {heights.length || ""} {heights.length === 1 ? "jump" : "jumps"}
        </Button>
      </div>
    </form>
  );
}
