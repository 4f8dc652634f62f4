"""A centre as large as a national one, for measuring: a score of lifters simulated, the others copied from them with jitter.

Nothing in it is anybody's. What is copied of a lifter: sessions, sets, repetitions, results, body mass and the weeks as told.
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta
from typing import Any

import numpy as np
from django.db import models
from numpy.random import Generator

from jarvok.app.demo.history import Lifter, Rows, lived_season, masses
from jarvok.app.demo.many import Many
from jarvok.app.demo.people import Person
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.floor.models import SessionLine, TrainingSession
from jarvok.app.facts.people.models import Act
from jarvok.app.facts.seasons.models import Competition, Entry
from jarvok.app.facts.training.models import ToldWeek
from jarvok.core.marks.mark import MarkKind
from jarvok.core.season.model import monday_of
from jarvok.core.week.placement import Practice as CorePractice

SQUADS = 12
SIMULATED = 20
SEASON_WEEKS = 24  # [T] from one main competition to the next
AHEAD_WEEKS = 9  # [T] the next main competition
STEP_KG = 2.5
GYM_LIFTS = ("trap_bar_deadlift", "bench_press", "back_squat", "prone_row")
PRACTICES = ((0, 18.0, 90, 6), (2, 18.0, 90, 8), (3, 18.0, 90, 5), (5, 10.0, 90, 8))
SPORTS = ("wrestling", "handball")
FIRST = (
    "Ara",
    "Bel",
    "Cor",
    "Dun",
    "Els",
    "Fen",
    "Gar",
    "Hal",
    "Isk",
    "Jor",
    "Kel",
    "Lun",
    "Mer",
    "Nol",
    "Osk",
    "Pel",
    "Rud",
    "Sel",
)
LAST = ("aven", "brook", "crest", "dale", "erling", "ford", "garth", "holm", "istrom", "kvist", "land", "mark", "ness", "quist")
ENDS = ("a", "en", "i", "o", "un", "ys")


class Told:
    """A simulated lifter with everything that was written of them, as the database takes it: what copies are made of."""

    def __init__(self, lifter: Lifter, rows: Rows) -> None:
        self.lifter = lifter
        self.sessions, self.lines, self.sets = Many(rows.sessions), Many(rows.lines), Many(rows.sets)
        self.reps, self.marks, self.masses = Many(rows.reps), Many(rows.marks), Many(rows.masses)
        session_at = {s.pk: i for i, s in enumerate(rows.sessions)}
        line_at = {r.pk: i for i, r in enumerate(rows.lines)}
        self.session_of_line = [session_at[r.session_id] for r in rows.lines]
        self.line_of_set, self.line_of_rep = [line_at[s.line_id] for s in rows.sets], [line_at[r.line_id] for r in rows.reps]
        self.told_of_lines = [(r.ramp, r.planned) for r in rows.lines]


def fill_large(today: date, athletes: int, years: int, act: Act) -> Iterator[str]:
    """Fill an empty database; say after each athlete how far it is.

    Args:
        athletes: how many, in twelve squads.
        years: how far back their training goes.
    """
    rng = np.random.default_rng(11)
    squads = [_squad(n, today, years) for n in range(SQUADS)]
    told: list[Told] = []
    for n in range(athletes):
        squad, goals = squads[n % SQUADS]
        person = _person(n, rng)
        if len(told) < min(SIMULATED, athletes):
            told.append(_simulated(squad, goals, person, today, years, rng, act))
        else:
            mine = [t for t in told if t.lifter.athlete.squad.sport == squad.sport] or told
            _copied(mine[n % len(mine)], squad, goals, person, float(rng.uniform(0.85, 1.15)), act)
        yield f"{n + 1} of {athletes}"


def copy_told_weeks(act: Act) -> None:
    """Give every athlete the weeks as told of one who was simulated; those of the simulated are frozen before this."""
    having = dict[str, list[Many]]()
    for athlete in Athlete.objects.filter(pk__in=ToldWeek.objects.values("athlete")).select_related("squad"):
        weeks = Many(list(ToldWeek.objects.filter(athlete=athlete).order_by("pk")))
        having.setdefault(athlete.squad.sport, []).append(weeks)
    without = Athlete.objects.exclude(pk__in=ToldWeek.objects.values("athlete")).select_related("squad")
    for n, athlete in enumerate(list(without)):
        of_sport = having[athlete.squad.sport]
        of_sport[n % len(of_sport)].store(athlete_id=athlete.pk, act_id=act.pk)


def simulated() -> models.QuerySet[Athlete]:
    """Those whose training was simulated, and whose weeks are therefore to be frozen."""
    return Athlete.objects.filter(simulated__isnull=False)


def _squad(n: int, today: date, years: int) -> tuple[Squad, list[tuple[Competition, date]]]:
    """A squad with its practices and the competitions of its years, each with the day on which its season begins."""
    squad = Squad.objects.create(name=f"Coast squad {n + 1:02d}", sport=SPORTS[n % len(SPORTS)])
    for weekday, hour, minutes, hardness in PRACTICES:
        Practice.objects.create(squad=squad, weekday=weekday, hour=hour, minutes=minutes, hardness=hardness)
    start, last = today - timedelta(weeks=52 * years), monday_of(today) + timedelta(weeks=AHEAD_WEEKS, days=5)
    days = [last]
    while days[-1] - timedelta(weeks=SEASON_WEEKS) > start + timedelta(weeks=8):
        days.append(days[-1] - timedelta(weeks=SEASON_WEEKS))
    days.reverse()
    begins = [start, *(d + timedelta(days=2) for d in days[:-1])]
    return squad, [
        (Competition.objects.create(squad=squad, name=f"Coast meeting {d:%b %Y}", day=d), b)
        for d, b in zip(days, begins, strict=True)
    ]


def _person(n: int, rng: Generator) -> Person:
    name = f"{FIRST[n % len(FIRST)]}{ENDS[n // len(FIRST) % len(ENDS)]} {FIRST[n * 7 % len(FIRST)]}{LAST[n * 5 % len(LAST)]}"
    strength, years = float(rng.uniform(0.8, 1.4)), float(rng.integers(3, 11))
    return Person(f"{name} {n + 1}", 1996 + n % 10, years, round(60 + 35 * (strength - 0.8), 1), strength)


def _athlete(squad: Squad, goals: list[tuple[Competition, date]], person: Person) -> Athlete:
    athlete = Athlete.objects.create(
        squad=squad, name=person.name, birth_date=date(person.born, 5, 12), training_age_years=person.years
    )
    Entry.objects.bulk_create(Entry(athlete=athlete, competition=c, planned_from=begins) for c, begins in goals)
    return athlete


def _simulated(
    squad: Squad, goals: list[tuple[Competition, date]], person: Person, today: date, years: int, rng: Generator, act: Act
) -> Told:
    lifter, rows = Lifter(_athlete(squad, goals, person), person, today, rng), Rows()
    lifter.athlete.simulated = {"lifts": {}}
    lifter.athlete.save()
    practices = [CorePractice(*p) for p in PRACTICES]
    for competition, begins in goals:
        for lift in GYM_LIFTS:
            lifter.test(rows, lift, begins, MarkKind.REP_MAX, 5)
        lived_season(rows, lifter, begins, competition.day, practices, frozenset())
    masses(rows, lifter)
    rows.write(act)
    return Told(lifter, rows)


def _scaled(load_kg: float | None, by: float) -> float | None:
    return None if load_kg is None else max(STEP_KG, round(load_kg * by / STEP_KG) * STEP_KG)


def _loads(of: Many, by: float, column: str = "load_kg") -> list[float | None]:
    return [_scaled(kg, by) for kg in of.columns.get(column, ())]


def _scaled_told(told: list[dict[str, Any]], by: float) -> list[dict[str, Any]]:
    return [t | {"load_kg": _scaled(t.get("load_kg"), by)} if t.get("load_kg") else t for t in told]


def _copied(told: Told, squad: Squad, goals: list[tuple[Competition, date]], person: Person, by: float, act: Act) -> None:
    athlete = _athlete(squad, goals, person)
    told.sessions.store(athlete_id=athlete.pk, act_id=act.pk)
    sessions = list(TrainingSession.objects.filter(athlete=athlete).order_by("pk").values_list("pk", flat=True))
    told.lines.store(
        session_id=[sessions[at] for at in told.session_of_line],
        ramp=told.lines.prepared("ramp", [_scaled_told(ramp, by) for ramp, _ in told.told_of_lines]),
        planned=told.lines.prepared("planned", [_scaled_told(planned, by) for _, planned in told.told_of_lines]),
    )
    lines = list(SessionLine.objects.filter(session__athlete=athlete).order_by("pk").values_list("pk", flat=True))
    told.sets.store(
        line_id=[lines[at] for at in told.line_of_set],
        act_id=act.pk,
        load_kg=_loads(told.sets, by),
        planned_load_kg=_loads(told.sets, by, "planned_load_kg"),
    )
    told.reps.store(line_id=[lines[at] for at in told.line_of_rep], load_kg=_loads(told.reps, by))
    told.marks.store(athlete_id=athlete.pk, act_id=act.pk, load_kg=_loads(told.marks, by))
    told.masses.store(athlete_id=athlete.pk, act_id=act.pk)
