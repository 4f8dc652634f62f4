"""Whether a lead-in day suits is answered by the sprints of the days after it; and the week follows. Common practice."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
from test_week_arrangements import facts

from jarvok.core.chooser.known import LeadIn
from jarvok.core.chooser.wishes import NO_WISHES
from jarvok.core.learning.findings import FRESH_DAYS
from jarvok.core.learning.lead_in_noticed import EACH_WAY, LEAST_DIFFERENCE_PCT, SprintDay, lead_in_that_suits
from jarvok.core.week.generate import arranged_week

TODAY = date(2026, 11, 24)
OFTEN = 400  # sprinters a case


def days(led_pct: float, *, led: int = EACH_WAY, off: int = EACH_WAY, newest: int = 3, scatter: float = 0.1) -> list[SprintDay]:
    """Thirty metres in about 4.3 s, days after a lead-in day by so many per cent from those after a day off."""
    rows = []
    for n in range(led + off):
        is_led = n % 2 == 0 if n < 2 * min(led, off) else led > off
        time_s = 4.3 * (1 + (led_pct if is_led else 0.0) / 100 + scatter * (-1) ** (n // 2) / 100)
        rows.append(SprintDay(TODAY - timedelta(days=newest + 4 * n), "sprint:30", time_s, is_led, f"set:{n}"))
    return rows


def test_what_is_faster_and_slower_is_said_with_its_days() -> None:
    faster, slower = lead_in_that_suits(days(-1.5), TODAY), lead_in_that_suits(days(1.5), TODAY)
    assert faster is not None
    assert slower is not None
    assert faster.sentence == "Sprints are 1.5 % faster the day after a lead-in day than after a day off."
    assert faster.value == pytest.approx(-1.5, abs=0.03)
    assert slower.value == pytest.approx(1.5, abs=0.03)
    assert len(faster.evidence) == 2 * EACH_WAY


@pytest.mark.parametrize(
    "rows",
    [
        days(-1.5, led=EACH_WAY - 1),
        days(-1.5, off=EACH_WAY - 1),
        days(-1.5, newest=FRESH_DAYS + 1),
        days(LEAST_DIFFERENCE_PCT - 0.1, scatter=0.01),
        days(-1.5, scatter=3.0),
        [],
    ],
)
def test_few_old_small_or_scattered_ones_say_nothing(rows: list[SprintDay]) -> None:
    assert lead_in_that_suits(rows, TODAY) is None


def test_the_edges_speak() -> None:
    assert lead_in_that_suits(days(-1.5, newest=FRESH_DAYS), TODAY) is not None
    assert lead_in_that_suits(days(LEAST_DIFFERENCE_PCT + 0.1, scatter=0.01), TODAY) is not None


def test_distances_are_compared_with_their_like() -> None:
    """Ten metres are run after lead-in days and thirty after days off: nothing can be said."""
    rows = [replace(d, what="sprint:10", time_s=1.8) if d.after_lead_in else d for d in days(0.0)]
    assert lead_in_that_suits(rows, TODAY) is None


@pytest.mark.parametrize(("true_pct", "least", "most"), [(0.0, 0.0, 0.05), (-2.0, 0.7, 1.0)])
def test_how_often_it_is_found(true_pct: float, least: float, most: float) -> None:
    """Ten days of each kind whose best times scatter by 1 %; drawn from sprinters of our own making."""
    rng = np.random.default_rng(7)
    found = 0
    for _ in range(OFTEN):
        rows = [replace(d, time_s=d.time_s * (1 + rng.normal(0, 0.01))) for d in days(true_pct, led=10, off=10, scatter=0)]
        found += lead_in_that_suits(rows, TODAY) is not None
    assert least <= found / OFTEN <= most


class TestWeek:
    def first_day(self, known: LeadIn | None):
        given = replace(facts(4, 5), wishes=replace(NO_WISHES, lead_in=known))
        return arranged_week("high_low", given)[0]

    def test_starts_go_where_sprints_were_slower_after_them(self) -> None:
        usual, off = self.first_day(None), self.first_day(LeadIn(False, "sprints are slower the day after one"))
        assert usual.theme == "Lead-in, low"
        assert [x.slot for x in usual.lines if x.block == "A · starts"] == ["A1"]
        assert off.theme == "Low, upper body"
        assert not [x for x in off.lines if x.block == "A · starts"]
        assert "no starts before a sprint day, sprints are slower" in next(x.reason for x in off.lines if x.block == "B · press")

    def test_and_stay_with_the_reason_where_they_were_faster(self) -> None:
        starts = next(x for x in self.first_day(LeadIn(True, "sprints are faster the day after one")).lines if x.slot == "A1")
        assert "sprints are faster the day after one" in starts.reason
