import { useQueryClient } from "@tanstack/react-query";
import { Fragment, useEffect, useRef, useState } from "react";
import Button from "react-bootstrap/Button";
import { Link, useNavigate, useParams } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import { stale } from "../../api/keys";
import { send } from "../../api/outbox";
import type { Floor, FloorLine, FloorSet, FloorStep } from "../../api/hooks";
import { clock, toCompetition } from "../../parts/dates";
import { Plates } from "../../parts/Plates";
import { isSeenOtherwise, SeenOtherwise } from "../../parts/SeenOtherwise";
import { Needs } from "../../parts/Needs";
import { Failed, Loading } from "../../parts/states";
import { Heard } from "../../parts/Unsent";
import { JustNow } from "../../parts/NewBest";
import { Working } from "../../parts/Working";
import { ClockFace } from "../room/ClockFace";
import { AdvicePanel } from "./AdvicePanel";
import { DoneSets } from "./DoneSets";
import { FinishPanel } from "./FinishPanel";
import { RepBars } from "./RepBars";
import { PainNotes } from "./PainNotes";
import { More } from "./More";
import { SetButtons } from "./SetButtons";
import { Coming, StartStepClock, StepHead, stepNow, StepWords } from "./Step";
import { Still } from "./Still";
import { LogTrouble } from "./TwoWords";
import { useOwnClock } from "./useOwnClock";
import { useFloor } from "./useFloor";
import { NO_ADVICE, useIsAhead, useWithWaiting } from "./waiting";

export default function FloorScreen() {
  const id = Number(useParams().id);
  const live = useFloor(id);
  const { floor } = live;
  const view = useWithWaiting(floor.data);
  if (floor.isPending) return <Loading what="the session" />;
  if (floor.isLoadingError) return <Failed error={floor.error} again={() => void floor.refetch()} />;
  return <FloorView id={id} floor={view ?? floor.data} live={live} />;
}

function useNow(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, []);
  return now;
}

export type Live = ReturnType<typeof useFloor>;

function FloorView({ id, floor, live }: { id: number; floor: Floor; live: Live }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [logged, setLogged] = useState<Schemas["LogSet"] | null>(null);
  const [finishing, setFinishing] = useState(false);
  const [busy, setBusy] = useState(0);
  const line = floor.lines.find((l) => l.id === floor.current?.line_id);
  const set = line?.sets.find((s) => s.kind === floor.current?.kind && s.number === floor.current.number);
  const step = stepNow(floor);
  const own = useOwnClock(id);
  const run = <T,>(work: Promise<T>) => {
    setProblem(null);
    setBusy((n) => n + 1);
    return work
      .catch((e: unknown) => {
        setProblem(problemOf(e));
        throw e;
      })
      .finally(() => setBusy((n) => n - 1));
  };
  const instead = (lineId: number, exerciseId: string) => run(live.write(`lines/${lineId}/instead`, { exercise_id: exerciseId }));
  const undo = () => void run(live.write("undo", {})).catch(() => undefined);
  async function finish(srpe: number | null, minutes: number | null) {
    await run(live.write("finish", { srpe, minutes }));
    void navigate(`/floor/${id}/review`);
    void stale.afterSession(client);
  }

  async function cancel(reason: string) {
    const was = await run(send<Schemas["CancelledOut"]>(`/api/floor/sessions/${id}/cancel`, { reason }));
    await stale.afterSession(client);
    void navigate(was.is_planned ? `/athletes/${was.athlete_id}/session/${was.day}/${was.key}` : "/floor");
  }

  return (
    <>
      <TopBar floor={floor} live={live} onUndo={undo} onFinish={() => setFinishing(true)} />
      <div className="floor">
        <Overview floor={floor} />
        <section className="floor-now" aria-label="This set">
          {problem && (
            <div className="mb-2">
              <LogTrouble
                problem={problem}
                mine={logged}
                onKeep={() => setProblem(null)}
                onMine={(body) => void run(live.write("sets/correct", body)).catch(() => undefined)}
              />
            </div>
          )}
          <div className="d-lg-none">
            <PainNotes floor={floor} onInstead={instead} />
          </div>
          {own.clock && !floor.finished && <ClockFace clock={own.clock} compact onAct={own.act} />}
          {floor.finished ? (
            <Finished id={id} />
          ) : finishing || !line || !set || !step ? (
            <FinishPanel
              floor={floor}
              allDone={!line}
              onFinish={(srpe, minutes) => void finish(srpe, minutes).catch(() => undefined)}
              onBack={() => setFinishing(false)}
              onCancel={(reason) => void cancel(reason).catch(() => undefined)}
              write={(path, body) => run(live.write(path, body))}
            />
          ) : (
            <NowPanel
              key={`${line.id}${set.kind}${set.number}`}
              floor={floor}
              line={line}
              set={set}
              step={step}
              onClock={own.clock ? null : own.start}
              live={live}
              run={run}
              onLog={(body) => {
                setLogged(body);
                return run(live.write("sets", body));
              }}
              busy={busy > 0}
              confirm={problem?.status === 428}
            />
          )}
        </section>
        <Side floor={floor} line={line} live={live} run={run} onInstead={instead} />
      </div>
    </>
  );
}

