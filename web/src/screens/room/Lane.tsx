import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, problemOf, type Problem } from "../../api/client";
import type { FloorLine, FloorSet, FloorStep } from "../../api/hooks";
import { clock, kg } from "../../parts/dates";
import { Plates } from "../../parts/Plates";
import { Trouble } from "../../parts/states";
import { Working } from "../../parts/Working";
import { AdvicePanel } from "../floor/AdvicePanel";
import { DoneSets } from "../floor/DoneSets";
import { PainNotes } from "../floor/PainNotes";
import { RepBars } from "../floor/RepBars";
import { SetButtons } from "../floor/SetButtons";
import { StopLift } from "../floor/StopSet";
import { Coming, StartStepClock, stepNow, StepWords } from "../floor/Step";
import { useWithWaiting } from "../floor/waiting";
import { ClockFace } from "./ClockFace";
import type { LaneData, Turn } from "./useRoom";

interface Props {
  roomId: number;
  lane: LaneData;
  now: number;
  large?: boolean;
  limited?: boolean;
  write: (url: string, body: unknown) => Promise<unknown>;
}

/** One rack: who is up with what, the repetitions as they come, what next, who follows and what changes on the bar. */
export function Lane({ roomId, lane, now, large = false, limited = false, write }: Props) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const floor = useWithWaiting(lane.up ?? undefined);
  const line = floor?.lines.find((l) => l.id === floor.current?.line_id);
  const set = line?.sets.find((s) => s.kind === floor?.current?.kind && s.number === floor.current.number);
  const step = stepNow(floor);
  const mine = lane.turns.find((t) => t.is_up);
  const run = (url: string, body: unknown) => {
    setProblem(null);
    return write(url, body).catch((e: unknown) => {
      setProblem(problemOf(e));
      throw e;
    });
  };
  const quiet = (url: string, body: unknown) => void run(url, body).catch(() => undefined);
  const leave = (id: number) => quiet(`/api/room/${roomId}/put`, { athlete_id: id, rack: null });
  const at = floor ? `/api/floor/sessions/${floor.id}` : "";
  const speaking =
    lane.turns.length > 0 && floor
      ? floor.lines.find((l) => l.advice && !l.advice.outcome && l.sets.some((s) => s.kind === "work" && !s.done))
      : undefined;
  return (
    <section className={`lane${large ? " large" : ""}`} aria-label={`Rack ${lane.rack}`}>
      <LaneHead lane={lane} step={step} plan={floor?.plan ?? "A"} />
      {lane.clock && (
        <ClockFace
          clock={lane.clock}
          compact={!large}
          onAct={limited ? undefined : (act) => lane.clock && quiet(`/api/room/${roomId}/clocks/${lane.clock.id}/${act}`, {})}
        />
      )}
      {problem && <Trouble problem={problem} />}
      {floor && (
        <PainNotes floor={floor} onInstead={(lineId, exerciseId) => run(`${at}/lines/${lineId}/instead`, { exercise_id: exerciseId })} />
      )}
      {!floor || !line || !set || !step ? (
        <Idle isOver={lane.turns.length > 0} />
      ) : (
        <>
          <h2 className="name">{floor.athlete_name}</h2>
          <What line={line} step={step} />
          <div className="d-flex flex-wrap align-items-end column-gap-3">
            <Amount set={set} step={step} />
            <Plates perSide={set.per_side_kg} words={set.per_side_words} unit={set.unit} scale={large ? 1.5 : 1.1} worded={large} />
          </div>
          <StepWords step={step} />
          {floor.block_words[step.block] && <p className="small soft m-0">{floor.block_words[step.block]}</p>}
          {step.clock && !lane.clock && !limited && (
            <StartStepClock
              clock={step.clock}
              onStart={() => quiet(`/api/room/${roomId}/clocks`, { kind: step.clock?.kind, figures: step.clock?.figures, rack: lane.rack })}
            />
          )}
          {mine && set.load_kg !== null && <Bar turn={mine} />}
          <Measured line={line} set={set} narrow={!large} />
          {speaking?.advice && set.measured.length === 0 && (
            <div className="lane-advice">
              <AdvicePanel
                key={speaking.advice.id}
                line={speaking}
                finished={false}
                compact
                onAnswer={(body, id) => run(`${at}/advice/${id}`, body)}
              />
            </div>
          )}
          <div className="mt-auto">
            {large && <Coming floor={floor} step={step} />}
            <SetButtons
              key={`${line.id}${set.kind}${set.number}`}
              floor={floor}
              line={line}
              set={set}
              step={step}
              confirm={problem?.status === 428}
              extra={
                <Button variant="plain" className="tap flex-fill" onClick={() => quiet(`${at}/undo`, {})}>
                  Undo
                </Button>
              }
              onLog={(body) => run(`${at}/sets`, body)}
            />
            <div className="d-flex flex-wrap column-gap-3">
              <StopLift reasons={floor.stop_reasons} line={line} onStopLift={(reason) => run(`${at}/lines/${line.id}/stop`, { reason })} />
              {!limited && mine && lane.turns.length < 2 && (
                <Button variant="link" className="tap p-0" onClick={() => leave(mine.athlete_id)}>
                  Leaves the rack
                </Button>
              )}
            </div>
          </div>
          {large && <DoneHere line={line} write={(path, body) => run(`${at}/${path}`, body)} />}
        </>
      )}
      <Rotation
        lane={lane}
        now={now}
        worded={set !== undefined && set.load_kg !== null}
        onCall={limited ? null : (id) => quiet(`/api/room/${roomId}/call`, { athlete_id: id })}
        onLeave={limited ? null : leave}
      />
      {floor && line?.can_simulate && set && !limited && (
        <button
          type="button"
          className="btn btn-link stand-in"
          onClick={() =>
            void need(
              api.POST("/api/floor/sessions/{session_id}/simulate", {
                params: { path: { session_id: floor.id } },
                body: { line_id: line.id, kind: set.kind, number: set.number, rate_hz: 100 },
              }),
            ).catch((e: unknown) => setProblem(problemOf(e)))
          }
        >
          Simulated sensor
        </button>
      )}
    </section>
  );
}

