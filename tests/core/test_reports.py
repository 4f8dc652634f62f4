"""What goes into a report for whom, and how a line and a change are said."""

from __future__ import annotations

from datetime import date, timedelta

import pytest

from jarvok.core.learning.reports import (
    PARTS,
    READER_NAMES,
    Part,
    Point,
    Reader,
    change_words,
    out_of,
    reason_for,
    thinned,
    trend_words,
)

ONE = date(2026, 11, 2)


def test_what_is_of_health_goes_to_health_staff_alone() -> None:
    of_health = {Part.RESTRICTIONS, Part.PAINS}
    assert of_health <= set(PARTS[Reader.MEDICAL])
    assert not of_health & {*PARTS[Reader.SPORT], *PARTS[Reader.ATHLETE]}
    assert Part.OFF in PARTS[Reader.SPORT]
    assert set(READER_NAMES) == set(PARTS) == set(Reader)


@pytest.mark.parametrize(
    ("reader", "reason", "said"),
    [
        (Reader.SPORT, "ill", "not available"),
        (Reader.SPORT, "hurt, left knee", "not available"),
        (Reader.SPORT, "school or work", "school or work"),
        (Reader.SPORT, "", "no reason said"),
        (Reader.MEDICAL, "hurt, left knee", "hurt, left knee"),
        (Reader.ATHLETE, "ill", "ill"),
    ],
)
def test_why_a_session_was_missed_as_a_reader_may_see_it(reader: Reader, reason: str, said: str) -> None:
    assert reason_for(reader, reason) == said


def test_a_change_is_said_to_the_whole_unit_with_its_sign() -> None:
    said = [change_words(x, "kg") for x in (0.49, -0.49, 0.5, -0.5, 2.4, -2.6)]
    assert said == ["0 kg", "0 kg", "+1 kg", "−1 kg", "+2 kg", "−3 kg"]


def test_a_chart_has_a_bounded_number_of_points_and_keeps_its_ends() -> None:
    points = [Point(ONE + timedelta(days=n), float(n)) for n in range(365)]
    shown = thinned(points, 60)
    assert len(shown) == 60
    assert (shown[0], shown[-1]) == (points[0], points[-1])
    assert thinned(points[:60], 60) == tuple(points[:60])


def test_a_line_says_from_where_to_where() -> None:
    points = [Point(ONE, 92.5), Point(ONE + timedelta(days=7), 94.4)]
    assert trend_words("Squat", points, "kg", "not more than noise") == "Squat: 93 to 94 kg, not more than noise."
    assert trend_words("Squat", points[:1], "kg", "") == "Squat: too few days for a line."


def test_what_was_done_without_a_plan_is_of_nothing() -> None:
    assert [out_of(9, 12), out_of(7, 0)] == ["9 of 12", "7"]
