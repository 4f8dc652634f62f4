"""What sets say of athletes' lifts, session by session: after a set only the sessions of which something was told are read again.

Whatever changes a set or a repetition of a session tells the pages of it in the same transaction; the events of one athlete go
through in the order of their numbers. A session of which nothing was told since it was read says what it said then.
"""

from __future__ import annotations

import json
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from functools import lru_cache
from typing import Any, NamedTuple

from django.db.models import Max, Q, QuerySet, TextField
from django.db.models.functions import Cast

from jarvok.app.facts.floor.hung import HELPED, HUNG
from jarvok.app.facts.floor.models import FloorEvent, Rep, SetKind, SetRecord, TrainingSession
from jarvok.core.equations import EPLEY, MOST_REPS
from jarvok.core.library.exercises import exercises
from jarvok.core.marks.conditions import from_raw
from jarvok.core.marks.mark import Conditions, Mark, MarkKind
from jarvok.core.velocity.definition import Definition
from jarvok.core.velocity.profile import LoadVelocity


class Heaviest(NamedTuple):
    """The heaviest set of one count of repetitions of a session whose effort nobody told: its max in kg by it, and the mark."""

    lift_id: str
    says_kg: float
    mark: Mark


@dataclass
class OfSession:
    """What the sets of one session say, by lift: with their effort told, without, by a sensor of ours, by another device."""

    told: list[tuple[str, Mark]] = field(default_factory=list)
    untold: list[Heaviest] = field(default_factory=list)
    points: list[tuple[str, LoadVelocity]] = field(default_factory=list)
    typed: list[tuple[str, LoadVelocity]] = field(default_factory=list)


@dataclass
class SetsOf:
    """What the sets of one athlete say, by session; `heard` is the newest event told of any of them when they were read."""

    sessions: dict[int, OfSession] = field(default_factory=dict)
    heard: int = 0

    def marks(self) -> Iterator[tuple[str, Mark]]:
        """The sets whose effort was told, then the heaviest of each day of the others."""
        best: dict[tuple[str, date, Conditions], Heaviest] = {}
        for of in self._in_order():
            yield from of.told
            for found in of.untold:
                place = (found.lift_id, found.mark.day, found.mark.conditions)
                if place not in best or found.says_kg > best[place].says_kg:
                    best[place] = found
        yield from ((found.lift_id, found.mark) for found in best.values())

    def points(self) -> Iterator[tuple[str, LoadVelocity]]:
        """Loads and velocities; of a set that a sensor of ours has measured its own alone."""
        seen: set[str] = set()
        for of in self._in_order():
            seen.update(point.ref for _, point in of.points)
            yield from of.points
        for of in self._in_order():
            yield from ((lift_id, point) for lift_id, point in of.typed if point.ref not in seen)

    def _in_order(self) -> Iterator[OfSession]:
        return (self.sessions[pk] for pk in sorted(self.sessions))


@dataclass(frozen=True)
class Asked:
    """Up to which day, and since when: marks and velocities reach back differently. One session may be left out."""

    day: date
    marks_since: date
    velocities_since: date
    without_session: int | None


def read_sets(masses_kg: Mapping[int, float | None], asked: Asked, before: Mapping[int, SetsOf]) -> dict[int, SetsOf]:
    """Return what sets say of each athlete: read, or as before but for the sessions of which something was told since.

    `masses_kg` are all athletes with their body mass, which must be what it was where there is a `before`.
    """
    found = {pk: SetsOf(dict(old.sessions), old.heard) for pk, old in before.items()}
    changed = _changed_since(before) if before else {}
    for athlete_id, sessions in changed.items():
        found[athlete_id].heard = max(sessions.values())
        for session in sessions:
            found[athlete_id].sessions[session] = OfSession()
    for athlete_id, heard in _newest_heard([pk for pk in masses_kg if pk not in before], asked).items():
        found[athlete_id] = SetsOf(heard=heard)
    again = [session for sessions in changed.values() for session in sessions]
    anew = [pk for pk in found if pk not in before]
    if anew:
        _read(found, masses_kg, asked, Q(line__session__athlete_id__in=anew))
    if again:
        _read(found, masses_kg, asked, Q(line__session_id__in=again))
    return found


def _changed_since(before: Mapping[int, SetsOf]) -> dict[int, dict[int, int]]:
    """The sessions of which something was told since, by athlete, each with its newest event."""
    rows = FloorEvent.objects.filter(session__athlete_id__in=list(before), pk__gt=min(old.heard for old in before.values()))
    found: dict[int, dict[int, int]] = {}
    for athlete_id, session, event in rows.order_by().values_list("session__athlete_id", "session_id").annotate(Max("pk")):
        if event > before[athlete_id].heard:
            found.setdefault(athlete_id, {})[session] = event
    return found


def _newest_heard(ids: Collection[int], asked: Asked) -> dict[int, int]:
    """The newest event of any session that is asked for, by athlete; 0 where there is none."""
    if not ids:
        return {}
    since = min(asked.marks_since, asked.velocities_since)
    rows = TrainingSession.objects.filter(athlete_id__in=ids, day__range=(since, asked.day)).order_by()
    newest = dict(rows.values_list("athlete_id").annotate(Max("events")))
    return {pk: newest.get(pk) or 0 for pk in ids}


