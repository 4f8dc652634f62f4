"""No check fires on a week that nobody has touched: every arrangement, its days, levels, kits, through the phases of a season."""

from __future__ import annotations

import os
from collections import Counter
from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.centre.models import KitRecord
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS

FIRST = date(2026, 11, 30)
ALWAYS = {"care", "max-safety"}  # the usual cautions stand with what they are about, whoever wrote it
WHOLE = os.environ.get("JARVOK_WHOLE_WEEKS") == "1"  # everybody in every arrangement; else each in every third, all of them tried
LEVELS = ("trained", "novice", "home")
CASES = [
    (a.key, days, level)
    for n, (a, days) in enumerate((a, days) for a in WEEK_ARRANGEMENTS for days in a.days)
    for level in (LEVELS if WHOLE else (LEVELS[n % len(LEVELS)],))
]
HOME = {"has": ["dumbbell", "kettlebell"], "gear": ["bench", "bands", "box", "pull_up_bar"]}


def flags_of(coach: Any, athlete: Athlete, weeks: range) -> Counter[tuple[str, str]]:
    found: Counter[tuple[str, str]] = Counter()
    for n in weeks:
        week = coach.get(f"athletes/{athlete.pk}/week?start={FIRST + timedelta(weeks=n)}")["week"]
        if week is None:
            continue
        sessions = [f for d in week["days"] if d["sheet"] for f in d["sheet"]["flags"]]
        for f in (*week["flags"], *sessions):
            if f["check_id"] not in ALWAYS:
                found[f["check_id"], f"{week['start']} {f['reason']}"] += 1
    return found


@pytest.fixture
def strong(athlete: Athlete) -> Athlete:
    """Somebody with a max in every lift that a week may ask for."""
    maxes = {"snatch": 70, "clean_and_jerk": 88, "front_squat": 105, "back_squat": 125, "deadlift": 150, "overhead_press": 50}
    for lift, kg in maxes.items():
        MarkRecord.objects.create(athlete=athlete, exercise_id=lift, kind="one_rm", day=date(2026, 11, 10), load_kg=kg, reps=1)
    return athlete


@pytest.mark.parametrize(("key", "days", "level"), CASES)
def test_no_check_fires_on_what_nobody_has_touched(coach, strong: Athlete, season, key: str, days: int, level: str) -> None:
    if level == "novice":
        strong.training_age_years = 0.5
    if level == "home":
        strong.kit = KitRecord.objects.create(name="Home", unit="kg", bar_kg=20, pairs=[], **HOME)
    strong.save()
    coach.ok("PUT", f"athletes/{strong.pk}/week-arrangement", {"arrangement": key, "days": days})
    assert flags_of(coach, strong, range(0, 18, 3)) == Counter()
