"""The floor as it stands: what is planned, what is done, what comes next."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

from jarvok.app.centre.in_force import kit_of, unit_for
from jarvok.app.facts.floor.models import AdviceRecord, ChangeKind, Rep, SessionLine, SetKind, SetRecord, TrainingSession
from jarvok.app.facts.put_together import Objects, Part
from jarvok.app.facts.room.models import Reading
from jarvok.app.floor.pains import felt_in
from jarvok.app.floor.seen import seen_of
from jarvok.core.exercises import Exercise
from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.next_step import next_set as coming
from jarvok.core.floor.pain import ended_by
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import ToldStep, WalkedLine, told_from, walked, with_added
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.methods.velocity_ladder import METHOD_NAME
from jarvok.core.quantities.plates import build
from jarvok.core.rules import DEFAULT_RULES
from jarvok.core.session.sequence import IN_TURN
from jarvok.core.velocity.definition import Definition
from jarvok.core.velocity.set_summary import MeasuredRep, SetSummary, summary
from jarvok.core.velocity.zones import stop_velocity_mps, velocity_loss_pct, zone_for


@dataclass(frozen=True)
class FloorSet:
    kind: str
    number: int
    planned: ToldSet
    planned_load_kg: float | None
    per_side_kg: list[float]
    unit: str
    record: SetRecord | None
    reps: list[Rep]
    taken_out: list[Rep]
    jumps: tuple[dict[str, Any], ...] = ()
    splits: tuple[dict[str, Any], ...] = ()
    device_mps: tuple[float, ...] = ()  # from a device that gives results only, the number that counts for the lift
    readings: tuple[Reading, ...] = ()  # behind jumps, splits and a device's velocities
    readings_out: tuple[Reading, ...] = ()
    over: bool = False  # its block ended with the ladder before this round, or it was passed over
    is_skipped: bool = False  # passed over by a person's word
    is_added: bool = False  # more than was told


@dataclass(frozen=True)
class FloorLine:
    line: SessionLine
    sets: list[FloorSet]
    advice: AdviceRecord | None
    ended: bool
    pain: str = ""  # the place that hurts, where pain has ended it
    is_void: bool = False  # what put it there was taken back, before any set of it was done


_SAID = tuple(Part(SessionLine, name) for name in ("sets", "changes", "advice"))
_MEASURED = tuple(Part(SessionLine, name) for name in ("reps", "readings"))
_UNMEASURED = tuple(Part(SessionLine, name, is_left_out=True) for name in ("reps", "readings"))
_LINES = Part(TrainingSession, "lines", parts=[*_SAID, *_MEASURED])
_LINES_UNMEASURED = Part(TrainingSession, "lines", parts=[*_SAID, *_UNMEASURED])
_PAINS = Part(TrainingSession, "pains", lambda rows: rows.select_related("record"))
_BY_ID = Objects(lambda ids: TrainingSession.objects.select_related("athlete__squad", "athlete__kit").filter(pk__in=ids))


def read_session(session_id: int) -> TrainingSession:
    """A session with its athlete and all its parts; raises where there is none."""
    found = with_parts(_BY_ID.of([session_id]))
    if not found:
        raise TrainingSession.DoesNotExist
    return found[0]


def with_parts(rows: Iterable[TrainingSession], *, measured: bool = True) -> list[TrainingSession]:
    """Sessions with their lines, what was done and said of each, and their pains; not `measured`: with no repetition or
    reading of a sensor, on which who is up does not hang."""
    sessions = list(rows)
    for part in (_LINES if measured else _LINES_UNMEASURED, _PAINS):
        part.read(sessions)
    return sessions


def read_line(session: TrainingSession, line_id: int) -> SessionLine | None:
    """A line of a session with its parts as they stand now: what is asked of it reads nothing more."""
    line = SessionLine.objects.filter(session_id=session.pk, pk=line_id).first()
    if line is not None:
        line.session = session
        for part in (*_SAID, *_MEASURED):
            part.read([line])
    return line


def told_steps(session: TrainingSession) -> tuple[ToldStep, ...]:
    """The steps a session was told in, read once for as long as they are those; none where it was told before there were any."""
    known: tuple[Any, tuple[ToldStep, ...]] | None = session.__dict__.get("_told_steps")
    if known is None or known[0] is not session.told:
        known = session.__dict__["_told_steps"] = (session.told, told_from(session.told))
    return known[1]


def floor_lines(session: TrainingSession, known: dict[int, FloorLine] | None = None) -> list[FloorLine]:
    """The lines as they stand; where one bar is lifted through several, the word that ends one ends all.

    `known` holds lines as they stand by themselves, and learns those that it does not hold.
    """
    known = {} if known is None else known
    for line in session.lines.all():
        if line.pk not in known:
            known[line.pk] = floor_line(line)
    lines = _ended_by_pain(session, [known[line.pk] for line in session.lines.all()])
    ended = {at for at, line in enumerate(lines) if line.ended}
    if ended:
        bars = [{s.line for s in step.sets} for step in told_steps(session) if step.is_one_bar]
        ended |= {at for bar in bars if bar & ended for at in bar}
        lines = [line if line.ended == (at in ended) else replace(line, ended=True) for at, line in enumerate(lines)]
    return _over_with_the_ladder(session, lines)


def _ended_by_pain(session: TrainingSession, lines: list[FloorLine]) -> list[FloorLine]:
    """What loads a place that hurts falls away for the day, and so does what was put there for a reason that was taken back."""
    felt = felt_in(session, [x.line.pk for x in lines])
    ended = ended_by(felt, [exercise(x.line.exercise_id) for x in lines]) if felt else {}
    found = [replace(x, ended=True, pain=ended[at]) if at in ended else x for at, x in enumerate(lines)]
    needed = {None, *(x.line.pk for x in found if x.ended)}
    return [
        replace(x, ended=True, is_void=True)
        if (x.line.stands_in_for_id not in needed or _is_taken_back(x.line)) and _untouched(x)
        else x
        for x in found
    ]


def _is_taken_back(line: SessionLine) -> bool:
    """Whether a line was added on the floor and taken back."""
    return any(c.kind == ChangeKind.LINE and c.taken_back_at is not None for c in line.changes.all())


def _untouched(line: FloorLine) -> bool:
    return not any(s.record is not None for s in line.sets)


def _over_with_the_ladder(session: TrainingSession, lines: list[FloorLine]) -> list[FloorLine]:
    """Where a ladder has ended, what goes in turn with it ends after the same round."""
    for at, line in enumerate(lines):
        if not line.ended or not line.line.planned or ToldSet.from_raw(line.line.planned[0]).method != METHOD_NAME:
            continue
        last = max((s.number for s in line.sets if s.kind == SetKind.WORK and s.record is not None), default=0)
        block = {s.line for step in told_steps(session) if step.grouping in IN_TURN for s in step.sets}
        for other in block - {at}:
            if other < len(lines) and lines[other].line.block == line.line.block:
                lines[other] = replace(
                    lines[other], sets=[replace(s, over=s.over or _is_after(s, last)) for s in lines[other].sets]
                )
    return lines


def _is_after(item: FloorSet, last: int) -> bool:
    """Whether a set comes after the round that was the last, and was not done all the same."""
    return item.kind == SetKind.WORK and item.number > last and item.record is None


def _told_sets(line: SessionLine) -> tuple[tuple[ToldSet, ...], tuple[ToldSet, ...]]:
    """The warm-up and work sets of a line as told, read once for as long as they are those."""
    known: tuple[Any, Any, Any] | None = line.__dict__.get("_told_sets")
    if known is None or known[0] is not line.ramp or known[1] is not line.planned:
        both = (tuple(map(ToldSet.from_raw, line.ramp)), tuple(map(ToldSet.from_raw, line.planned)))
        known = line.__dict__["_told_sets"] = (line.ramp, line.planned, both)
    found: tuple[tuple[ToldSet, ...], tuple[ToldSet, ...]] = known[2]
    return found


def floor_line(line: SessionLine) -> FloorLine:
    records = {(s.kind, s.number): s for s in line.sets.all() if s.taken_back_at is None}
    reps: dict[tuple[str, int], list[Rep]] = {}
    out: dict[tuple[str, int], list[Rep]] = {}
    for rep in line.reps.all():
        (reps if rep.taken_out_at is None else out).setdefault((rep.kind, rep.set_number), []).append(rep)
    seen_by_set = seen_of(line)
    advice = [a for a in line.advice.all() if a.taken_back_at is None]
    last = advice[-1] if advice else None
    unit = unit_for(exercise(line.exercise_id), line.session.athlete.kit)
    sets: list[FloorSet] = []
    changes = [c for c in line.changes.all() if c.taken_back_at is None]
    skipped = {(c.set_kind, c.number) for c in changes if c.kind == ChangeKind.SKIP}
    ramp, work = _told_sets(line)
    more = work[-1:] * sum(1 for c in changes if c.kind == ChangeKind.ADD)
    for kind, planned_sets in ((SetKind.RAMP, ramp), (SetKind.WORK, work + more)):
        for number, planned in enumerate(planned_sets, start=1):
            load, sides = planned.load_kg, list(planned.per_side_kg)
            if kind == SetKind.WORK:
                spoken = [a for a in advice if a.after_number < number and a.outcome]
                if spoken and spoken[-1].chosen_load_kg is not None:
                    load, sides = spoken[-1].chosen_load_kg, plates_for(line, spoken[-1].chosen_load_kg)
            record = records.get((kind, number))
            here = (kind, number)
            seen = seen_by_set[here]
            passed = here in skipped and record is None
            sets.append(
                FloorSet(
                    kind, number, planned, load, sides, unit, record, reps.get(here, []), out.get(here, []),
                    tuple(seen.jumps or (record.jumps if record is not None else ())), over=passed, is_skipped=passed,
                    device_mps=tuple(seen.device_mps), splits=tuple(seen.splits.values()),
                    readings=tuple(seen.kept), readings_out=tuple(seen.out),
                    is_added=kind == SetKind.WORK and number > len(line.planned),
                )
            )  # fmt: skip
    went_on = max((c.act_id or 0 for c in changes if c.kind == ChangeKind.ADD), default=0)
    ended = last is not None and last.move == "done" and last.outcome != "overridden" and (last.act_id or 0) >= went_on
    return FloorLine(line, sets, last, ended)


def plates_for(line: SessionLine, load_kg: float) -> list[float]:
    implement = implement_for(exercise(line.exercise_id), kit_of(line.session.athlete.kit))
    return list(build(load_kg, implement).per_side_kg) if implement else []


def steps_of(session: TrainingSession, lines: list[FloorLine]) -> tuple[ToldStep, ...]:
    """The steps the session was told in; one whose lines are not those (told before there were steps) is walked in line order."""
    told = told_steps(session)
    there = {StepSet(at, s.kind == SetKind.RAMP, s.number) for at, line in enumerate(lines) for s in line.sets}
    if told and all(place in there for step in told for place in step.sets):
        return with_added(told, _added(lines))
    return walked([WalkedLine(x.line.block, x.line.slot, x.line.rest_s, len(x.line.ramp), len(x.line.planned)) for x in lines])


def _added(lines: list[FloorLine]) -> list[tuple[str, tuple[StepSet, ...]]]:
    """Steps that are more than was told: which one each repeats, and its sets."""
    found: dict[tuple[int | None, str], list[StepSet]] = {}
    for at, line in enumerate(lines):
        added = [c for c in line.line.changes.all() if c.kind == ChangeKind.ADD and c.taken_back_at is None]
        for n, change in enumerate(added, start=1):
            place = StepSet(at, False, len(line.line.planned) + n)
            found.setdefault((change.act_id, change.step), []).append(place)
    return [(step, tuple(sets)) for (_, step), sets in found.items()]


def set_at(lines: list[FloorLine], place: StepSet) -> FloorSet | None:
    """The set at a place of a step."""
    kind = SetKind.RAMP if place.warms_up else SetKind.WORK
    rows = lines[place.line].sets if place.line < len(lines) else ()
    return next((s for s in rows if s.kind == kind and s.number == place.number), None)


def step_with(steps: tuple[ToldStep, ...], line: int, kind: str, number: int) -> ToldStep | None:
    """The step that holds a set of a line by its place from 0."""
    place = StepSet(line, kind == SetKind.RAMP, number)
    return next((s for s in steps if place in s.sets), None)


def next_set(session: TrainingSession, lines: list[FloorLine]) -> tuple[FloorLine, FloorSet] | None:
    """The first set in the order of the steps that is neither done nor left out."""
    return next_of(steps_of(session, lines), lines)


def next_of(steps: tuple[ToldStep, ...], lines: list[FloorLine]) -> tuple[FloorLine, FloorSet] | None:
    """The same, of the steps that a session's lines are walked in."""
    done = {
        StepSet(at, s.kind == SetKind.RAMP, s.number)
        for at, line in enumerate(lines)
        for s in line.sets
        if s.record is not None or s.over
    }
    ended = {at for at, line in enumerate(lines) if line.ended}
    place = coming([s.sets for s in steps], done, ended)
    item = set_at(lines, place) if place is not None else None
    return (lines[place.line], item) if place is not None and item is not None else None


