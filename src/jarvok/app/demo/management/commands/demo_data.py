"""Fill an empty database with the demo centre."""

from __future__ import annotations

import time
from argparse import ArgumentParser
from datetime import date, timedelta
from typing import Any

import numpy as np
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.core.management.base import BaseCommand

from jarvok.app import clock
from jarvok.app.accounts.actions import record_person
from jarvok.app.accounts.middleware import DEMO_COACH
from jarvok.app.acts import Who, acting
from jarvok.app.demo import people
from jarvok.app.demo.history import Lifter, Rows, lived_lifting_year, lived_season, masses
from jarvok.app.demo.learned import add_learned
from jarvok.app.demo.other_marks import add_measures
from jarvok.app.facts.athletes.models import Athlete, Fault, Practice, Restriction, Squad
from jarvok.app.facts.people.models import Act, Via
from jarvok.app.facts.seasons.models import CalendarEntry, Competition, Entry, SeasonStyle
from jarvok.app.facts.writing import look_over_tables
from jarvok.app.upkeep.past_weeks import freeze_past_weeks
from jarvok.core.marks.mark import MarkKind
from jarvok.core.season.model import monday_of
from jarvok.core.week.placement import Practice as CorePractice

GYM_LIFTS = ("trap_bar_deadlift", "bench_press", "back_squat", "prone_row")
CLASSIC_LIFTS = ("snatch", "clean_and_jerk", "front_squat", "back_squat")


class Command(BaseCommand):
    help = "Fill an empty database with the demo centre: three squads and a year of simulated training."
    requires_system_checks: list[str] = []  # they read every page's code, which the server does once more a second later

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--migrate", action="store_true", help="bring the database up to date first")
        parser.add_argument("--small", action="store_true", help="ten weeks of history instead of a year")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["migrate"]:
            call_command("migrate", verbosity=0)
        if Athlete.objects.exists():
            self.stdout.write("The demo centre is there already; RESET=1 begins again.")
            return
        began = time.perf_counter()
        people_count, sets = fill(clock.today(), 10 if options["small"] else 52)
        look_over_tables()
        freeze_past_weeks()
        add_learned(clock.today())
        self.stdout.write(f"Demo centre ready: {people_count} athletes, {sets} sets, {time.perf_counter() - began:.1f} s.")


def fill(today: date, weeks: int) -> tuple[int, int]:
    """Fill the database in one act of the demo's coach; return how many athletes and sets there are."""
    user = get_user_model()
    coach, is_new = user.objects.get_or_create(username=DEMO_COACH, defaults={"first_name": "Demo", "last_name": "Coach"})
    if is_new:
        coach.set_unusable_password()
        coach.save()
    with acting(Who(record_person.run(coach), Via.COMMAND), "fill_demo", "the demo centre filled") as act:
        return _fill(act, today, weeks)


def _fill(act: Act, today: date, weeks: int) -> tuple[int, int]:
    rng, rows = np.random.default_rng(20), Rows()
    _wrestling(rows, rng, today, weeks)
    _handball(rows, rng, today, weeks)
    _lifting(rows, rng, today, weeks)
    _calendars(today)
    rows.write(act)
    add_measures(today, act)
    return Athlete.objects.count(), len(rows.sets)


def _practices(squad: Squad, slots: list[tuple[int, float, int, int]]) -> list[CorePractice]:
    for weekday, hour, minutes, hardness in slots:
        Practice.objects.create(squad=squad, weekday=weekday, hour=hour, minutes=minutes, hardness=hardness)
    return [CorePractice(*slot) for slot in slots]


def _athlete(squad: Squad, person: people.Person, today: date, rng: np.random.Generator) -> Lifter:
    athlete = Athlete.objects.create(
        squad=squad,
        name=person.name,
        birth_date=date(person.born, 1 + len(person.name) % 11, 12),
        training_age_years=person.years,
        body_mass_class=person.body_class,
        class_limit_kg=person.limit_kg,
        note=person.note,
        traits=list(people.TRAITS.get(person.name, ())),
    )
    lifter = Lifter(athlete, person, today, rng)
    athlete.simulated = {
        "lifts": {
            lift: {"one_rm_kg": round(t.one_rm_kg, 2), "max_mps": t.max_mps, "light_mps": t.light_mps}
            for lift, t in lifter.truth.items()
        }
    }
    athlete.save()
    return lifter


