import { Link } from "react-router";

import type { FloorLine, FloorSet, FloorStep } from "../../api/hooks";
import { NewBest } from "../../parts/NewBest";
import { isSeenOtherwise, SeenOtherwise } from "../../parts/SeenOtherwise";
import { Working } from "../../parts/Working";
import { RepBars } from "../floor/RepBars";
import { useSilent, type LaneData, type Turn } from "./useRoom";
import { counted } from "../../parts/counted";

/** What is up, as written and as the day has changed it. */
export function What({ line, step }: { line: FloorLine; step: FloorStep }) {
  return (
    <div className="what">
      {step.title} <span className="num soft">{line.text}</span>
      {line.change && <span className="clay"> · {line.change}</span>}
      {line.note && <b className="d-block">{line.note}</b>}
      {line.learned.map((words) => (
        <b key={words} className="d-block">
          {words}
        </b>
      ))}
    </div>
  );
}

interface HeadProps {
  roomId: number;
  lane: LaneData;
  to: string | null;
  step: FloorStep | undefined;
  plan: string;
}

/** Which place, with which sensors, what is left there, and which set of how many. */
export function LaneHead({ roomId, lane, to, step, plan }: HeadProps) {
  const silent = useSilent(
    roomId,
    lane.sensors.some((s) => s.sort === "bar"),
  );
  return (
    <header className="d-flex justify-content-between gap-2 soft small">
      <span>
        {to ? (
          <Link className="lane-title" to={to}>
            {lane.title}
          </Link>
        ) : (
          lane.title
        )}
        {plan !== "A" && <b className="clay"> · plan {plan} today</b>}
        {lane.sensors.map((s) => (
          <span key={s.id}>
            {" "}
            · {s.name}
            {silent.has(s.id) && <b className="clay"> {silent.get(s.id)}</b>}
          </span>
        ))}
        {lane.sets_left > 0 && (
          <span>
            {" "}
            · {counted(lane.sets_left, "set")}, {lane.minutes_left} min
          </span>
        )}
      </span>
      {step && <span className="nowrap">{step.place}</span>}
    </header>
  );
}

/** The set that was done last here, and what was measured of it, in one line. */
export function JustDone({ lane }: { lane: LaneData }) {
  const done = lane.just_done;
  if (!done) return null;
  return (
    <p className="just-done small m-0" aria-live="polite">
      <span className="soft">just now</span> <b>{done.name}</b> <span className="num">{done.what}</span>
      {done.measured.length > 0 && <span className="soft num"> · {done.measured.join(" · ")}</span>}
      <NewBest words={done.best} />
    </p>
  );
}

/** What is to be lifted, large enough for the other side of the rack. */
export function Amount({ set, step }: { set: FloorSet; step: FloorStep }) {
  return (
    <div className="kilos">
      {set.load_kg !== null ? (
        <>
          <Working data={set.working} label={`${set.load_words} ${set.unit}, show the working`}>
            {set.load_words}
          </Working>
          <small>
            {" "}
            {set.unit} {step.amount ? `× ${step.amount}` : amount(set)}
          </small>
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
export function Bar({ turn }: { turn: Turn }) {
  if (!turn.change) return null;
  return (
    <div className="small">
      <b>{turn.change}</b>
      {turn.pins && <b> · {turn.pins}</b>}
      {turn.help && <span className="soft"> · {turn.help}</span>}
    </div>
  );
}

/** The sensor's numbers of the set that is up: jumps, a run, or the repetitions of a bar. */
export function Measured({ line, set, narrow }: { line: FloorLine; set: FloorSet; narrow: boolean }) {
  const last = set.measured.at(-1);
  if (isSeenOtherwise(set)) return <SeenOtherwise line={line} set={set} large="speed" />;
  if (!line.measured_by || (narrow && !last)) return null;
  return (
    <div aria-live="polite" className={last ? undefined : "nothing-yet"}>
      <div className="d-flex justify-content-between align-items-end">
        <div className="speed">
          {last ? last.counts_mps.toFixed(2) : "–"} <small>{line.measured_by}</small>
        </div>
        {last && (
          <div className="text-end soft small">
            lost <b className="num">{Math.round(last.loss_pct)} %</b>
            {!narrow && ` · ${last.zone}`}
            <br />
            best <b className="num">{last.fastest_mps.toFixed(2)}</b>
          </div>
        )}
      </div>
      <RepBars set={set} narrow={narrow} />
    </div>
  );
}