def logged_step(session: TrainingSession, line: SessionLine, kind: str, number: int) -> ToldStep | None:
    """The step that a set of a line belongs to; what was added at the rack is looked for among all lines as they are read."""
    found = step_with(told_steps(session), line.order, kind, number)
    if found is not None or kind != SetKind.WORK or number <= len(line.planned):
        return found
    return step_with(steps_of(session, floor_lines(session)), line.order, kind, number)


def rest_now_s(steps: tuple[ToldStep, ...], lines: list[FloorLine], coming: tuple[FloorLine, FloorSet] | None) -> int:
    """The rest in s before the set that comes: after the step done last inside a block, else the line's own; 0: go on."""
    if coming is None:
        return 0
    numbered = {line.line.pk: at for at, line in enumerate(lines)}
    done = [(s.record.pk, at, s) for at, line in enumerate(lines) for s in line.sets if s.record is not None]
    if done:
        _, at, item = max(done, key=lambda x: x[0])
        last = step_with(steps, at, item.kind, item.number)
        now = step_with(steps, numbered[coming[0].line.pk], coming[1].kind, coming[1].number)
        if last is not None and now is not None and last.block == now.block and not last.sets[0].warms_up:
            return last.rest_s
    return coming[0].line.rest_s


def run_s(item: FloorSet) -> float | None:
    """The time of a run in s: as typed, else at the last gate."""
    typed = item.record.measures.get("time_s") if item.record is not None else None
    if typed is not None:
        return float(typed)
    return max((float(s["seconds"]) for s in item.splits), default=None)


