"""An order is done one session after another: what is missed comes next, and nothing is done twice or lost."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.week.order import order_words, places_in_order

MONDAY = date(2026, 11, 23)
DAYS = [MONDAY + timedelta(days=7 * w + d) for w in range(3) for d in (0, 2, 4)]


def places(done: list[int], today: int) -> tuple[int | None, ...]:
    return places_in_order(DAYS, {DAYS[i] for i in done}, MONDAY + timedelta(days=today))


@pytest.mark.parametrize(
    ("done", "today", "wanted"),
    [
        ([], 0, (0, 1, 2, 3, 4, 5, 6, 7, 8)),  # nothing has been: as planned
        ([0, 1, 2], 7, (0, 1, 2, 3, 4, 5, 6, 7, 8)),  # all done
        ([0], 3, (0, None, 1, 2, 3, 4, 5, 6, 7)),  # Wednesday missed: its session on Friday
        ([0], 2, (0, 1, 2, 3, 4, 5, 6, 7, 8)),  # Wednesday is today: not missed yet
        ([0, 2], 7, (0, None, 1, 2, 3, 4, 5, 6, 7)),
        ([], 7, (None, None, None, 0, 1, 2, 3, 4, 5)),  # a whole round missed is the next round
        ([2], 14, (None, None, 0, None, None, None, 1, 2, 3)),
    ],
)
def test_what_is_missed_comes_next(done: list[int], today: int, wanted: tuple[int | None, ...]) -> None:
    assert places(done, today) == wanted


@given(st.sets(st.integers(0, 8)), st.integers(0, 21))
def test_every_session_of_the_order_lies_on_one_day_and_none_is_left_out(done: set[int], today: int) -> None:
    found = places(sorted(done), today)
    kept = [p for p in found if p is not None]
    assert kept == list(range(len(kept)))
    for day, place in zip(DAYS, found, strict=True):
        assert (place is None) == (day < MONDAY + timedelta(days=today) and DAYS.index(day) not in done)


def test_it_is_said() -> None:
    assert order_words([]) == ""
    assert order_words([date(2026, 11, 25)]).startswith("The session of Wednesday 25 November was missed: it is done next")
    assert order_words(DAYS[:3]).startswith("3 sessions were missed, the last on Friday 27 November")
