import { useState } from "react";
import { Link } from "react-router";

import { api, need, problemOf, type Problem, type Schemas } from "../../api/client";
import type { Floor, FloorLine, FloorSet, FloorStep } from "../../api/hooks";
import { Plates } from "../../parts/Plates";
import { AddExercise } from "../floor/AddExercise";
import { AdvicePanel } from "../floor/AdvicePanel";
import { DoneSets } from "../floor/DoneSets";
import { FinishHere } from "../floor/FinishHere";
import { More } from "../floor/More";
import { PainNotes } from "../floor/PainNotes";
import { SetButtons } from "../floor/SetButtons";
import { Still } from "../floor/Still";
import { Coming, StartStepClock, stepNow, StepWords } from "../floor/Step";
import { LogTrouble } from "../floor/TwoWords";
import { NO_ADVICE, useIsAhead, useWithWaiting } from "../floor/waiting";
import { ClockFace } from "./ClockFace";
import { useJoin } from "./JoinRack";
import { Amount, Bar, JustDone, LaneHead, Measured, What } from "./LaneParts";
import { Rotation } from "./Rotation";
import { useSilent, type LaneData, type Turn } from "./useRoom";

interface Props {
  roomId: number;
  lane: LaneData;
  now: number;
  large?: boolean;
  limited?: boolean;
  write: (url: string, body: unknown) => Promise<unknown>;
}

type Run = (url: string, body: unknown) => Promise<unknown>;

/** One place in the room: who is up with what, the repetitions as they come, what next, who follows and what changes on the bar. */
export function Lane({ roomId, lane, now, large = false, limited = false, write }: Props) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [last, setLast] = useState<{ at: string; body: Schemas["LogSet"] } | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const overTurn = lane.turns.find((t) => t.athlete_id === over && t.is_over && !t.is_finished);
  const floor = useWithWaiting(lane.up ?? undefined);
  const line = floor?.lines.find((l) => l.id === floor.current?.line_id);
  const set = line?.sets.find((s) => s.kind === floor?.current?.kind && s.number === floor.current.number);
  const step = stepNow(floor);
  const run: Run = (url, body) => {
    setProblem(null);
    return write(url, body).catch((e: unknown) => {
      setProblem(problemOf(e));
      throw e;
    });
  };
  const quiet = (url: string, body: unknown) => void run(url, body).catch(() => undefined);
  const rack = `/api/room/${roomId}/racks/${lane.rack}`;
  const leave = (id: number) => quiet(`${rack}/leave`, { athlete_id: id });
  const join = useJoin({ roomId, rack: lane.rack, title: lane.title, join: (body) => run(`${rack}/join`, body) });
  const log = (at: string, body: Schemas["LogSet"]) => {
    setLast({ at, body });
    return run(`${at}/sets`, body);
  };
  return (
    <section className={`lane${large ? " large" : ""}`} aria-label={lane.title}>
      <LaneHead
        roomId={roomId}
        lane={lane}
        to={large ? null : `/room/${roomId}/racks/${lane.rack}`}
        step={step}
        plan={floor?.plan ?? "A"}
      />
      <JustDone lane={lane} />
      {lane.clock && (
        <ClockFace clock={lane.clock} compact={!large} onAct={(act) => lane.clock && quiet(`${rack}/clock/${lane.clock.id}/${act}`, {})} />
      )}
      {problem && (
        <LogTrouble
          problem={problem}
          mine={last?.body ?? null}
          onKeep={() => setProblem(null)}
          onMine={(body) => last && quiet(`${last.at}/sets/correct`, body)}
        />
      )}
      {floor && line && set && step ? (
        <Up
          roomId={roomId}
          lane={lane}
          floor={floor}
          line={line}
          set={set}
          step={step}
          large={large}
          limited={limited}
          confirm={problem?.status === 428}
          run={run}
          log={log}
          join={join}
          onLeave={leave}
        />
      ) : (
        <>
          <Idle lane={lane} limited={limited} run={run} />
          {join.link}
          {join.panel}
        </>
      )}
      <Rotation
        lane={lane}
        now={now}
        worded={set === undefined || set.load_kg !== null || lane.use !== "bar"}
        onCall={limited ? null : (id) => quiet(`/api/room/${roomId}/call`, { athlete_id: id })}
        onLeave={leave}
        onOrder={(athlete_ids) => quiet(`${rack}/order`, { athlete_ids })}
        onOver={limited || !floor ? undefined : (id) => setOver(over === id ? null : id)}
      />
      {floor && overTurn && <Over key={overTurn.athlete_id} turn={overTurn} run={run} />}
      {floor && line?.can_simulate && set && !limited && (
        <Simulate session={floor.id} line={line} set={set} onProblem={(e) => setProblem(problemOf(e))} />
      )}
    </section>
  );
}

interface UpProps {
  roomId: number;
  lane: LaneData;
  floor: Floor;
  line: FloorLine;
  set: FloorSet;
  step: FloorStep;
  large: boolean;
  limited: boolean;
  confirm: boolean;
  run: Run;
  log: (at: string, body: Schemas["LogSet"]) => Promise<unknown>;
  join: ReturnType<typeof useJoin>;
  onLeave: (id: number) => void;
}