function Finished({ id }: { id: number }) {
  return (
    <div>
      <h1>This session is finished.</h1>
      <Link className="btn btn-primary tap" to={`/floor/${id}/review`}>
        Planned against done
      </Link>
    </div>
  );
}

interface TopBarProps {
  floor: Floor;
  live: Live;
  onUndo: () => void;
  onFinish: () => void;
}

function TopBar({ floor, live, onUndo, onFinish }: TopBarProps) {
  const now = useNow();
  const since = (iso: string) => (now - Date.parse(iso)) / 1000;
  const started = since(floor.started_at);
  const resting = floor.last_done_at ? since(floor.last_done_at) : null;
  const long = started > 4 * 3600;
  const waited = resting === null || long ? "" : resting > 1800 ? "over 30 min" : clock(resting);
  return (
    <div className="floor-bar">
      <span className="clock" aria-label="Session clock">
        {floor.finished || long ? "–" : clock(started)}
      </span>
      <span className="lab">
        of {floor.minutes_there} min
        <br />
        {floor.sets_left} work sets left
      </span>
      <span className="lab">
        since the last set
        <br />
        <b className="num" style={{ fontSize: "1.15rem" }}>
          {waited || "–"} {waited && floor.rest_s ? `of ${clock(floor.rest_s)} rest` : ""}
        </b>
      </span>
      <span className="lab">
        <b>{floor.athlete_name}</b>
        {floor.plan !== "A" && ` · plan ${floor.plan} today`}
        <br />
        {[floor.theme, floor.phase_name, floor.days_to_go === null ? "" : toCompetition(floor.days_to_go)].filter(Boolean).join(" · ")}
      </span>
      <span className="ms-auto d-flex gap-2 align-items-center">
        <Heard connected={live.connected} />
        <Button onClick={onUndo} disabled={floor.finished}>
          Undo
        </Button>
        <Button onClick={onFinish} disabled={floor.finished}>
          Finish
        </Button>
      </span>
    </div>
  );
}

/** What is there and what is left. A dot a set: done, now, to come; warm-up sets are small. */
function Overview({ floor }: { floor: Floor }) {
  const list = useRef<HTMLElement>(null);
  useEffect(() => {
    // the list alone is scrolled: on a phone, where it stands below, the set that is up stays in view
    const now = list.current?.querySelector<HTMLElement>("[aria-current]");
    if (now && list.current && list.current.scrollHeight > list.current.clientHeight) {
      list.current.scrollTop = now.offsetTop - list.current.offsetTop - list.current.clientHeight / 2;
    }
  }, [floor.current?.line_id]);
  return (
    <nav ref={list} className="floor-list" aria-label="The session" tabIndex={0}>
      {floor.lines.map((l, n) => {
        const now = l.id === floor.current?.line_id;
        const words = floor.block_words[l.block];
        const begins = words && floor.lines[n - 1]?.block !== l.block;
        const work = l.sets.filter((s) => s.kind === "work");
        const done = work.filter((s) => s.done).length;
        const skipped = work.filter((s) => s.skipped).length;
        const over = l.ended || work.every((s) => s.done || s.over);
        const result = work.find((s) => s.done?.result)?.done?.result;
        return (
          <Fragment key={l.id}>
            {begins && (
              <p className="block-words">
                {l.block} · {words}
              </p>
            )}
            <div className={`item${now ? " now" : ""}${over ? " past" : ""}`} aria-current={now ? "step" : undefined}>
              <div className="d-flex gap-2">
                <span className="num" style={{ width: 24 }}>
                  {l.slot}
                </span>
                <span className={now ? "fw-semibold" : undefined}>{l.exercise}</span>
              </div>
              <div className="small soft ps-4 ms-1">
                <span className="num">{l.text}</span>
                <br />
                <span className="dots" aria-hidden>
                  {l.sets.map((s) => (s.done ? (s.kind === "ramp" ? "•" : "●") : s.skipped ? "–" : s.kind === "ramp" ? "·" : "○")).join("")}
                </span>{" "}
                {result ||
                  (l.left_out
                    ? l.change
                    : l.ended_by && done < work.length
                      ? `away today: ${l.ended_by}`
                      : over && done + skipped < work.length
                        ? `stopped at ${done} of ${work.length}`
                        : `${done} of ${work.length}${skipped ? `, ${skipped} skipped` : ""}`)}
              </div>
            </div>
          </Fragment>
        );
      })}
    </nav>
  );
}

