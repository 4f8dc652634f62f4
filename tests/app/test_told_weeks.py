"""A past day's plan stays as it stood: whatever plans weeks now, and whatever becomes of the season."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.app.acts import Who
from jarvok.app.athletes.kept_known import forget_all_kept
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import Act, Via
from jarvok.app.facts.training.models import ToldWeek
from jarvok.app.training.actions import freeze_weeks
from jarvok.app.training.told_weeks import sessions_of
from jarvok.app.upkeep.past_weeks import freeze_past_weeks
from jarvok.core.library.exercises import exercises
from jarvok.core.week import generate

TODAY = date(2026, 11, 24)
MONDAY = date(2026, 11, 23)
COMMAND = Who(None, Via.COMMAND)


def week(coach, athlete: Athlete, monday: date) -> Any:
    return coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]


def lines(shown: Any) -> list[Any]:
    return [
        (d["day"], d["sheet"]["key"], x["id"], x["text"], x["reason"])
        for d in shown["days"]
        if d["sheet"]
        for x in d["sheet"]["lines"]
    ]


@pytest.fixture
def later(settings):
    """Move the day on."""

    def to(day: date) -> None:
        settings.TODAY = day.isoformat()

    return to


def one_more(line: Any) -> Any:
    return replace(line, groups=tuple(replace(g, sets=g.sets + 1) for g in line.groups))


@pytest.fixture
def another_generator(monkeypatch) -> Iterator[Callable[[], None]]:
    """A later version that plans one set more of everything."""

    def change() -> None:
        settled = generate.settled

        def more(day, facts, on):
            found, left_out = settled(day, facts, on)
            grown = [replace(x, prescription=one_more(x.prescription)) for x in found]
            return tuple(grown), left_out

        monkeypatch.setattr(generate, "settled", more)
        generate.forget_weeks()
        forget_all_kept()  # another version runs in another process

    yield change
    generate.forget_weeks()


def test_past_weeks_are_the_same_line_by_line_after_the_generator_has_changed(
    coach, athlete, season, later, another_generator
) -> None:
    later(TODAY + timedelta(days=21))
    mondays = [MONDAY + timedelta(weeks=i) for i in range(5)]
    before = [lines(week(coach, athlete, m)) for m in mondays]
    assert all(before)
    freeze_past_weeks()
    another_generator()
    after = [lines(week(coach, athlete, m)) for m in mondays]
    assert after[:3] == before[:3]
    assert after[4] != before[4], "a week ahead follows the new generator"
    today = (TODAY + timedelta(days=21)).isoformat()
    assert [x for x in after[3] if x[0] < today] == [x for x in before[3] if x[0] < today]
    assert [x for x in after[3] if x[0] >= today] != [x for x in before[3] if x[0] >= today]


def test_without_the_freeze_the_past_would_change(coach, athlete, season, later, another_generator) -> None:
    later(TODAY + timedelta(days=21))
    before = lines(week(coach, athlete, MONDAY))
    another_generator()
    assert lines(week(coach, athlete, MONDAY)) != before


def test_the_place_in_the_season_stays_when_the_competition_moves(coach, athlete, season, later) -> None:
    later(TODAY + timedelta(days=21))
    before = week(coach, athlete, MONDAY)
    freeze_past_weeks()
    goal = athlete.entered.get()
    coach.ok("PATCH", f"competitions/{goal.pk}", {"day": "2027-02-06"})
    after = week(coach, athlete, MONDAY)
    for key in ("phase_name", "week_of_phase", "weeks_in_phase", "is_easy", "competition"):
        assert after[key] == before[key], key
    assert lines(after) == lines(before)


def test_a_day_is_kept_once_it_is_over_and_only_once(coach, athlete, season, later) -> None:
    assert freeze_weeks.run(COMMAND, athlete, MONDAY) == 1
    assert ToldWeek.objects.get().through == MONDAY
    assert freeze_weeks.run(COMMAND, athlete, MONDAY) == 0
    later(TODAY + timedelta(days=3))
    assert freeze_weeks.run(COMMAND, athlete, MONDAY + timedelta(days=3)) == 1
    told = ToldWeek.objects.get()
    assert told.through == MONDAY + timedelta(days=3)
    assert all(s.day <= told.through for s in sessions_of(told))
    assert freeze_weeks.run(COMMAND, athlete, MONDAY + timedelta(days=20)) == 3
    assert [t.through.weekday() for t in ToldWeek.objects.all()][:2] == [6, 6]
    act = Act.objects.filter(verb="freeze_weeks").latest("pk")
    assert (act.athlete_id, act.person) == (athlete.pk, None)


def test_starting_a_session_keeps_the_days_before_it(coach, athlete, season, later) -> None:
    later(TODAY + timedelta(days=14))
    now = TODAY + timedelta(days=14)
    shown = week(coach, athlete, now - timedelta(days=now.weekday()))
    ahead = next(d for d in shown["days"] if d["sheet"] and d["day"] >= now.isoformat())
    coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": ahead["day"], "key": ahead["sheet"]["key"]})
    assert ToldWeek.objects.latest("monday").through == now - timedelta(days=1)
    assert ToldWeek.objects.count() == 3


def test_a_missed_session_may_still_be_moved_and_edits_lie_over_what_stood(coach, athlete, season, later) -> None:
    first = next(d for d in week(coach, athlete, MONDAY + timedelta(weeks=1))["days"] if d["sheet"])
    day, key = date.fromisoformat(first["day"]), first["sheet"]["key"]
    later(day + timedelta(days=1))
    freeze_past_weeks()
    to = next(
        d["day"]
        for d in week(coach, athlete, MONDAY + timedelta(weeks=1))["days"]
        if not d["sheet"] and d["day"] > day.isoformat()
    )
    coach.ok("PUT", f"athletes/{athlete.pk}/sessions/{day}/{key}/day", {"day": to})
    after = {d["day"]: d["sheet"] for d in week(coach, athlete, MONDAY + timedelta(weeks=1))["days"] if d["sheet"]}
    assert to in after
    assert day.isoformat() not in after
    assert [x["id"] for x in after[to]["lines"]] == [x["id"] for x in first["sheet"]["lines"]]


def test_a_line_of_an_exercise_that_is_gone_is_left_to_the_history(athlete, season) -> None:
    freeze_weeks.run(COMMAND, athlete, MONDAY + timedelta(days=6))
    told = ToldWeek.objects.get()
    told.document["sessions"][0]["lines"][0]["exercise"] = "taken_out_since"
    count = len(told.document["sessions"][0]["lines"])
    assert len(sessions_of(told)[0].lines) == count - 1
    assert all(x.exercise_id in exercises() for s in sessions_of(told) for x in s.lines)


def test_beginning_for_the_room_keeps_the_days_before_it_too(coach, athlete, season, later) -> None:
    shown = week(coach, athlete, MONDAY + timedelta(weeks=1))
    day = date.fromisoformat(next(d["day"] for d in shown["days"] if d["sheet"]))
    later(day)
    room = coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": day.isoformat()})
    coach.ok("POST", f"room/{room['id']}/begin", {"athlete_ids": [athlete.pk]})
    assert ToldWeek.objects.latest("monday").through == day - timedelta(days=1)
