"""What was reached in the sets of some athletes, as the bests read it: loads, velocities, jumps, runs, holds, tests."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.db.models import Max, Min, Q, QuerySet

from jarvok.app.facts.athletes.models import MarkRecord
from jarvok.app.facts.floor.hung import HUNG
from jarvok.app.facts.floor.models import Rep, SessionLine, SetKind, SetRecord
from jarvok.app.facts.put_together import PutTogether, Row, Value, padded
from jarvok.app.facts.room.models import Reading
from jarvok.core.exercises import Exercise
from jarvok.core.floor.told import ToldSet
from jarvok.core.learning.new_bests import DoneSet
from jarvok.core.library.exercises import exercises
from jarvok.core.marks.mark import MarkKind
from jarvok.core.marks.performance import read
from jarvok.core.velocity.definition import Definition

Of = tuple[int, str]  # athlete, exercise
Place = tuple[int, int]  # line, set number
LIFTED = (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.REP_MAX, MarkKind.AMRAP, MarkKind.SET_RIR, MarkKind.SET_REP_BEST)
KINDS = {kind.value: kind for kind in MarkKind}
LINES_AT_ONCE = 5000  # [T] as many numbers as one question holds
MEASURED = (MarkKind.JUMP, MarkKind.DROP_JUMP, MarkKind.HOLD, MarkKind.SPRINT)


@dataclass
class _Measured:
    """What sensors and mats saw of each set."""

    sensor: dict[Place, tuple[float, float]] = field(default_factory=dict)  # fastest mean, fastest peak
    device: dict[Place, list[tuple[float, bool]]] = field(default_factory=lambda: defaultdict(list))
    jumps: dict[Place, list[Mapping[str, Any]]] = field(default_factory=lambda: defaultdict(list))
    gates: dict[Place, list[Mapping[str, Any]]] = field(default_factory=lambda: defaultdict(list))


def sets_of(
    athletes: Collection[int],
    first: date,
    until: date,
    exercise_ids: Collection[str] | None = None,
    without_session: int | None = None,
) -> dict[Of, list[DoneSet]]:
    """Return results and the work sets done as written up to a day, oldest first, by athlete and exercise.

    Of the days before `first` loads and velocities are summed up: each load with its repetitions on the first day it was lifted,
    the fastest of each day and load. It asks nine times, however many athletes and years there are.
    """
    if not athletes or (exercise_ids is not None and not exercise_ids):
        return defaultdict(list)
    ids = [without_session or NO_SESSION, *athletes]
    asked: tuple[Value, ...] = (first, until, *padded(sorted(exercise_ids or ())))
    found = _from_results(ids, asked)
    _add_summed_up(found, ids, asked)
    _add_in_full(found, _IN_FULL.rows(ids, *asked), _measured(ids, asked))
    for sets in found.values():
        sets.sort(key=lambda item: item.day)
    return found


# what is asked with a session that does not count and athletes, the first day and the last, and exercises where not all count
def _mine(ids: Sequence[int], until: Value, lifts: Sequence[str]) -> tuple[Q, Q]:
    lifted = Q(line__exercise_id__in=lifts) if lifts else Q()
    return ~Q(line__session_id=ids[0]), Q(line__session__athlete_id__in=ids[1:], line__session__day__lte=until) & lifted


def _as_written(ids: Sequence[int], until: Value, lifts: Sequence[str]) -> QuerySet[SetRecord]:
    mine = _mine(ids, until, lifts)
    return SetRecord.objects.filter(*mine, ~HUNG, kind=SetKind.WORK, form="", trouble="", taken_back_at__isnull=True)


def _reps(ids: Sequence[int], until: Value, lifts: Sequence[str]) -> QuerySet[Rep]:
    mine = _mine(ids, until, lifts)
    return Rep.objects.filter(*mine, ~HUNG, kind=SetKind.WORK, taken_out_at__isnull=True, definition=Definition.CROSSING)


def _readings(ids: Sequence[int], until: Value, lifts: Sequence[str]) -> QuerySet[Reading]:
    """Jumps, splits and a device's velocities; a heart rate is no result."""
    return Reading.objects.filter(*_mine(ids, until, lifts), ~Q(values__has_key="bpm"), taken_out_at__isnull=True)


def _lifted_query(ids: Sequence[int], first: Value, until: Value, *lifts: str) -> QuerySet[SetRecord, Any]:
    before = _as_written(ids, until, lifts).filter(line__session__day__lt=first, load_kg__gt=0, reps__gt=0)
    return before.order_by().values_list(*WHOSE, "reps", "load_kg").annotate(day=Min("line__session__day"))