def run_m(item: FloorSet) -> float | None:
    """The distance that its time is of, in m: of the last gate where that is known and no time was typed, else as it was told."""
    if item.record is not None and item.record.measures.get("time_s") is not None:
        return item.planned.metres
    last = max(item.splits, key=lambda s: float(s["seconds"]), default=None)
    return (last.get("metres") if last is not None else None) or item.planned.metres


def counted_mps(item: FloorSet, is_peak: bool) -> tuple[float, ...]:
    """The velocities of a set that count for the lift: those of a sensor, of a device, else the one that was typed."""
    if item.reps:
        return tuple(counting_mps(r, is_peak) for r in item.reps)
    if item.device_mps:
        return item.device_mps
    typed = item.record.measures.get("velocity_mps") if item.record is not None else None
    return (float(typed),) if typed is not None else ()


def counting_mps(rep: Rep, is_peak: bool) -> float:
    """The number that counts for the lift."""
    return rep.peak_mps if is_peak else rep.mean_mps


def rep_payload(rep: Rep, reps_before: list[Rep], stop_loss_pct: float | None) -> dict[str, Any]:
    """What the page needs of one repetition: velocities, zone, loss against the fastest, the stop line."""
    lift = exercise(rep.line.exercise_id)
    number = rep.peak_mps if lift.velocity == "peak" else rep.mean_mps
    velocities = [r.peak_mps if lift.velocity == "peak" else r.mean_mps for r in reps_before] + [number]
    fastest = max(velocities)
    limit = stop_loss_pct or DEFAULT_RULES["velocity.stop_loss_pct"]  # sets told before each kept its own
    return {
        "id": rep.pk,
        "line_id": rep.line_id,
        "kind": rep.kind,
        "set_number": rep.set_number,
        "number": len(velocities),
        "mean_mps": round(rep.mean_mps, 3),
        "propulsive_mps": round(rep.mean_propulsive_mps, 3),
        "peak_mps": round(rep.peak_mps, 3),
        "counts_mps": round(number, 3),
        "range_m": round(rep.range_m, 3),
        "time_to_peak_s": round(rep.time_to_peak_s, 3),
        "zone": zone_for(rep.mean_mps).name,
        "loss_pct": round(velocity_loss_pct(velocities), 1),
        "fastest_mps": round(fastest, 3),
        "stop_mps": round(stop_velocity_mps(fastest, limit), 3),
    }


def set_reps_payload(item: FloorSet) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    for i, rep in enumerate(item.reps):
        found.append(rep_payload(rep, item.reps[:i], item.planned.stop_loss_pct))
    return found


def set_summary(item: FloorSet, lift: Exercise) -> SetSummary | None:
    """The measured repetitions of a set in one look."""
    rows = [
        MeasuredRep(
            r.mean_mps, r.mean_propulsive_mps, r.peak_mps, r.time_to_peak_s, r.range_m, Definition(r.definition)
        )
        for r in item.reps
    ]  # fmt: skip
    return summary(rows, "peak" if lift.velocity == "peak" else "mean")
