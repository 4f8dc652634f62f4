"""A block of weeks with no competition at its end: by rising percentages or by the season model, with tests if wanted."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.core.errors import CoachError
from jarvok.core.season.arrangement import PhaseRule
from jarvok.core.season.model import BlockWay, PhaseKey, SeasonWeek, weeks_words

LEAST_WEEKS, MOST_WEEKS, USUAL_WEEKS = 2, 26, 5  # [J]; five: common practice


BLOCK_WAYS = {
    BlockWay.RISING: "rising: four weeks up, one with half the sets",
    BlockWay.MODEL: "by the season model, without a taper",
}
# top set in % of the max and volume of the five weeks, the last with half the sets and nothing added; common practice
RISING_WEEKS = ((80.0, 0.9), (83.5, 1.0), (87.5, 1.05), (90.0, 1.1), (80.0, 0.5))


TEST_ID = "test"
# common practice; volumes Jarvok's default [J]
RISING = PhaseRule(
    id="rising", name="Rising block", key=PhaseKey.BASE, least_weeks=2, most_weeks=26, share=1.0, volume=1.0,
    intensity_pct=(80.0, 90.0), given_up=None, builds=("max strength",), keeps=("strength endurance",),
    exercises="one percentage-based main lift a day, a step up each week", accessories="last week's load is the floor",
)  # fmt: skip
TEST = PhaseRule(
    id=TEST_ID, name="Test week", key=PhaseKey.BASE, least_weeks=1, most_weeks=1, share=0.0, volume=0.5,
    intensity_pct=(80.0, 80.0), given_up=None, builds=(), keeps=("max strength",),  # [C]
    exercises="a fast test and a strength test a day", accessories="out",
)  # fmt: skip


OPEN = PhaseRule(
    id="open", name="Nothing planned", key=PhaseKey.GENERAL, least_weeks=1, most_weeks=52, share=0.0, volume=0.0,  # [T]
    intensity_pct=(65.0, 65.0), given_up=None, builds=(), keeps=(), exercises="none", accessories="none",  # [T]
)  # fmt: skip


def rising_week(index: int, weeks: int) -> tuple[float, float]:
    """Return the top in % of the max and the volume of a week of rising percentages, counted so that the last is the half one."""
    return RISING_WEEKS[len(RISING_WEEKS) - 1 - (weeks - 1 - index) % len(RISING_WEEKS)]


def closes_round(week: SeasonWeek) -> bool:
    """Whether a week is the light one at the end of a round of rising percentages."""
    return week.phase_id == RISING.id and week.is_easy


def round_began(week: SeasonWeek) -> date:
    """Return the Monday on which the round that a week closes began."""
    return week.start - timedelta(weeks=len(RISING_WEEKS) - 1)


def check_block(weeks: int, way: str) -> BlockWay:
    """Return the way of a block that can be; raise `CoachError` for one that cannot."""
    if not LEAST_WEEKS <= weeks <= MOST_WEEKS:
        accepted = f"{LEAST_WEEKS} to {MOST_WEEKS} weeks are accepted."
        raise CoachError(f"A block cannot last {weeks_words(weeks)}.", where="weeks", accepted=accepted)
    if way not in BLOCK_WAYS:
        raise CoachError("There is no such block.", where="way", accepted="; ".join(BLOCK_WAYS.values()))
    return BlockWay(way)