interface NowProps {
  floor: Floor;
  line: FloorLine;
  set: FloorSet;
  step: FloorStep;
  onClock: ((clock: Schemas["StepClockOut"]) => void) | null;
  live: Live;
  run: (work: Promise<unknown>) => Promise<unknown>;
  onLog: (body: Schemas["LogSet"]) => Promise<unknown>;
  busy: boolean;
  confirm: boolean;
}

function NowPanel({ floor, line, set, step, onClock, live, run, onLog, busy, confirm }: NowProps) {
  const [starting, setStarting] = useState(false);
  const measuring =
    live.sensor?.state === "on" &&
    live.sensor.line_id === line.id &&
    live.sensor.set_number === set.number &&
    live.sensor.kind === set.kind;
  const last = set.measured.at(-1);
  const amount = step.amount
    ? `× ${step.amount}`
    : set.seconds !== null
      ? `${set.seconds} s`
      : set.metres !== null
        ? `${set.metres} m`
        : `× ${set.reps ?? 1}${set.or_more ? "+" : ""}`;
  const simulate = () => {
    setStarting(true);
    void run(
      need(
        api.POST("/api/floor/sessions/{session_id}/simulate", {
          params: { path: { session_id: floor.id } },
          body: { line_id: line.id, kind: set.kind, number: set.number, rate_hz: 100 },
        }),
      ),
    )
      .catch(() => undefined)
      .finally(() => setStarting(false));
  };
  return (
    <>
      <StepHead floor={floor} step={step} slot={step.slots} />
      <h1 style={{ fontSize: "1.9rem" }}>{step.title}</h1>
      <p className="soft m-0">
        {line.text} · {line.cue.toLowerCase()}
        {line.note && <b className="d-block">{line.note}</b>}
        {line.learned.map((words) => (
          <b key={words} className="d-block">
            {words}
          </b>
        ))}
        {line.change && <span className="clay"> · today: {line.change}</span>}
      </p>
      <JustNow done={floor.just_done} />
      <div className="d-flex align-items-end gap-4 mt-1">
        <div className="big-kg">
          {set.load_kg !== null ? (
            <>
              <Working data={set.working} label={`${set.load_words} ${set.unit}, show the working`}>
                {set.load_words}
              </Working>
              <small>
                {set.unit} {amount}
              </small>
            </>
          ) : (
            <>
              {step.amount || (set.reps ?? set.seconds ?? set.metres)}
              <small>{step.amount ? "" : set.seconds !== null ? "s" : set.metres !== null ? "m" : "reps"}</small>
            </>
          )}
          {set.per_side && <small>each side</small>}
        </div>
        <div className="pb-2">
          <Plates perSide={set.per_side_kg} words={set.per_side_words} unit={set.unit} scale={1.45} />
        </div>
      </div>
      <StepWords step={step} />
      {step.clock && onClock && <StartStepClock clock={step.clock} onStart={() => step.clock && onClock(step.clock)} />}
      {isSeenOtherwise(set) && <SeenOtherwise line={line} set={set} large="big-v" />}
      {line.measured_by && !isSeenOtherwise(set) && (
        <>
          <div className={`d-flex align-items-end justify-content-between mt-2${last ? "" : " nothing-yet"}`} aria-live="polite">
            <div className="big-v">
              {last ? last.counts_mps.toFixed(2) : "–"} <small>{line.measured_by}</small>
            </div>
            <div className="text-end soft">
              {last ? (
                <>
                  peak <b className="num">{last.peak_mps.toFixed(2)}</b> · {last.zone}
                  <br />
                  lost <b className="num">{Math.round(last.loss_pct)} %</b> of best {last.fastest_mps.toFixed(2)} m/s
                </>
              ) : measuring ? (
                "sensor on: waiting for the first rep"
              ) : (
                "no sensor on this set"
              )}
            </div>
          </div>
          <div className={last ? undefined : "nothing-yet"}>
            <RepBars set={set} />
          </div>
        </>
      )}
      {live.sensor?.state === "fault" && live.sensor.line_id === line.id && <div className="note asks mt-1">{live.sensor.message}</div>}
      <Still
        floor={floor}
        onStop={() => void run(live.write("stop-here", {})).catch(() => undefined)}
        onMore={(lineId) => void run(live.write(`lines/${lineId}/more`, {})).catch(() => undefined)}
      />
      <div className="mt-auto">
        <Coming floor={floor} step={step} />
        <SetButtons floor={floor} line={line} set={set} step={step} confirm={confirm} onLog={onLog} />
        <div className="d-flex flex-wrap column-gap-3 align-items-center mt-1">
          <Needs may="run">
            <More floor={floor} line={line} set={set} write={(path, body) => run(live.write(path, body))} full />
          </Needs>
          {line.can_simulate && (
            <Button variant="link" className="tap p-0" onClick={simulate} disabled={busy || starting || measuring}>
              {measuring ? "Simulated sensor is measuring …" : "Simulate this set"}
            </Button>
          )}
        </div>
      </div>
    </>
  );
}

