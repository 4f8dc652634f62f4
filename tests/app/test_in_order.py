"""A plan done in order: a missed session is done next, over HTTP, in week, session and season."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest
from django.utils import timezone

from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.training.models import WeekChoice

pytestmark = pytest.mark.django_db
MONDAY = date(2026, 11, 23)


@pytest.fixture
def season(coach, athlete, settings) -> Any:
    settings.TODAY = MONDAY.isoformat()
    coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Far Cup", "day": "2027-03-06", "rank": "main"})
    return athlete


@pytest.fixture
def recorded(athlete) -> None:
    """A session was begun the week before: here sessions are recorded."""
    TrainingSession.objects.create(athlete=athlete, day="2026-11-16", key="A", theme="x", started_at=timezone.now())


@pytest.fixture
def at(settings):
    def go(day: date) -> None:
        settings.TODAY = day.isoformat()

    return go


def arrange(coach, athlete, **more: Any) -> Any:
    body = {"arrangement": "percent_lift", "days": 4} | more
    answer = coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", body)["week"]
    WeekChoice.objects.update(at=timezone.make_aware(timezone.datetime(2026, 11, 23, 8)))
    return answer


def week(coach, athlete, start: date = MONDAY) -> list[tuple[str, str]]:
    found = coach.get(f"athletes/{athlete.pk}/week?start={start}")["week"]
    return [(d["day"], d["sheet"]["theme"]) for d in found["days"] if d["sheet"]]


def do(athlete, day: str, key: str) -> None:
    TrainingSession.objects.create(athlete=athlete, day=day, key=key, theme="x", started_at=timezone.now())


def test_a_model_made_to_be_done_in_order_is_and_the_coach_can_say_otherwise(coach, season) -> None:
    assert arrange(coach, season)["by_order"] is True
    assert arrange(coach, season, by_order=False)["by_order"] is False
    assert arrange(coach, season, arrangement="two_days", days=2)["by_order"] is False
    assert arrange(coach, season, arrangement="two_days", days=2, by_order=True)["by_order"] is True


def test_a_missed_session_is_done_next_and_all_behind_it_come_one_later(coach, season, at) -> None:
    arrange(coach, season)
    planned = week(coach, season) + week(coach, season, MONDAY + timedelta(days=7))
    days, themes = [d for d, _ in planned], [t for _, t in planned]
    assert len(days) == 8
    do(season, days[0], "A")
    at(date.fromisoformat(days[2]))  # the second was missed
    now = week(coach, season) + week(coach, season, MONDAY + timedelta(days=7))
    assert [d for d, _ in now] == [days[0], *days[2:]]
    assert [t for _, t in now] == themes[:7]
    said = coach.get(f"athletes/{season.pk}/week?start={MONDAY}")["week"]
    assert "is done next" in said["order_words"]
    assert said["missed"] == []


def test_by_weekday_it_stays_where_it_is_and_ways_on_are_offered(coach, season, at) -> None:
    arrange(coach, season, by_order=False)
    planned = week(coach, season)
    at(date.fromisoformat(planned[1][0]) + timedelta(days=1))
    assert week(coach, season) == planned
    said = coach.get(f"athletes/{season.pk}/week?start={MONDAY}")["week"]
    assert said["order_words"] == ""
    assert said["missed"]


def test_the_sheet_of_the_day_is_the_one_that_was_missed_with_its_own_sets(coach, season, recorded, at) -> None:
    arrange(coach, season)
    first = coach.get(f"athletes/{season.pk}/week?start={MONDAY}")["week"]
    days = [(d["day"], d["sheet"]["key"]) for d in first["days"] if d["sheet"]]

    def texts(day: str, key: str) -> list[str]:
        return [x["exercise_id"] + x["text"] for x in coach.get(f"athletes/{season.pk}/sessions/{day}/{key}")["lines"]]

    planned = texts(*days[0])
    at(date.fromisoformat(days[1][0]))  # the first was missed, the second is today
    assert texts(days[1][0], days[0][1]) == planned


def test_bars_of_the_season_hold_what_the_shifted_sheets_hold(coach, season, recorded, at) -> None:
    arrange(coach, season)
    at(MONDAY + timedelta(days=7))  # a whole round was missed: it is the round of the second week
    bars = {w["start"]: w["main_sets"] for w in coach.get(f"athletes/{season.pk}/season")["season"]["weeks"]}
    for n in (1, 2, 3):
        start = MONDAY + timedelta(days=7 * n)
        shown = coach.get(f"athletes/{season.pk}/week?start={start}")["week"]
        assert bars[start.isoformat()] == sum(d["hard_sets"] for d in shown["days"] if d["sheet"])


def test_a_taper_counts_days_and_the_order_begins_anew_behind_it(coach, season, recorded, at) -> None:
    arrange(coach, season)
    taper = [date(2027, 2, 22), date(2027, 3, 1)]
    planned = [week(coach, season, m) for m in taper]
    at(MONDAY + timedelta(days=14))  # two rounds were missed
    assert [week(coach, season, m) for m in taper] == planned


def test_what_was_chosen_later_counts_from_then_on(coach, season, recorded, at) -> None:
    days = [d for d, _ in week(coach, season)]
    at(date.fromisoformat(days[-1]) + timedelta(days=1))
    coach.ok("PUT", f"athletes/{season.pk}/week-arrangement", {"arrangement": "percent_lift", "days": 4, "by_order": True})
    WeekChoice.objects.update(at=timezone.make_aware(timezone.datetime(2026, 11, 29, 8)))
    assert coach.get(f"athletes/{season.pk}/week?start={MONDAY + timedelta(days=7)}")["week"]["order_words"] == ""


def test_where_nothing_is_recorded_the_plan_does_not_stand_still(coach, season, at) -> None:
    arrange(coach, season)
    later = MONDAY + timedelta(days=14)
    planned = week(coach, season, later)
    at(later)
    assert week(coach, season, later) == planned
    assert "Nothing is recorded yet" in coach.get(f"athletes/{season.pk}/week?start={later}")["week"]["order_words"]
    do(season, planned[0][0], "A")  # from here on they are
    at(date.fromisoformat(planned[2][0]))
    assert [t for _, t in week(coach, season, later)] == [planned[0][1], planned[1][1], planned[2][1]]


def test_for_a_whole_squad(coach, season, squad) -> None:
    other = squad.athletes.create(name="Bo Test")
    arrange(coach, season, scope="squad", by_order=True)
    assert {c.by_order for c in WeekChoice.objects.filter(athlete__in=(season, other))} == {True}
