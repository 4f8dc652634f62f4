"""Reads stay bounded: the number of queries does not grow with marks, sets or people."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from jarvok.app.athletes.kept_known import nothing_kept
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete, MarkRecord

DAY = date(2026, 11, 24)


def queries(coach, path: str) -> int:
    coach.get(path)
    with CaptureQueriesContext(
        connection,
    ) as seen:
        coach.get(path)
    return len(seen)


def many_marks(athlete: Athlete, count: int) -> None:
    MarkRecord.objects.bulk_create(
        MarkRecord(athlete=athlete, exercise_id=("back_squat", "bench_press")[i % 2], kind=("rep_max", "set_rir", "amrap")[i % 3],
                   day=DAY - timedelta(days=i % 900), load_kg=80 + i % 7, reps=1 + i % 6, rir=0)
        for i in range(count)
    )  # fmt: skip


@pytest.mark.parametrize(("path", "most"), [
    ("athletes/{id}", 25), ("athletes/{id}/standing", 24), ("athletes/{id}/tests?exercise_id=back_squat", 24),
    ("athletes/{id}/record", 12), ("settings", 7), ("athletes", 34),
])  # fmt: skip
def test_the_number_of_queries_does_not_grow_with_the_marks(coach, athlete, season, path: str, most: int) -> None:
    few = queries(coach, path.format(id=athlete.pk))
    many_marks(athlete, 600)
    many = queries(coach, path.format(id=athlete.pk))
    assert many <= few + 1  # old marks of lifts without newer ones are one read more
    assert many <= most


def test_the_eight_ways_read_as_often_as_the_sheet(coach, athlete, sheet: Any) -> None:
    base = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"
    with nothing_kept():
        assert queries(coach, f"{base}/lines/A1/methods") <= 2 * queries(coach, base) + 2


def test_the_list_of_athletes_does_not_read_once_a_person(coach, athlete, season) -> None:
    few = queries(coach, "athletes")
    for i in range(12):
        Athlete.objects.create(squad=athlete.squad, name=f"Person {i}")
    assert queries(coach, "athletes") == few


def test_today_does_not_read_once_a_person(coach, athlete, season) -> None:
    few = queries(coach, "today")
    for i in range(8):
        person = Athlete.objects.create(squad=athlete.squad, name=f"Person {i}")
        coach.ok("POST", f"athletes/{person.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
    assert queries(coach, "today") == few


def test_old_marks_still_speak_for_a_lift_that_has_no_newer(athlete) -> None:
    MarkRecord.objects.create(athlete=athlete, exercise_id="deadlift", kind="one_rm", day=date(2022, 5, 1), load_kg=140)
    many_marks(athlete, 50)
    found = LiftBook([athlete], DAY).max(athlete.pk, "deadlift")
    assert found is not None
    assert found.value_kg == pytest.approx(140)


def test_a_lift_without_marks_leans_on_its_relative_and_says_so(athlete) -> None:
    state = LiftBook([athlete], DAY).state(athlete.pk, "front_squat")
    squat = LiftBook([athlete], DAY).max(athlete.pk, "back_squat")
    assert squat is not None
    assert state.related_max_from == "back squat"
    assert state.max_kg == pytest.approx(0.8 * squat.value_kg)  # the target of the ratio: common practice