/** A rack with nobody who still lifts. */
function Idle({ isOver }: { isOver: boolean }) {
  return (
    <div className="flex-grow-1">
      <h2 className="name">{isOver ? "Everybody here is done" : "Nobody here"}</h2>
      <p className="soft">{isOver ? "Finish the sessions, or put others at this rack." : "Put athletes at this rack on arrival."}</p>
    </div>
  );
}

/** What is up, as written and as the day has changed it. */
function What({ line, step }: { line: FloorLine; step: FloorStep }) {
  return (
    <div className="what">
      {step.title} <span className="num soft">{line.text}</span>
      {line.change && <span className="clay"> · {line.change}</span>}
      {line.note && <b className="d-block">{line.note}</b>}
    </div>
  );
}

/** What was done of the line that is up, to be put right. */
function DoneHere({ line, write }: { line: FloorLine; write: (path: string, body: unknown) => Promise<unknown> }) {
  return (
    <div>
      <h3 className="fs-6 mt-2 mb-0">Done</h3>
      <DoneSets line={line} finished={false} write={write} />
    </div>
  );
}

interface HeadProps {
  lane: LaneData;
  step: FloorStep | undefined;
  plan: string;
}

/** Which rack, with which sensors, and which set of how many. */
function LaneHead({ lane, step, plan }: HeadProps) {
  return (
    <header className="d-flex justify-content-between gap-2 soft small">
      <span>
        Rack {lane.rack}
        {plan !== "A" && <b className="clay"> · plan {plan} today</b>}
        {lane.sensors.map((s) => (
          <span key={s.id}> · {s.name}</span>
        ))}
      </span>
      {step && <span>{step.place}</span>}
    </header>
  );
}