def _read(found: Mapping[int, SetsOf], masses_kg: Mapping[int, float | None], asked: Asked, whose: Q) -> None:
    _read_marks(found, masses_kg, asked, whose)
    _read_velocities(found, asked, whose)
    _read_typed(found, asked, whose)


def _of(found: Mapping[int, SetsOf], athlete_id: int, session: int) -> OfSession:
    return found[athlete_id].sessions.setdefault(session, OfSession())


WHERE = ("line__session_id", "line__session__athlete_id", "line__exercise_id", "line__session__day")


def _read_marks(found: Mapping[int, SetsOf], masses_kg: Mapping[int, float | None], asked: Asked, whose: Q) -> None:
    known = exercises()
    weighed = [pk for pk in found if masses_kg[pk]]
    with_body = [e.id for e in known.values() if e.carries_body]  # with nothing added they say something, once weighed
    rows = (
        SetRecord.objects.filter(
            whose,
            Q(load_kg__gt=0) | Q(line__exercise_id__in=with_body, line__session__athlete_id__in=weighed),
            line__session__day__range=(asked.marks_since, asked.day),
            kind=SetKind.WORK,
            reps__range=(1, MOST_REPS),
            trouble="",
            form="",  # an easier or harder form is another exercise as far as the max goes
            taken_back_at__isnull=True,
        )
        .exclude(HELPED | Q(line__session_id=asked.without_session))
        .annotate(said=Cast("line__conditions", TextField()))
        .order_by()
    )
    told = rows.filter(Q(rir__isnull=False) | Q(is_all_out=True)).exclude(HUNG)
    for pk, session, athlete_id, exercise_id, day, load_kg, reps, rir, said in _in_order(
        told.values_list("pk", *WHERE, "load_kg", "reps", "rir", "said")
    ):
        kind = MarkKind.AMRAP if rir is None else MarkKind.SET_RIR
        mark = Mark(f"set:{pk}", day, kind, load_kg or 0.0, reps, rir or 0.0, conditions=conditions_of(said))
        _of(found, athlete_id, session).told.append((known[exercise_id].same_lift, mark))
    untold = (  # the heaviest of each count: of unknown effort, or with bands or chains, the max is no less
        rows.filter(HUNG | Q(rir__isnull=True, is_all_out=False))
        .values_list(*WHERE, "reps", "said")
        .annotate(heaviest=Max("load_kg"), last=Max("pk"))
    )
    for session, athlete_id, exercise_id, day, reps, said, load_kg, pk in sorted(untold, key=lambda row: row[-1]):
        lift = known[exercise_id]
        body_kg = masses_kg[athlete_id] or 0.0 if lift.carries_body else 0.0
        mark = Mark(f"set:{pk}", day, MarkKind.SET_DONE, load_kg or 0.0, reps, conditions=conditions_of(said))
        heaviest = Heaviest(lift.same_lift, EPLEY.one_rm_kg((load_kg or 0.0) + body_kg, reps), mark)
        _of(found, athlete_id, session).untold.append(heaviest)


def _in_order(rows: QuerySet[Any, Any]) -> Iterable[Any]:
    """By the first column, which is the key of the row: the database gives them as they come."""
    return sorted(rows, key=lambda row: row[0])


def _read_velocities(found: Mapping[int, SetsOf], asked: Asked, whose: Q) -> None:
    """The fastest repetition of each set that a sensor has seen."""
    rows = (
        Rep.objects.filter(
            whose,
            line__session__day__range=(asked.velocities_since, asked.day),
            load_kg__gt=0,
            taken_out_at__isnull=True,
        )
        .exclude(HUNG | Q(line__session_id=asked.without_session))
        .order_by()
        .values_list(*WHERE, "line_id", "kind", "set_number", "load_kg", "definition")
        .annotate(mean=Max("mean_mps"), peak=Max("peak_mps"))
    )
    known = exercises()
    for session, athlete_id, exercise_id, day, line_id, kind, number, load_kg, definition, mean, peak in sorted(rows):
        lift = known[known[exercise_id].same_lift]
        velocity = peak if lift.velocity == "peak" else mean
        point = LoadVelocity(day, load_kg, velocity, f"line:{line_id}:{kind}:{number}", Definition(definition))
        _of(found, athlete_id, session).points.append((lift.id, point))


def _read_typed(found: Mapping[int, SetsOf], asked: Asked, whose: Q) -> None:
    """Velocities that were typed at the rack: as another device gave them, never mixed with those of a sensor of ours."""
    rows = SetRecord.objects.filter(
        whose, line__session__day__range=(asked.velocities_since, asked.day), load_kg__gt=0, form="", taken_back_at__isnull=True
    ).exclude(HUNG | Q(measures={}) | Q(line__session_id=asked.without_session))
    known = exercises()
    for _, session, athlete_id, exercise_id, day, line_id, kind, number, load_kg, said in _in_order(
        rows.values_list("pk", *WHERE, "line_id", "kind", "number", "load_kg", "measures")
    ):
        if "velocity_mps" in said and load_kg:
            ref = f"line:{line_id}:{kind}:{number}"
            point = LoadVelocity(day, load_kg, float(said["velocity_mps"]), ref, Definition.DEVICE)
            _of(found, athlete_id, session).typed.append((known[exercise_id].same_lift, point))


@lru_cache(maxsize=512)
def conditions_of(raw: str) -> Conditions:
    """Conditions from the text of their column: most rows say the same few, and none is what most say."""
    told: dict[str, Any] = json.loads(raw)
    return from_raw(told)
