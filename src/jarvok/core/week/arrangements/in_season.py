"""In season: one or two sessions, counted from the match. Common practice."""

from __future__ import annotations

from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts


def fast_day(facts: WeekFacts) -> list[Draft]:
    """Return the short session two days before a match: jumps, a light fast lift, throws; nothing heavy."""
    return [
        Draft("P1", "Prepare", "", "2 × 4", "land before jumping", role="landing", salt=1),
        Draft("A1", "A · fast", "", jump_text(facts, 3, 2), "sharp for the match", True, role="jump_vertical"),
        Draft("B1", "B · fast lift", "", "3 × 3 @ 40 %", "light and fast", True, role="ballistic_lower"),
        Draft("C1", "C · throw", "", "2 × 4", "upper body, unloaded", role="throw_push"),
    ]


def in_season(facts: WeekFacts) -> list[DayDraft]:
    """Return a strength session four days before the match and a short fast one two days before."""
    strength = [
        Draft("P1", "Prepare", "", "2 × 4", "land before jumping", role="landing"),
        Draft("A1", "A · main", "back_squat", heavy_text(facts, full=3), "strength held, never a limit", True),
        Draft("B1", "B · upper", "bench_press", heavy_text(facts, full=3, less_pct=3), "press", True),
    ]
    fast = fast_day(facts)
    if with_accessories(facts):
        strength += [
            Draft("C1", "C · small work", "", accessory_text(facts, 8, 2), "row", role="row"),
            Draft("C2", "C · small work", "", accessory_text(facts, 6, 2), "hamstrings", role="knee_flexion"),
            Draft("C3", "C · small work", "", "2 × 20 s", "trunk", role="hold_side"),
        ]
    days = [DayDraft("A", "Strength, far from the match", "high", strength), DayDraft("B", "Short and fast", "low", fast)]
    return days[: facts.days]


ARRANGEMENT = WeekArrangement(
    "in_season",
    "In season",
    (1, 2),
    in_season,
    "Days are counted from the match: strength four days before, a short fast session two days before, nothing heavy "
    "inside three days. Two matches in a "
    "week leave one small session.",
    "teams that play every week",
    "holds strength, hardly builds it",
    ("handball",),
)
