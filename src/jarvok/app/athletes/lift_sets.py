"""What sets say of athletes' lifts, session by session: after a set only the sessions of which something was told are read again.

Whatever changes a set or a repetition of a session tells the pages of it in the same transaction; the events of one athlete go
through in the order of their numbers. A session of which nothing was told since it was read says what it said then.
"""

from __future__ import annotations

import json
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import lru_cache
from typing import Any, NamedTuple

from django.db.models import Max, Q, QuerySet, TextField
from django.db.models.functions import Cast

from jarvok.app.facts.floor.hung import HELPED, HUNG
from jarvok.app.facts.floor.models import FloorEvent, Rep, SetKind, SetRecord, TrainingSession
from jarvok.app.facts.put_together import PutTogether
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
    changed = told_since({pk: old.heard for pk, old in before.items()}) if before else {}
    for athlete_id, sessions in changed.items():
        found[athlete_id].heard = max(sessions.values())
        for session in sessions:
            found[athlete_id].sessions[session] = OfSession()
    for athlete_id, heard in _newest_heard([pk for pk in masses_kg if pk not in before], asked).items():
        found[athlete_id] = SetsOf(heard=heard)
    again = [session for sessions in changed.values() for session in sessions]
    anew = [pk for pk in found if pk not in before]
    _read(found, masses_kg, asked, OF_ATHLETES, anew)
    _read(found, masses_kg, asked, OF_SESSIONS, again)
    return found


def told_since(heard: Mapping[int, int]) -> dict[int, dict[int, int]]:
    """Return the sessions of which something was told since what was heard of each athlete, each with its newest event."""
    found: dict[int, dict[int, int]] = {}
    for athlete_id, session, event in _TOLD_SINCE.rows([min(heard.values()), *heard]):
        if event > heard[athlete_id]:
            found.setdefault(athlete_id, {})[session] = event
    return found


def _newest_heard(ids: Collection[int], asked: Asked) -> dict[int, int]:
    """The newest event of any session that is asked for, by athlete; 0 where there is none."""
    if not ids:
        return {}
    newest: dict[int, int | None] = dict(_NEWEST.rows(list(ids), min(asked.marks_since, asked.velocities_since), asked.day))
    return {pk: newest.get(pk) or 0 for pk in ids}


def _read(
    found: Mapping[int, SetsOf], masses_kg: Mapping[int, float | None], asked: Asked, whose: str, ids: Sequence[int]
) -> None:
    if ids:
        _read_marks(found, masses_kg, asked, whose, ids)
        _read_velocities(found, asked, whose, ids)
        _read_typed(found, asked, whose, ids)


def _of(found: Mapping[int, SetsOf], athlete_id: int, session: int) -> OfSession:
    return found[athlete_id].sessions.setdefault(session, OfSession())


WHERE = ("line__session_id", "line__session__athlete_id", "line__exercise_id", "line__session__day")
OF_ATHLETES, OF_SESSIONS = "line__session__athlete_id__in", "line__session_id__in"


def _told_since(numbers: Sequence[int]) -> QuerySet[FloorEvent, Any]:
    """Of sessions of some athletes the newest event of each after one, whose number comes first."""
    rows = FloorEvent.objects.filter(session__athlete_id__in=numbers[1:], pk__gt=numbers[0]).order_by()
    return rows.values_list("session__athlete_id", "session_id").annotate(Max("pk"))


def _newest(ids: Sequence[int], since: date, day: date) -> QuerySet[TrainingSession, Any]:
    rows = TrainingSession.objects.filter(athlete_id__in=ids, day__range=(since, day)).order_by()
    return rows.values_list("athlete_id").annotate(Max("events"))


def _work_sets(
    whose: str, with_body: Collection[str], ids: Sequence[int], since: date, day: date
) -> QuerySet[SetRecord, SetRecord]:
    """Sets that say something of a max; `with_body` are exercises that say something with nothing added."""
    return (
        SetRecord.objects.filter(
            Q(load_kg__gt=0) | Q(line__exercise_id__in=with_body),
            **{whose: ids},
            line__session__day__range=(since, day),
            kind=SetKind.WORK,
            reps__range=(1, MOST_REPS),
            trouble="",
            form="",  # an easier or harder form is another exercise as far as the max goes
            taken_back_at__isnull=True,
        )
        .exclude(HELPED)
        .annotate(said=Cast("line__conditions", TextField()))
        .order_by()
    )


@lru_cache(maxsize=8)
def _told(whose: str, with_body: frozenset[str]) -> PutTogether:
    """Sets whose effort was told."""

    def rows(ids: Sequence[int], since: date, day: date) -> QuerySet[SetRecord, Any]:
        told = _work_sets(whose, with_body, ids, since, day).filter(Q(rir__isnull=False) | Q(is_all_out=True)).exclude(HUNG)
        return told.values_list("pk", *WHERE, "load_kg", "reps", "rir", "said")

    return PutTogether(rows)


@lru_cache(maxsize=8)
def _untold(whose: str, with_body: frozenset[str]) -> PutTogether:
    """The heaviest set of each count of repetitions: of unknown effort, or with bands or chains, the max is no less."""

    def rows(ids: Sequence[int], since: date, day: date) -> QuerySet[SetRecord, Any]:
        untold = _work_sets(whose, with_body, ids, since, day).filter(HUNG | Q(rir__isnull=True, is_all_out=False))
        return untold.values_list(*WHERE, "reps", "said").annotate(heaviest=Max("load_kg"), last=Max("pk"))

    return PutTogether(rows)