/** Whoever is up: what to lift, what is measured, what was said after the set before, the buttons. */
function Up({ roomId, lane, floor, line, set, step, large, limited, confirm, run, log, join, onLeave }: UpProps) {
  const mine = lane.turns.find((t) => t.is_up);
  const silent = useSilent(
    roomId,
    lane.sensors.some((s) => s.sort === "bar"),
  );
  const isAhead = useIsAhead(floor.id);
  const at = `/api/floor/sessions/${floor.id}`;
  const quiet = (url: string, body: unknown) => void run(url, body).catch(() => undefined);
  const speaking = floor.lines.find((l) => l.advice && !l.advice.outcome && l.sets.some((s) => s.kind === "work" && !s.done && !s.over));
  return (
    <>
      <PainNotes floor={floor} onInstead={(lineId, exerciseId) => run(`${at}/lines/${lineId}/instead`, { exercise_id: exerciseId })} />
      <h2 className="name">
        {limited ? floor.athlete_name : <Link to={`/athletes/${floor.athlete_id}`}>{floor.athlete_name}</Link>}
        {mine?.compete && <small className="compete num">{mine.compete}</small>}
      </h2>
      {mine?.heart && <p className="m-0 num fw-semibold">{mine.heart}</p>}
      <What line={line} step={step} />
      <div className="d-flex flex-wrap align-items-end column-gap-3">
        <Amount set={set} step={step} />
        <Plates perSide={set.per_side_kg} words={set.per_side_words} unit={set.unit} scale={large ? 1.5 : 1.1} worded={large} />
      </div>
      <StepWords step={step} />
      {floor.block_words[step.block] && <p className="small soft m-0">{floor.block_words[step.block]}</p>}
      {step.clock && !lane.clock && (
        <StartStepClock
          clock={step.clock}
          onStart={() => quiet(`/api/room/${roomId}/racks/${lane.rack}/clock`, { kind: step.clock?.kind, figures: step.clock?.figures })}
        />
      )}
      {mine && set.load_kg !== null && <Bar turn={mine} />}
      <Measured line={line} set={set} narrow={!large} />
      {isAhead && !speaking && <p className="soft m-0">{NO_ADVICE}</p>}
      {speaking?.advice && set.measured.length === 0 && (
        <div className="lane-advice">
          <AdvicePanel
            key={speaking.advice.id}
            line={speaking}
            finished={false}
            compact
            isNamed={speaking.id !== line.id}
            onAnswer={(body, id) => run(`${at}/advice/${id}`, body)}
          />
        </div>
      )}
      <Still floor={floor} onStop={() => quiet(`${at}/stop-here`, {})} onMore={(lineId) => quiet(`${at}/lines/${lineId}/more`, {})} />
      {large && (
        <div className="mt-auto">
          <Coming floor={floor} step={step} />
        </div>
      )}
      <div className={large ? "buttons-now" : "mt-auto buttons-now"}>
        <SetButtons
          key={`${line.id}${set.kind}${set.number}`}
          floor={floor}
          line={line}
          set={set}
          step={step}
          confirm={confirm}
          silent={lane.sensors.some((s) => silent.has(s.id))}
          onUndo={() => quiet(`${at}/undo`, {})}
          onLog={(body) => log(at, body)}
        />
      </div>
      <More
        key={`more${line.id}${set.kind}${set.number}`}
        floor={floor}
        line={line}
        set={set}
        full={!limited}
        join={join}
        write={(path, body) => run(`${at}/${path}`, body)}
        onLeave={mine && lane.turns.length < 2 ? () => onLeave(mine.athlete_id) : undefined}
      />
      {large && <DoneHere line={line} write={(path, body) => run(`${at}/${path}`, body)} />}
    </>
  );
}

interface IdleProps {
  lane: LaneData;
  limited: boolean;
  run: Run;
}

/** Nobody still lifts here: those who are done finish, or get one more exercise. */
function Idle({ lane, limited, run }: IdleProps) {
  const over = lane.turns.filter((t) => !t.is_finished);
  return (
    <div className="flex-grow-1">
      <h2 className="name">{lane.turns.length === 0 ? "Nobody here" : over.length === 0 ? "All finished" : "Nothing left to do"}</h2>
      {lane.turns.length === 0 && <p className="soft">Whoever comes joins below, or is put here on arrival.</p>}
      {!limited && over.map((t) => <Over key={t.athlete_id} turn={t} run={run} />)}
    </div>
  );
}

function Over({ turn, run }: { turn: Turn; run: Run }) {
  const [open, setOpen] = useState<"" | "finish" | "add">("");
  const write = (path: string, body: unknown) => run(`/api/floor/sessions/${turn.session_id}/${path}`, body);
  return (
    <div className="mt-2">
      <div className="d-flex flex-wrap gap-2 align-items-center">
        <b>{turn.name}</b>
        <button type="button" className="btn btn-primary tap" aria-expanded={open === "finish"} onClick={() => setOpen("finish")}>
          Finish
        </button>
        <button type="button" className="btn btn-plain tap" aria-expanded={open === "add"} onClick={() => setOpen("add")}>
          Add an exercise
        </button>
      </div>
      {open === "finish" && (
        <FinishHere
          floor={{ id: turn.session_id, athlete_name: turn.name, minutes_gone: turn.minutes_gone }}
          write={write}
          onDone={() => setOpen("")}
        />
      )}
      {open === "add" && <AddExercise write={write} onDone={() => setOpen("")} />}
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

interface SimulateProps {
  session: number;
  line: FloorLine;
  set: FloorSet;
  onProblem: (e: unknown) => void;
}

/** The demo's own sensor lifts the set that is up. */
function Simulate({ session, line, set, onProblem }: SimulateProps) {
  return (
    <button
      type="button"
      className="btn btn-link stand-in"
      onClick={() =>
        void need(
          api.POST("/api/floor/sessions/{session_id}/simulate", {
            params: { path: { session_id: session } },
            body: { line_id: line.id, kind: set.kind, number: set.number, rate_hz: 100 },
          }),
        ).catch(onProblem)
      }
    >
      Simulated sensor
    </button>
  );
}
