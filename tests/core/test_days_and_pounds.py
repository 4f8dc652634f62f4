"""How a day is written, and a room in pounds."""

from __future__ import annotations

from datetime import date

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import furnished, implement_for
from jarvok.core.quantities.days import DayOrder, day_order_named, days_written, said_day
from jarvok.core.quantities.mass import format_mass, in_kg, in_unit, unit_named
from jarvok.core.quantities.plates import Barbell, build

DAY = date(2026, 2, 3)


@pytest.mark.parametrize(
    ("order", "how", "words"),
    [
        (DayOrder.DAY_FIRST, {}, "3 Feb"),
        (DayOrder.MONTH_FIRST, {}, "Feb 3"),
        (DayOrder.DAY_FIRST, {"year": True}, "3 Feb 2026"),
        (DayOrder.MONTH_FIRST, {"year": True}, "Feb 3, 2026"),
        (DayOrder.DAY_FIRST, {"weekday": True}, "Tue 3 Feb"),
        (DayOrder.MONTH_FIRST, {"weekday": True}, "Tue Feb 3"),
        (DayOrder.DAY_FIRST, {"weekday": True, "is_long": True}, "Tuesday 3 February"),
        (DayOrder.MONTH_FIRST, {"weekday": True, "year": True, "is_long": True}, "Tuesday February 3, 2026"),
    ],
)
def test_a_day_is_written_with_its_day_or_its_month_first(order: DayOrder, how: dict[str, bool], words: str) -> None:
    with days_written(order):
        assert said_day(DAY, **how) == words


def test_the_order_holds_within_and_ends_with_it() -> None:
    with days_written(DayOrder.MONTH_FIRST):
        with days_written(DayOrder.DAY_FIRST):
            assert said_day(DAY) == "3 Feb"
        assert said_day(DAY) == "Feb 3"
    assert said_day(DAY) == "3 Feb"


def test_a_word_that_is_no_order_or_unit_is_refused_with_those_that_are() -> None:
    assert day_order_named("month first") is DayOrder.MONTH_FIRST
    with pytest.raises(CoachError) as refused:
        day_order_named("year first")
    assert refused.value.accepted == "day first or month first."
    assert unit_named("lb") == "lb"
    with pytest.raises(CoachError) as refused:
        unit_named("st")
    assert refused.value.accepted == "kg or lb."


# common practice of a room in pounds: the bar with one, two and three large plates a side
@pytest.mark.parametrize(("lb", "a_side"), [(45, ()), (135, (45,)), (225, (45, 45)), (315, (45, 45, 45)), (185, (45, 25))])
def test_a_furnished_room_in_pounds_makes_the_usual_loads(lb: float, a_side: tuple[float, ...]) -> None:
    bell = implement_for(exercise("back_squat"), furnished("lb"))
    assert isinstance(bell, Barbell)
    made = build(in_kg(lb, "lb"), bell)
    assert format_mass(made.load_kg, "lb") == str(lb)
    assert tuple(float(format_mass(p, "lb")) for p in made.per_side_kg) == a_side


def test_a_mass_goes_to_pounds_and_back() -> None:
    assert in_unit(100, "kg") == 100
    assert in_unit(100, "lb") == pytest.approx(220.462, abs=0.001)  # published conversion
    assert in_kg(in_unit(83.4, "lb"), "lb") == pytest.approx(83.4)
