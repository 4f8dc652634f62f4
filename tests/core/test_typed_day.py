"""Days as they are typed for finding. Common practice: day before month."""

from __future__ import annotations

from datetime import date

import pytest

from jarvok.core.interchange.typed_day import typed_day

TODAY = date(2026, 11, 24)  # a Tuesday


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("today", TODAY), ("tomorrow", date(2026, 11, 25)), ("Yesterday", date(2026, 11, 23)),
        ("tue", TODAY), ("Monday", date(2026, 11, 30)), ("mon", date(2026, 11, 30)),
        ("2026-12-12", date(2026, 12, 12)), ("12.12.2027", date(2027, 12, 12)), ("3/1/2027", date(2027, 1, 3)),
        ("12 dec", date(2026, 12, 12)), ("12. December", date(2026, 12, 12)), ("12 dec 2024", date(2024, 12, 12)),
        ("12.12.", date(2026, 12, 12)),
        ("3 jan", date(2027, 1, 3)),  # the nearest third of January lies ahead
        ("1 jun", date(2026, 6, 1)),  # 176 days back, 189 ahead
        ("29 feb", None),  # none in the years about
    ],
)  # fmt: skip
def test_read(text: str, day: date | None) -> None:
    assert typed_day(text, TODAY) == day


@pytest.mark.parametrize("text", ["", "squat", "mon day", "32 dec", "12 foo", "2026-13-01", "monkey", "12", "31.2."])
def test_no_day(text: str) -> None:
    assert typed_day(text, TODAY) is None