def _fastest_query(ids: Sequence[int], first: Value, until: Value, *lifts: str) -> QuerySet[Rep, Any]:
    before = _reps(ids, until, lifts).filter(line__session__day__lt=first, load_kg__gt=0).order_by()
    by_day = before.values_list(*WHOSE, "load_kg", "line__session__day")
    return by_day.annotate(mean=Max("mean_mps"), peak=Max("peak_mps"))


def _fastest_of_sets_query(ids: Sequence[int], first: Value, until: Value, *lifts: str) -> QuerySet[Rep, Any]:
    since = _reps(ids, until, lifts).filter(line__session__day__gte=first).order_by()
    return since.values_list("line_id", "set_number").annotate(mean=Max("mean_mps"), peak=Max("peak_mps"))


def _readings_query(ids: Sequence[int], first: Value, until: Value, *lifts: str) -> QuerySet[Reading, Any]:
    return _readings(ids, until, lifts).order_by().values_list("line_id", "set_number", "values")


def _in_full_query(ids: Sequence[int], first: Value, until: Value, *lifts: str) -> QuerySet[SetRecord, Any]:
    seen_lines = _readings(ids, until, lifts).order_by().values("line_id")
    in_full = Q(line__session__day__gte=first) | ~Q(measures={}) | ~Q(jumps=[]) | Q(line__in=seen_lines)
    return _as_written(ids, until, lifts).filter(in_full).order_by("line__session__day", "pk").values_list(*COLUMNS)


def _results_query(ids: Sequence[int], first: Value, until: Value, *lifts: str) -> QuerySet[MarkRecord, Any]:
    marks = MarkRecord.objects.filter(athlete_id__in=ids[1:], day__lte=until, withdrawn_at__isnull=True, side="")
    marks = marks.filter(exercise_id__in=lifts) if lifts else marks
    return marks.order_by("day", "pk").values_list("pk", "athlete", "exercise_id", "kind", "day", "reps", "load_kg", "measures")


NO_SESSION = 0  # no row has this number
WHOSE = ("line__session__athlete_id", "line__exercise_id")
COLUMNS = ("pk", "line_id", "number", *WHOSE, "line__session__day", "load_kg", "reps", "measures", "jumps")
_LIFTED, _FASTEST, _FASTEST_OF_SETS = map(PutTogether, (_lifted_query, _fastest_query, _fastest_of_sets_query))
_READINGS, _IN_FULL, _RESULTS = map(PutTogether, (_readings_query, _in_full_query, _results_query))
_PLANNED = PutTogether(lambda lines: SessionLine.objects.filter(pk__in=lines).order_by().values_list("pk", "planned"))


def _add_summed_up(found: dict[Of, list[DoneSet]], ids: Sequence[int], asked: Sequence[Value]) -> None:
    """What was lifted before a day, and how fast: as much of it as a later set can be held against."""
    known = exercises()
    for who, lift_id, reps, load_kg, day in _LIFTED.rows(ids, *asked):
        found[who, lift_id].append(DoneSet(day=day, ref="", reps=reps, load_kg=load_kg))
    for who, lift_id, load_kg, day, mean, peak in _FASTEST.rows(ids, *asked):
        if lift_id in known:
            mps = peak if known[lift_id].velocity == "peak" else mean
            found[who, lift_id].append(DoneSet(day=day, ref="", load_kg=load_kg, velocity_mps=mps, measured_by="sensor"))


def _planned_of_runs(rows: Sequence[Row]) -> dict[int, list[dict[str, Any]]]:
    """The sets as told of those lines among some that are runs."""
    runs = {e.id for e in exercises().values() if e.kind == "run"}
    lines = sorted({row[COLUMNS.index("line_id")] for row in rows if row[COLUMNS.index("line__exercise_id")] in runs})
    chunks = (lines[at : at + LINES_AT_ONCE] for at in range(0, len(lines), LINES_AT_ONCE))
    return {pk: planned for some in chunks for pk, planned in _PLANNED.rows(some)}


