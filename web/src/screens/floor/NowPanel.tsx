import { useState } from "react";
import Button from "react-bootstrap/Button";

import { api, need, type Schemas } from "../../api/client";
import type { Floor, FloorLine, FloorSet, FloorStep } from "../../api/hooks";
import { JustNow } from "../../parts/NewBest";
import { Needs } from "../../parts/Needs";
import { Plates } from "../../parts/Plates";
import { isSeenOtherwise, SeenOtherwise } from "../../parts/SeenOtherwise";
import { Working } from "../../parts/Working";
import { More } from "./More";
import { RepBars } from "./RepBars";
import { SetButtons } from "./SetButtons";
import { Coming, StartStepClock, StepHead, StepWords } from "./Step";
import { Still } from "./Still";
import type { Live } from "./useFloor";

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

/** The set that is up: what it is, what was measured of it, and what is tapped when it is done. */
export function NowPanel({ floor, line, set, step, onClock, live, run, onLog, busy, confirm }: NowProps) {
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
