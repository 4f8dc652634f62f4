"""The board of a room: what may be competed in today, who has done what of it."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetKind, TrainingSession
from jarvok.app.facts.room.models import Gathering
from jarvok.app.floor.lines import FloorLine, FloorSet, counted_mps, floor_lines, run_s, with_parts
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.floor.compete import SHOWN, Metric, Row, Tried, best_of, board, metrics_of
from jarvok.core.library.exercises import exercise, exercises


@dataclass(frozen=True)
class Choice:
    """One number of one exercise: its key, and how it is called."""

    key: str
    name: str


@dataclass(frozen=True)
class Board:
    """What can be chosen, what is, its rows, and who of those here is not shown or has not tried."""

    choices: tuple[Choice, ...]
    chosen: str
    title: str
    unit: str
    decimals: int
    rows: tuple[Row, ...]
    people: tuple[Athlete, ...]


def chosen_of(key: str) -> tuple[Metric, Exercise] | None:
    """Return the metric and the exercise of a key such as `height:countermovement_jump`; None of nothing."""
    name, _, exercise_id = key.partition(":")
    if not key:
        return None
    if name not in set(Metric) or exercise_id not in exercises() or Metric(name) not in metrics_of(exercise(exercise_id)):
        raise CoachError("That cannot be competed in.", where="key", accepted="One of the numbers that are offered.")
    return Metric(name), exercise(exercise_id)


def sessions_today(gathering: Gathering) -> list[TrainingSession]:
    """Every session of the squad and its guests that day, with its parts."""
    rows = TrainingSession.objects.filter(athlete__attendances__gathering=gathering, day=gathering.day)
    return with_parts(rows.select_related("athlete__squad", "athlete__kit"))


def board_of(gathering: Gathering) -> Board:
    """Return the board of a gathering."""
    sessions = sessions_today(gathering)
    lines = {s.pk: floor_lines(s) for s in sessions}
    lifts = {x.line.exercise_id for rows in lines.values() for x in rows}
    choices = [
        Choice(f"{m}:{e}", f"{exercise(e).name}: {SHOWN[m].name}")
        for e in sorted(lifts, key=lambda e: exercise(e).name)
        for m in metrics_of(exercise(e))
    ]
    people = Athlete.objects.filter(attendances__gathering=gathering, attendances__is_here=True).order_by("name")
    found = chosen_of(gathering.compete)
    if found is None:
        return Board(tuple(choices), "", "", "", 0, (), tuple(people))
    metric, lift = found
    tried: dict[int, Tried] = {}
    for session in sessions:
        values = [
            v
            for line in lines[session.pk]
            if line.line.exercise_id == lift.id
            for s in line.sets
            if s.kind == SetKind.WORK
            for v in values_of(metric, s, lift)
        ]
        was = tried.get(session.athlete_id)
        both = (*(was.values if was else ()), *values)
        tried[session.athlete_id] = Tried(session.athlete_id, session.athlete.name, both, is_shown=not session.athlete.not_ranked)
    shown = SHOWN[metric]
    rows = board(metric, list(tried.values()))
    return Board(tuple(choices), gathering.compete, f"{lift.name}: {shown.name}", shown.unit, shown.decimals, rows, tuple(people))


def todays_best(key: str, lines: list[FloorLine]) -> str:
    """What somebody has done today of what is competed in, in words; nothing before the first."""
    found = chosen_of(key)
    if found is None:
        return ""
    metric, lift = found
    mine = [s for x in lines if x.line.exercise_id == lift.id for s in x.sets if s.kind == SetKind.WORK]
    best = best_of(metric, [v for s in mine for v in values_of(metric, s, lift)])
    shown = SHOWN[metric]
    return f"best {shown.name} today {best:.{shown.decimals}f} {shown.unit}" if best is not None else ""


def values_of(metric: Metric, item: FloorSet, lift: Exercise) -> tuple[float, ...]:
    """What a set gives of a metric."""
    if metric is Metric.VELOCITY:
        return counted_mps(item, lift.velocity == "peak")
    if metric is Metric.TIME:
        time_s = run_s(item)
        return (time_s,) if time_s is not None else ()
    key = {Metric.HEIGHT: "height_cm", Metric.RSI: "rsi", Metric.CONTACT: "contact_s"}[metric]
    return tuple(float(j[key]) for j in item.jumps if j.get(key))