def _add_in_full(found: dict[Of, list[DoneSet]], rows: Sequence[Row], measured: _Measured) -> None:
    """Sets one by one, with everything that was measured of them."""
    known, planned = exercises(), _planned_of_runs(rows)
    for pk, line_id, number, who, lift_id, day, load_kg, reps, measures, typed in rows:
        lift = known.get(lift_id)
        if lift is None:
            continue
        at = (line_id, number)
        mps, by = _velocity(lift, measured, at, measures)
        jumps = measured.jumps.get(at) or typed
        splits = sorted(measured.gates.get(at, ()), key=lambda s: float(s["seconds"]))
        typed_s = measures.get("time_s")
        time_s = typed_s or (splits[-1]["seconds"] if splits else None)
        is_run = lift.kind == "run"
        if is_run:
            found[who, lift_id] += on_the_way(day, f"set:{pk}", splits, is_typed=bool(typed_s))
        found[who, lift_id].append(
            DoneSet(
                day=day,
                ref=f"set:{pk}",
                reps=reps,
                load_kg=load_kg,
                velocity_mps=mps,
                measured_by=by,
                jump_cm=max((float(j["height_cm"]) for j in jumps if j.get("height_cm")), default=None),
                reactive=max((float(j["rsi"]) for j in jumps if j.get("rsi")), default=None),
                run_s=time_s if is_run else None,
                run_m=_run_m(planned[line_id], number, () if typed_s else splits) if is_run and time_s else None,
                hold_s=time_s if lift.kind == "hold" else None,
                height_cm=measures.get("height_cm"),
                distance_m=measures.get("distance_m"),
            )
        )


def on_the_way(day: date, ref: str, splits: Sequence[Mapping[str, Any]], *, is_typed: bool) -> list[DoneSet]:
    """What a run passed before its last gate, as far as its places are known: that distance was run as well. Where the time of
    the whole is typed, the last gate was passed on the way too.
    """
    passed = sorted(splits, key=lambda s: float(s["seconds"]))
    passed = passed if is_typed else passed[:-1]
    return [DoneSet(day=day, ref=ref, run_s=s["seconds"], run_m=s["metres"]) for s in passed if s.get("metres")]


def _run_m(planned: list[dict[str, Any]], number: int, splits: Sequence[Mapping[str, Any]]) -> float | None:
    """The distance that a run's time is of, in m: of its last gate where that is known, else as it was told."""
    return (splits[-1].get("metres") if splits else None) or metres_of(planned, number)


def _from_results(ids: Sequence[int], asked: Sequence[Value]) -> dict[Of, list[DoneSet]]:
    """What was tested or typed as a result: a best is beyond that as well."""
    found: dict[Of, list[DoneSet]] = defaultdict(list)
    for pk, who, lift_id, said, day, reps, load_kg, measures in _RESULTS.rows(ids, *asked):
        kind, ref = KINDS.get(said), f"mark:{pk}"
        if kind in LIFTED:
            row = DoneSet(day=day, ref=ref, reps=reps, load_kg=load_kg or None)
        elif kind in MEASURED and (reading := read(kind, measures, load_kg)) is not None:
            value, metres = reading.value, measures.get("distance_m")
            row = DoneSet(
                day=day,
                ref=ref,
                load_kg=load_kg or None,
                jump_cm=value if kind is MarkKind.JUMP else None,
                reactive=value if kind is MarkKind.DROP_JUMP else None,
                hold_s=value if kind is MarkKind.HOLD else None,
                run_s=value if kind is MarkKind.SPRINT else None,
                run_m=metres if kind is MarkKind.SPRINT else None,
            )
        else:
            continue
        found[who, lift_id].append(row)
    return found


def _velocity(lift: Exercise, measured: _Measured, at: Place, measures: Mapping[str, float]) -> tuple[float | None, str]:
    """The fastest of a set that counts for the lift, and by what: what was measured by one is not compared with another."""
    is_peak = lift.velocity == "peak"
    if at in measured.sensor:
        return measured.sensor[at][is_peak], "sensor"
    device = [mps for mps, of_peak in measured.device.get(at, ()) if of_peak == is_peak]
    if device:
        return max(device), "device"
    return measures.get("velocity_mps"), "typed"


def metres_of(planned: list[dict[str, Any]], number: int) -> float | None:
    """Return the distance of a run as it was told, in m."""
    told = planned[min(number, len(planned)) - 1] if planned else None
    metres = ToldSet.from_raw(told).metres if told is not None else None
    return float(metres) if metres else None


def _measured(ids: Sequence[int], asked: Sequence[Value]) -> _Measured:
    """What was seen of sets: repetitions from a day on, jumps, gates and devices whenever it was."""
    found = _Measured()
    for line_id, number, mean, peak in _FASTEST_OF_SETS.rows(ids, *asked):
        found.sensor[line_id, number] = mean, peak
    for line_id, number, values in _READINGS.rows(ids, *asked):
        if "mps" in values:
            if values.get("kind") == SetKind.WORK:
                found.device[line_id, number].append((values["mps"], values["peak"]))
        elif "gate" in values:
            found.gates[line_id, number].append(values)
        elif "height_cm" in values:
            found.jumps[line_id, number].append(values)
    return found