interface SideProps {
  floor: Floor;
  line: FloorLine | undefined;
  live: Live;
  run: NowProps["run"];
  onInstead: (lineId: number, exerciseId: string) => Promise<unknown>;
}

function Side({ floor, line, live, run, onInstead }: SideProps) {
  const [shown, setShown] = useState<number | null>(null);
  const isAhead = useIsAhead(floor.id);
  const stopped = floor.lines.filter((l) => l.ended && l.sets.some((s) => s.kind === "work" && !s.done)).at(-1);
  // lines go in turn: what was said after one stands while another is up
  const open = floor.lines.filter((l) => l.advice && l.sets.some((s) => s.kind === "work" && !s.done && !s.over));
  const newest = open.sort((a, b) => (b.advice?.id ?? 0) - (a.advice?.id ?? 0))[0];
  const speaking = newest ?? (line?.advice ? line : stopped);
  const said = line ? [] : floor.lines.filter((l) => l.advice); // at the end what was said last of each, a ladder's record too
  const view = floor.lines.find((l) => l.id === shown) ?? line ?? speaking ?? floor.lines[0];
  return (
    <aside className="floor-side" aria-label="What next and what was done">
      <h2>What next</h2>
      <div className="d-none d-lg-block">
        <PainNotes floor={floor} onInstead={onInstead} />
      </div>
      {speaking?.advice ? (
        <AdvicePanel
          key={speaking.advice.id}
          line={speaking}
          finished={floor.finished}
          onAnswer={(body, adviceId) => run(live.write(`advice/${adviceId}`, body))}
        />
      ) : said.length > 0 ? (
        said.map((l) => (
          <div key={l.id} className="says advice my-1">
            {l.exercise}: {l.advice?.sentence}
          </div>
        ))
      ) : (
        <p className="soft">{isAhead ? NO_ADVICE : "After each work set: up, same, down or done, and why."}</p>
      )}
      {view && (
        <>
          <div className="d-flex align-items-center gap-2 mt-4 mb-1">
            <h2 className="m-0">Done</h2>
            <select
              className="form-select form-select-sm"
              style={{ width: 190, minHeight: 44 }}
              aria-label="Done sets of which exercise"
              value={view.id}
              onChange={(e) => setShown(Number(e.target.value))}
            >
              {floor.lines.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.slot} {l.exercise}
                </option>
              ))}
            </select>
          </div>
          <DoneSets line={view} finished={floor.finished} write={(path, body) => run(live.write(path, body))} />
        </>
      )}
    </aside>
  );
}