def _first_tests(rows: Rows, lifter: Lifter, start: date, lifts: tuple[str, ...]) -> None:
    for lift in (*lifts, "step_up"):
        if lift == "step_up" or lifter.person.years < 3:
            lifter.test(rows, lift, start, MarkKind.REP_MAX, 8)
        else:
            lifter.test(rows, lift, start, MarkKind.ONE_RM)


def _wrestling(rows: Rows, rng: np.random.Generator, today: date, weeks: int) -> None:
    squad = Squad.objects.create(name=f"{people.CENTRE} wrestling", sport="wrestling")
    now = today.weekday()  # the two days without mat practice are today and three days on, so that Today has work in it
    free = {now, (now + 3) % 7}
    slots: list[tuple[int, float, int, int]] = []
    for i, weekday in enumerate(d for d in range(7) if d not in free):
        slots.append((weekday, 18.0, 90, (6, 8, 5, 8, 6)[i]))
        if i in (1, 3):
            slots.append((weekday, 7.0, 60, 4))
    practices = _practices(squad, slots)
    day = monday_of(today) + timedelta(weeks=9, days=5)
    bouts = [{"kind": "bout", "name": "Bouts", "contest_day": 0, "load_kg": None}]
    cup = Competition.objects.create(
        squad=squad, name="Gannet Sound Open", day=day, weigh_in=day - timedelta(days=1), events=bouts
    )
    team_cup = Competition.objects.create(squad=squad, name="Quay team cup", day=day - timedelta(weeks=5), rank="secondary")
    for i, person in enumerate(people.WRESTLING):
        lifter = _athlete(squad, person, today, rng)
        start = today - timedelta(weeks=weeks)
        restricted: frozenset[str] = frozenset()
        if "overhead" in person.note:
            Restriction.objects.create(
                athlete=lifter.athlete, tag="overhead", words="Right shoulder: no overhead work", side="right",
                set_by="physiotherapist", since=today - timedelta(days=40),
            )  # fmt: skip
            restricted = frozenset({"overhead"})
        _first_tests(rows, lifter, start, GYM_LIFTS)
        masses(rows, lifter)
        last_day = monday_of(today) - timedelta(days=9 if i == 0 else 64)
        if (last_day - start).days > 21:
            passed = Competition.objects.create(athlete=lifter.athlete, name="Saltmarsh Cup", day=last_day)
            Entry.objects.create(athlete=lifter.athlete, competition=passed, planned_from=start)
            lived_season(rows, lifter, start, last_day, practices, restricted)
        if i == 0:  # no season yet: her marks are a tested 1RM, rep-maxes and the sets of the last season
            for lift in ("trap_bar_deadlift", "bench_press"):
                lifter.test(rows, lift, today - timedelta(days=61), MarkKind.ONE_RM)
            for lift, reps in (("back_squat", 6), ("prone_row", 8)):
                lifter.test(rows, lift, today - timedelta(days=20), MarkKind.REP_MAX, reps)
            continue
        begun = today - timedelta(weeks=9)
        for lift in GYM_LIFTS:
            lifter.test(rows, lift, begun, MarkKind.REP_MAX, 5)
        for ahead in (cup, team_cup):
            Entry.objects.create(athlete=lifter.athlete, competition=ahead, planned_from=begun)
        lived_season(rows, lifter, begun, day, practices, restricted)


