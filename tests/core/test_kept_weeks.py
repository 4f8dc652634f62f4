"""What is kept of weeks that were worked out: the same facts give the same week, every other fact another key."""

from __future__ import annotations

from dataclasses import fields, replace
from datetime import timedelta

import pytest
from test_week_arrangements import facts

from jarvok.core.chooser.known import Known, LiftFault
from jarvok.core.chooser.wishes import wishes
from jarvok.core.library.exercises import exercise, with_own
from jarvok.core.library.substitutes import Limits
from jarvok.core.rules import Rules
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS
from jarvok.core.week.contest_work import ContestWork, EventLimit
from jarvok.core.week.generate import arranged_week, forget_weeks
from jarvok.core.week.placement import Practice
from jarvok.core.week.plan import Level, WeekFacts
from jarvok.core.week.same_facts import Asked

BASE = facts(8, 4, Level.ADVANCED)
DAY = BASE.week.start
LIMIT = EventLimit("Pull", DAY, DAY + timedelta(days=9), 0.0, "no pulling", frozenset({"deadlift"}), "pull")
OTHER = {
    "week": replace(BASE.week, volume=0.5),
    "practices": (Practice(weekday=1, hour=18.0, minutes=90, hardness=8),),
    "limits": Limits(frozenset({"squat"}), skill=3),
    "days": 3,
    "level": Level.NOVICE,
    "weakest": "snatch",
    "weakest_words": "lags",
    "moved": {"A": DAY + timedelta(days=2)},
    "played_share": 0.5,
    "rules": Rules({"week.hard_practice": 3.0}),
    "may_max": False,
    "contest": ContestWork(limits=(LIMIT,)),
    "placed": {"A": DAY},
    "wishes": wishes(Known(faults=(LiftFault("snatch", "arms_bend_early"),))),
    "minutes": 40,
    "sport": "handball",
    "body_mass_kg": 104.0,
    "shown": frozenset({"back_squat"}),
    "restricted_on": ((DAY, frozenset({"squat"})),),
}


def test_every_fact_of_a_week_is_part_of_the_key() -> None:
    assert set(OTHER) | {"season"} == {f.name for f in fields(WeekFacts)}


def in_a_taper() -> WeekFacts:
    last = next(w for w in BASE.season.weeks if w.taper is not None)
    return replace(BASE, week=last)


def test_of_the_season_the_weeks_of_the_taper_are_part_of_the_key() -> None:
    here = in_a_taper()
    assert len(here.window_weeks) > 1
    longer = replace(here.season, weeks=tuple(replace(w, volume=0.9 * w.volume) for w in here.season.weeks))
    assert Asked("weightlifting", here) == Asked("weightlifting", replace(here, season=replace(here.season)))
    assert Asked("weightlifting", here) != Asked("weightlifting", replace(here, season=longer))


@pytest.mark.parametrize("model", [a.key for a in WEEK_ARRANGEMENTS])
def test_outside_a_taper_nothing_but_the_week_itself_is_read_of_the_season(model: str) -> None:
    """So it is kept whatever the season around it is: a phase that is drawn longer leaves the other weeks as they were."""
    others = replace(
        BASE.season, weeks=tuple(replace(w, volume=0.3, intensity_pct=60.0) for w in BASE.season.weeks[:4]), notes=()
    )
    for week in (w for w in BASE.season.weeks if w.taper is None):
        here, there = replace(BASE, week=week), replace(BASE, week=week, season=others)
        assert Asked(model, here) == Asked(model, there)
        forget_weeks()
        first = arranged_week(model, here)
        forget_weeks()
        assert first == arranged_week(model, there)


@pytest.mark.parametrize("name", list(OTHER))
def test_another_fact_is_another_key(name: str) -> None:
    here, other = Asked("weightlifting", BASE), Asked("weightlifting", replace(BASE, **{name: OTHER[name]}))
    assert here != other
    assert here == Asked("weightlifting", replace(BASE))
    assert hash(here) == hash(Asked("weightlifting", replace(BASE)))


def test_another_model_and_the_coachs_own_exercises_are_other_keys() -> None:
    here = Asked("weightlifting", BASE)
    assert here != Asked("daily_lifts", BASE)
    with with_own([replace(exercise("back_squat"), name="Our squat")]):
        assert here != Asked("weightlifting", BASE)
        assert Asked("weightlifting", BASE) == Asked("weightlifting", BASE)
    with with_own([replace(exercise("back_squat"), name="Our squat")]):
        first = Asked("weightlifting", BASE)
    with with_own([replace(exercise("back_squat"), name="Another squat")]):
        assert first != Asked("weightlifting", BASE)


@pytest.mark.parametrize("name", [n for n in OTHER if n != "placed"])
def test_what_is_kept_is_what_would_be_worked_out(name: str) -> None:
    given = replace(BASE, **{name: OTHER[name]})
    arranged_week("weightlifting", BASE)
    kept = arranged_week("weightlifting", given)
    again = arranged_week("weightlifting", given)
    forget_weeks()
    assert kept == again == arranged_week("weightlifting", given)
