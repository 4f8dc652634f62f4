"""A pasted list of days: the ways people write a day, what is not guessed, and that nothing is taken by halves."""

from __future__ import annotations

from contextlib import suppress
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.errors import CoachError
from jarvok.core.interchange.fixtures import MOST_LINES, read_list

TODAY = date(2026, 11, 24)


@pytest.mark.parametrize(
    ("line", "start", "end", "name"),
    [
        ("5 Dec Harbour home", "2026-12-05", "2026-12-05", "Harbour home"),
        ("Sat 5 December 2026: Harbour home", "2026-12-05", "2026-12-05", "Harbour home"),
        ("Sat, 5. Dec., Harbour home", "2026-12-05", "2026-12-05", "Harbour home"),
        ("5.12. Harbour home", "2026-12-05", "2026-12-05", "Harbour home"),
        ("05.12.2026\tHarbour home", "2026-12-05", "2026-12-05", "Harbour home"),
        ("5/12/2026 - Harbour home", "2026-12-05", "2026-12-05", "Harbour home"),
        ("2026-12-05 Harbour home", "2026-12-05", "2026-12-05", "Harbour home"),
        ("Harbour home, 2026-12-05", "2026-12-05", "2026-12-05", "Harbour home"),
        ("Harbour U19 v Reef 2, 5 Dec", "2026-12-05", "2026-12-05", "Harbour U19 v Reef 2"),
        ("2027-01-08 to 2027-01-10 Coast cup", "2027-01-08", "2027-01-10", "Coast cup"),
        ("8.1.–10.1.2027 Coast cup", "2027-01-08", "2027-01-10", "Coast cup"),
        ("8 Jan - 10 Jan Coast cup", "2027-01-08", "2027-01-10", "Coast cup"),
        # without a year: the next one ahead, or one of the last thirty days
        ("25 Oct Harbour home", "2026-10-25", "2026-10-25", "Harbour home"),
        ("24 Oct Harbour home", "2027-10-24", "2027-10-24", "Harbour home"),
    ],
)
def test_a_day_and_a_name_as_people_write_them(line: str, start: str, end: str, name: str) -> None:
    [found] = read_list(line, TODAY)
    assert (found.start.isoformat(), found.end.isoformat(), found.name) == (start, end, name)


@pytest.mark.parametrize(
    "line",
    [
        "Harbour home",
        "5 Dec",
        "31.11. Harbour home",
        "10 Jan to 8 Jan Coast cup",
        "2026-13-05 Harbour",
        "5 Dec " + "x" * 81,
        "99 Dec x",
    ],
)
def test_what_is_no_day_and_name_is_named_and_nothing_is_taken(line: str) -> None:
    with pytest.raises(CoachError) as caught:
        read_list(f"5 Dec Harbour home\n\n{line}\n12 Dec Reef away", TODAY)
    assert "line 3" in str(caught.value)
    assert "Nothing was stored" in str(caught.value)
    assert caught.value.where == "text"


def test_lists_keep_their_order_and_have_an_end() -> None:
    text = "\n".join(f"{d} Dec match {d}" for d in range(28, 0, -1))
    assert [f.name for f in read_list(text, TODAY)] == [f"match {d}" for d in range(28, 0, -1)]
    assert len(read_list("5 Dec a\n" * MOST_LINES, TODAY)) == MOST_LINES
    for empty in ("", "  \n ", "5 Dec a\n" * (MOST_LINES + 1), "x" * 20_001):
        with pytest.raises(CoachError):
            read_list(empty, TODAY)


@given(st.text(max_size=200))
def test_whatever_is_pasted_is_read_or_refused_in_words(text: str) -> None:
    with suppress(CoachError):
        assert all(r.start <= r.end and r.name for r in read_list(text, TODAY))