def _calendars(today: date) -> None:
    """What fills the calendars: a camp and exams for the wrestlers, a league after the final for the handball squad."""
    monday = monday_of(today)
    wrestling, handball = Squad.objects.get(sport="wrestling"), Squad.objects.get(sport="handball")
    CalendarEntry.objects.create(
        squad=wrestling, kind="camp", name="Camp at the bay", start=monday + timedelta(weeks=2),
        end=monday + timedelta(weeks=2, days=4),
    )  # fmt: skip
    CalendarEntry.objects.create(
        squad=wrestling, kind="holiday", name="Winter holiday", start=monday + timedelta(weeks=5),
        end=monday + timedelta(weeks=5, days=2),
    )  # fmt: skip
    for week in range(6, 17):
        saturday = monday + timedelta(weeks=week, days=5)
        days = [saturday] if week % 4 else [saturday - timedelta(days=3), saturday]
        for day in days:
            CalendarEntry.objects.create(
                squad=handball, kind="match", name=f"Spring league, round {week - 5}", start=day, end=day
            )


def _handball(rows: Rows, rng: np.random.Generator, today: date, weeks: int) -> None:
    squad = Squad.objects.create(name=f"{people.CENTRE} handball", sport="handball")
    now = today.weekday()
    free = {(now + 1) % 7, (now + 4) % 7}
    slots = [(d, 18.5, 90, h) for d, h in zip((d for d in range(7) if d not in free), (6, 7, 5, 9, 7), strict=True)]
    practices = _practices(squad, slots)
    middle, day = monday_of(today) - timedelta(weeks=15, days=1), monday_of(today) + timedelta(weeks=5, days=6)
    play_off = Competition.objects.create(squad=squad, name="Spring play-off", day=middle)
    final = Competition.objects.create(squad=squad, name="Winter Cup final", day=day)
    for person in people.HANDBALL:
        lifter = _athlete(squad, person, today, rng)
        start = today - timedelta(weeks=weeks)
        _first_tests(rows, lifter, start, GYM_LIFTS)
        masses(rows, lifter)
        if (middle - start).days > 28:
            Entry.objects.create(athlete=lifter.athlete, competition=play_off, planned_from=start)
            lived_season(rows, lifter, start, middle, practices, frozenset())
        begun = today - timedelta(weeks=12)
        if weeks >= 14:
            for lift in GYM_LIFTS:
                lifter.test(rows, lift, begun, MarkKind.REP_MAX, 6)
        Entry.objects.create(athlete=lifter.athlete, competition=final, planned_from=begun)
        lived_season(rows, lifter, max(begun, start), day, practices, frozenset())


def _lifting(rows: Rows, rng: np.random.Generator, today: date, weeks: int) -> None:
    squad = Squad.objects.create(name=f"{people.CENTRE} weightlifting", sport="weightlifting")
    for person in people.LIFTING:
        lifter = _athlete(squad, person, today, rng)
        start = today - timedelta(weeks=weeks)
        for lift in (*CLASSIC_LIFTS, "snatch_pull"):
            lifter.test(rows, lift, start, MarkKind.ONE_RM)
        masses(rows, lifter)
        lived_lifting_year(rows, lifter, start)
        for back in (24, 12, 3):
            if back < weeks:
                for lift in CLASSIC_LIFTS:
                    lifter.test(rows, lift, today - timedelta(weeks=back), MarkKind.ONE_RM)
        if person.name in people.LIFTING_AHEAD:
            _lifting_season(lifter.athlete, today)
        if "snatch" in person.note:
            Fault.objects.create(
                athlete=lifter.athlete, exercise_id="snatch", fault="slow_under_the_bar", since=today - timedelta(days=60)
            )


def _lifting_season(athlete: Athlete, today: date) -> None:
    """A club meet to freshen up for on the way to a championship."""
    begun, saturday = today - timedelta(weeks=3), monday_of(today) + timedelta(days=5)
    lifts = [{"kind": "competition_lifts", "name": "Both lifts", "contest_day": 0, "load_kg": None}]
    meet = Competition(name="Harbour club meet", day=saturday + timedelta(weeks=5), rank="secondary")
    championship = Competition(name="Coast championship", day=saturday + timedelta(weeks=13), events=lifts)
    for ahead in (meet, championship):
        ahead.athlete = athlete
        ahead.save()
        Entry.objects.create(athlete=athlete, competition=ahead, planned_from=begun)
    SeasonStyle.objects.create(athlete=athlete, arrangement="linear")
