"""Main sets are spent inside the minutes there are: what one day cannot hold another takes, and the rest is said."""

from __future__ import annotations

from dataclasses import replace

import pytest
from test_week_arrangements import facts

from jarvok.core.season.model import SeasonWeek
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.hour import minutes_of
from jarvok.core.week.main_minutes import FEW_SETS, SPARE_MIN, fits
from jarvok.core.week.plan import Draft, Level, WeekFacts
from jarvok.core.week.spending import LEAST_MAIN_SETS, spend_week


def full(days: int, minutes: int | None, volume: float = 1.2) -> WeekFacts:
    given = facts(3, days, Level.ADVANCED)
    week: SeasonWeek = replace(given.week, volume=volume, is_easy=False)
    return replace(given, week=week, minutes=minutes)


@pytest.mark.parametrize("days", [3, 4, 5])
def test_no_day_asks_for_more_minutes_than_there_are(days: int) -> None:
    for minutes in (60, 75):
        for s in arranged_week("weightlifting", full(days, minutes)):
            assert minutes_of(s.lines) <= minutes


def test_what_a_day_cannot_hold_is_taken_by_the_others_first() -> None:
    free, held = (spend_week("weightlifting", full(4, minutes, 1.0)) for minutes in (None, 60))
    assert any(a.sets > b.sets for a, b in zip(free.sessions, held.sessions, strict=True))
    assert any(a.sets < b.sets for a, b in zip(free.sessions, held.sessions, strict=True))
    assert free.sets == held.sets


def test_what_is_held_back_is_said_with_the_day() -> None:
    spent = spend_week("weightlifting", full(4, 60))
    told = {s.key: " ".join(s.left_out) for s in arranged_week("weightlifting", full(4, 60))}
    for s in spent.sessions:
        assert ("60 min hold no more" in told[s.laid.draft.key]) is (s.held > 0)
    assert any(s.held for s in spent.sessions)


def test_with_time_enough_or_none_said_the_dose_is_as_it_was() -> None:
    sets = [s.line_sets for s in spend_week("weightlifting", full(4, None)).sessions]
    assert [s.line_sets for s in spend_week("weightlifting", full(4, 150)).sessions] == sets


def test_however_short_the_hour_some_main_work_stays() -> None:
    assert all(s.sets >= LEAST_MAIN_SETS for s in spend_week("weightlifting", full(4, 20)).sessions)


def test_the_edge_of_the_minutes() -> None:
    """Ten sets of three with two minutes of rest: what they take is worked out by the session's own minutes."""
    draft = Draft("A1", "A · lift", "snatch", "10 × 3 @ 75 %, rest 2:00", "", True)
    needed = next(m for m in range(10, 90) if fits([draft], [10], replace(full(3, None), minutes=m)))
    assert not fits([draft], [10], replace(full(3, None), minutes=needed - 1))
    alone = next(m for m in range(10, 90) if fits([draft], [11], replace(full(3, None), minutes=m)))
    assert alone > needed
    assert needed > SPARE_MIN + 10 * 2


@pytest.mark.parametrize(("sets", "there"), [(FEW_SETS, True), (FEW_SETS + 1, False)])
def test_few_sets_are_not_worked_out(sets: int, there: bool) -> None:
    draft = Draft("A1", "A · lift", "snatch", "10 × 3 @ 75 %, rest 5:00", "", True)
    assert fits([draft], [sets], replace(full(3, None), minutes=10)) is there
