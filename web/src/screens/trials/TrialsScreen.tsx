import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useNavigate, useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { send } from "../../api/outbox";
import { typedNumber } from "../../logic/numbers";
import { longDay } from "../../parts/dates";
import { Failed, Loading, Trouble } from "../../parts/states";
import { AthleteTabs } from "../athlete/AthleteTabs";
import { EffortTables } from "./EffortTables";
import { TestRows } from "./TestRows";
import { NumberField } from "../../parts/NumberField";
import { Needs } from "../../parts/Needs";

/** Ladders, singles, rest and jump tests of one athlete, what they left, and how velocity and effort go together. */
export default function TrialsScreen() {
  const id = Number(useParams().id);
  const trials = useQuery({
    queryKey: keys.trials(id),
    queryFn: () => need(api.GET("/api/athletes/{athlete_id}/trials", { params: { path: { athlete_id: id } } })),
  });
  if (trials.isPending) return <Loading what="the trials" />;
  if (trials.isLoadingError) return <Failed error={trials.error} again={() => void trials.refetch()} />;
  const t = trials.data;
  return (
    <div className="page">
      <h1>{t.athlete_name}</h1>
      <AthleteTabs id={id} />
      <p className="soft">
        Found on the floor, kept as the athlete's own. Maxes are tested <Link to={`/athletes/${id}/tests`}>under Tests</Link>.
      </p>
      <div className="row g-3">
        <div className="col-lg-6">
          <Needs may="plan">
            <Start id={id} kinds={t.kinds} unit={t.unit} />
          </Needs>
          <div className="mt-3">
            <TestRows tests={t.trials} caption="Tests so far" />
          </div>
        </div>
        <div className="col-lg-6">
          {t.kept.length > 0 && (
            <div className="sheet pad mb-3">
              <h2>Kept as their own</h2>
              <ul className="list-unstyled m-0">
                {t.kept.map((k) => (
                  <li key={`${k.kind}${k.exercise}`}>
                    {k.exercise}: <b className="num">{k.words}</b> <span className="soft">since {longDay(k.day)}</span>
                  </li>
                ))}
              </ul>
            </div>
          )}
          <EffortTables id={id} />
        </div>
      </div>
    </div>
  );
}

function Start({ id, kinds, unit }: { id: number; kinds: Schemas["TrialKindOut"][]; unit: string }) {
  const navigate = useNavigate();
  const [kind, setKind] = useState(kinds[0]?.kind ?? "ladder");
  const [lift, setLift] = useState("");
  const [typedTarget, setTarget] = useState<string | null>(null);
  const [most, setMost] = useState("");
  const [typedRests, setRests] = useState<string | null>(null);
  const [heavy, setHeavy] = useState("");
  const [rounds, setRounds] = useState("3");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const chosen = kinds.find((k) => k.kind === kind);
  const target = typedTarget ?? chosen?.usual_target_mps?.toFixed(2) ?? "";
  const rests = typedRests ?? chosen?.usual_rests_s.join(" ") ?? "";
  const number = typedNumber;
  function start() {
    setBusy(true);
    setProblem(null);
    const body = {
      kind,
      exercise_id: lift || chosen?.choices[0]?.id || "",
      target_mps: kind === "ladder" ? number(target) : null,
      set_most: number(most),
      rests_s:
        kind === "rest"
          ? rests
              .split(/[\s,;]+/)
              .filter(Boolean)
              .map(Number)
          : [],
      heavy_set: heavy,
      rounds: kind === "rest" ? (number(rounds) ?? 1) : 1,
    };
    send<Schemas["TrialOut"]>(`/api/athletes/${id}/trials`, body)
      .then((t) => void navigate(`/trials/${t.id}`))
      .catch((e: unknown) => setProblem(problemOf(e)))
      .finally(() => setBusy(false));
  }
  return (
    <form
      className="sheet pad"
      onSubmit={(e) => {
        e.preventDefault();
        start();
      }}
    >
      <h2>Start one</h2>
      <div className="d-flex flex-wrap gap-2 mb-2" role="group" aria-label="Which trial">
        {kinds.map((k) => (
          <Button
            key={k.kind}
            variant={k.kind === kind ? "primary" : "plain"}
            className="tap"
            aria-pressed={k.kind === kind}
            onClick={() => {
              setKind(k.kind);
              setLift("");
            }}
          >
            {k.name}
          </Button>
        ))}
      </div>
      <p className="soft">{chosen?.how}</p>
      <div className="d-flex flex-wrap gap-3 align-items-end">
        <label className="small">
          {kind === "rest" || kind === "reps" ? "Jump" : "Lift"}
          <select className="form-select tap" value={lift || chosen?.choices[0]?.id} onChange={(e) => setLift(e.target.value)}>
            {chosen?.choices.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
        {kind === "ladder" && (
          <NumberField label="Velocity, m/s" width={100} isLarge value={target} onChange={(e) => setTarget(e.target.value)} />
        )}
        {(kind === "ladder" || kind === "single") && (
          <NumberField label={`At most, ${unit}`} width={100} isLarge value={most} onChange={(e) => setMost(e.target.value)} />
        )}
        {kind === "rest" && (
          <>
            <label className="small">
              Rests, s
              <input className="form-control tap num" style={{ width: 220 }} value={rests} onChange={(e) => setRests(e.target.value)} />
            </label>
            <NumberField label="Rounds of each" width={110} isLarge isWhole value={rounds} onChange={(e) => setRounds(e.target.value)} />
            <label className="small flex-grow-1">
              Heavy set before each
              <input
                className="form-control tap"
                placeholder="back squat 2 @ 87 %"
                maxLength={80}
                value={heavy}
                onChange={(e) => setHeavy(e.target.value)}
              />
            </label>
          </>
        )}
        <Button type="submit" className="tap px-4" disabled={busy}>
          Start
        </Button>
      </div>
      {kind === "rest" && (
        <p className="soft small mt-2 mb-0">
          Three rounds of each show a gain of about 4 %. They may be spread over days: each day is held against its own baseline.
        </p>
      )}
      {problem && (
        <div className="mt-2">
          <Trouble problem={problem} />
        </div>
      )}
    </form>
  );
}