/** What is to be lifted, large enough for the other side of the rack. */
function Amount({ set, step }: { set: FloorSet; step: FloorStep }) {
  return (
    <div className="kilos">
      {set.load_kg !== null ? (
        <>
          <Working data={set.working} label={`${kg(set.load_kg)} kg, show the working`}>
            {kg(set.load_kg)}
          </Working>
          <small> kg {step.amount ? `× ${step.amount}` : amount(set)}</small>
        </>
      ) : (
        <>
          {step.amount || (set.reps ?? set.seconds ?? set.metres)}
          <small> {step.amount ? "" : set.seconds !== null ? "s" : set.metres !== null ? "m" : "reps"}</small>
        </>
      )}
      {set.per_side && <small> each side</small>}
    </div>
  );
}

function amount(set: FloorSet): string {
  return set.seconds !== null
    ? `${set.seconds} s`
    : set.metres !== null
      ? `${set.metres} m`
      : `× ${set.reps ?? 1}${set.or_more ? "+" : ""}`;
}

/** What is changed on the bar before this lifter, and who helps. */
function Bar({ turn }: { turn: Turn }) {
  if (!turn.change) return null;
  return (
    <div className="small">
      <b>{turn.change}</b>
      {turn.pins && <b> · {turn.pins}</b>}
      {turn.help && <span className="soft"> · {turn.help}</span>}
    </div>
  );
}

function Measured({ line, set, narrow }: { line: FloorLine; set: FloorSet; narrow: boolean }) {
  const last = set.measured.at(-1);
  if (set.jumps.length > 0) {
    return (
      <div aria-live="polite">
        <div className="speed">
          {set.jumps.at(-1)?.height_cm.toFixed(1)} <small>cm</small>
        </div>
        <div className="num">{set.jumps.map((j) => j.height_cm.toFixed(0)).join(" · ")}</div>
        <div className={set.jumps_off ? "clay fw-semibold" : "soft"}>{set.jump_word}</div>
      </div>
    );
  }
  if (!line.measured_by) return null;
  return (
    <div aria-live="polite">
      <div className="d-flex justify-content-between align-items-end">
        <div className="speed">
          {last ? last.counts_mps.toFixed(2) : "–"} <small>{line.measured_by}</small>
        </div>
        {last && (
          <div className="text-end soft small">
            lost <b className="num">{Math.round(last.loss_pct)} %</b>
            <br />
            best <b className="num">{last.fastest_mps.toFixed(2)}</b>
          </div>
        )}
      </div>
      <RepBars set={set} narrow={narrow} />
    </div>
  );
}

interface RotationProps {
  lane: LaneData;
  now: number;
  worded: boolean;
  onCall: ((id: number) => void) | null;
  onLeave: ((id: number) => void) | null;
}

/** Who follows, what they lift, what changes on the bar for them, how long they have rested; the next goes first, or somebody leaves. */
function Rotation({ lane, now, worded, onCall, onLeave }: RotationProps) {
  if (lane.turns.length < 2 && !lane.turns.some((t) => !t.is_up))
    return <p className={`small m-0 ${lane.is_right ? "soft" : "clay"}`}>{worded && lane.word}</p>;
  return (
    <div className="rotation">
      <ol className="list-unstyled m-0">
        {lane.turns.map((t) => (
          <li key={t.athlete_id} className={t.is_up ? "up" : undefined}>
            <span className="who">
              {t.is_up && <span aria-hidden>▸ </span>}
              {t.name}
            </span>
            <span className="num">{t.is_over ? "done" : t.what}</span>
            <span className="soft num">
              {t.last_done_at && !t.is_over ? clock(Math.max(0, (now - Date.parse(t.last_done_at)) / 1000)) : ""}
            </span>
            {onCall && !t.is_up && !t.is_over ? (
              <button type="button" className="btn btn-plain tap" aria-label={`Up next: ${t.name}`} onClick={() => onCall(t.athlete_id)}>
                up
              </button>
            ) : onLeave ? (
              <button
                type="button"
                className="btn btn-plain tap px-0 small"
                aria-label={`leave the rack: ${t.name}`}
                onClick={() => onLeave(t.athlete_id)}
              >
                leave
              </button>
            ) : (
              <span />
            )}
          </li>
        ))}
      </ol>
      {worded && <p className={`small m-0 ${lane.is_right ? "soft" : "clay"}`}>{lane.word}</p>}
    </div>
  );
}