def _fastest(whose: str) -> PutTogether:
    """The fastest repetition of each set that a sensor has seen."""

    def rows(ids: Sequence[int], since: date, day: date) -> QuerySet[Rep, Any]:
        reps = Rep.objects.filter(
            **{whose: ids}, line__session__day__range=(since, day), load_kg__gt=0, taken_out_at__isnull=True
        )
        columns = reps.exclude(HUNG).order_by().values_list(*WHERE, "line_id", "kind", "set_number", "load_kg", "definition")
        return columns.annotate(mean=Max("mean_mps"), peak=Max("peak_mps"))

    return PutTogether(rows)


def _typed(whose: str) -> PutTogether:
    """Sets with anything measured that was typed."""

    def rows(ids: Sequence[int], since: date, day: date) -> QuerySet[SetRecord, Any]:
        sets = SetRecord.objects.filter(
            **{whose: ids}, line__session__day__range=(since, day), load_kg__gt=0, form="", taken_back_at__isnull=True
        )
        columns = sets.exclude(HUNG | Q(measures={})).order_by()
        return columns.values_list("pk", *WHERE, "line_id", "kind", "number", "load_kg", "measures")

    return PutTogether(rows)


_TOLD_SINCE, _NEWEST = PutTogether(_told_since), PutTogether(_newest)
_FASTEST = {whose: _fastest(whose) for whose in (OF_ATHLETES, OF_SESSIONS)}
_TYPED = {whose: _typed(whose) for whose in (OF_ATHLETES, OF_SESSIONS)}


def _read_marks(
    found: Mapping[int, SetsOf], masses_kg: Mapping[int, float | None], asked: Asked, whose: str, ids: Sequence[int]
) -> None:
    known = exercises()
    with_body = frozenset(e.id for e in known.values() if e.carries_body)
    told = _told(whose, with_body).rows(ids, asked.marks_since, asked.day)
    for pk, session, athlete_id, exercise_id, day, load_kg, reps, rir, said in sorted(told, key=lambda row: row[0]):
        if session == asked.without_session or not (load_kg or masses_kg[athlete_id]):
            continue
        kind = MarkKind.AMRAP if rir is None else MarkKind.SET_RIR
        mark = Mark(f"set:{pk}", day, kind, load_kg or 0.0, reps, rir or 0.0, conditions=conditions_of(said))
        _of(found, athlete_id, session).told.append((known[exercise_id].same_lift, mark))
    untold = _untold(whose, with_body).rows(ids, asked.marks_since, asked.day)
    for session, athlete_id, exercise_id, day, reps, said, load_kg, pk in sorted(untold, key=lambda row: row[-1]):
        if session == asked.without_session or not (load_kg or masses_kg[athlete_id]):
            continue
        lift = known[exercise_id]
        body_kg = masses_kg[athlete_id] or 0.0 if lift.carries_body else 0.0
        mark = Mark(f"set:{pk}", day, MarkKind.SET_DONE, load_kg or 0.0, reps, conditions=conditions_of(said))
        heaviest = Heaviest(lift.same_lift, EPLEY.one_rm_kg((load_kg or 0.0) + body_kg, reps), mark)
        _of(found, athlete_id, session).untold.append(heaviest)


def _read_velocities(found: Mapping[int, SetsOf], asked: Asked, whose: str, ids: Sequence[int]) -> None:
    """The fastest repetition of each set that a sensor has seen."""
    known = exercises()
    rows = _FASTEST[whose].rows(ids, asked.velocities_since, asked.day)
    for session, athlete_id, exercise_id, day, line_id, kind, number, load_kg, definition, mean, peak in sorted(rows):
        if session == asked.without_session:
            continue
        lift = known[known[exercise_id].same_lift]
        velocity = peak if lift.velocity == "peak" else mean
        point = LoadVelocity(day, load_kg, velocity, f"line:{line_id}:{kind}:{number}", Definition(definition))
        _of(found, athlete_id, session).points.append((lift.id, point))


def _read_typed(found: Mapping[int, SetsOf], asked: Asked, whose: str, ids: Sequence[int]) -> None:
    """Velocities that were typed at the rack: as another device gave them, never mixed with those of a sensor of ours."""
    known = exercises()
    rows = _TYPED[whose].rows(ids, asked.velocities_since, asked.day)
    for _, session, athlete_id, exercise_id, day, line_id, kind, number, load_kg, said in sorted(rows, key=lambda row: row[0]):
        if "velocity_mps" in said and load_kg and session != asked.without_session:
            ref = f"line:{line_id}:{kind}:{number}"
            point = LoadVelocity(day, load_kg, float(said["velocity_mps"]), ref, Definition.DEVICE)
            _of(found, athlete_id, session).typed.append((known[exercise_id].same_lift, point))


@lru_cache(maxsize=512)
def conditions_of(raw: str) -> Conditions:
    """Conditions from the text of their column: most rows say the same few, and none is what most say."""
    told: dict[str, Any] = json.loads(raw)
    return from_raw(told)
