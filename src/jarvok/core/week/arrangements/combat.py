"""Combat sport: two or three days around daily practice. Common practice."""

from __future__ import annotations

from jarvok.core.session.blocks import PAIR
from jarvok.core.week.arrangements.around_practice import days_around_practice, left_over
from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

HOW = (
    "One day holds a bilateral lower-body lift paired with a press, the other a pull paired with a single-leg lift. A "
    "carry and a "
    "trunk hold each day lie in opposite planes. Jump-and-land practice stands in the warm-up from week one."
)


def combat(facts: WeekFacts) -> list[DayDraft]:
    """Return two days, or three with a whole-body day of lighter, faster work."""
    days = days_around_practice(facts)
    if facts.days < 3:
        return days
    a, b = days
    return [a, DayDraft("C", "Whole body, fast and light", "middle", _third(facts)), DayDraft("B", b.theme, b.load, b.drafts)]


def _third(facts: WeekFacts) -> list[Draft]:
    drafts = [
        Draft("P1", "Prepare", "", "2 × 4", "land before jumping", role="landing"),
        Draft("A1", "A · fast", "", jump_text(facts, 3), "whole-body power while fresh", True, role="throw_whole"),
        Draft(
            "B1",
            "B · main pair",
            "",
            heavy_text(facts, full=3, less_pct=12),
            "hips a third time, light",
            True,
            "hip_extension",
            style=PAIR,
        ),
        Draft("B2", "B · main pair", "", accessory_text(facts, 8), "upper back for the clinch", role="row", salt=1, style=PAIR),
    ]
    if with_accessories(facts):
        drafts += [
            Draft("C1", "C · trunk and neck", "", "2 × 8", "rotation from the hip", role="oblique"),
            Draft("C2", "C · trunk and neck", "neck_hold", "2 × 15 s", "the neck takes the mat"),
            left_over(facts),
        ]
    return drafts


TWO_DAYS = WeekArrangement(
    "two_days",
    "Two days around practice",
    (2,),
    days_around_practice,
    HOW,
    "combat and team athletes whose sport takes most of the week",
    "little room for weak points; a missed day is half the week",
    ("wrestling", "handball"),
    asks="squat, hinge, press and pull done soundly; daily practice under Details, so that sessions go around it",
    asks_months=3,  # [J]
)
ARRANGEMENT = WeekArrangement(
    "combat",
    "Combat, two or three days",
    (2, 3),
    combat,
    f"{HOW} A third day is whole-body, lighter and faster. Built to shrink to plan B or C on the day.",
    "combat athletes in a phase with lighter mat work",
    "the third day must stay light, or practice pays for it",
    ("wrestling",),
    asks="squat, hinge, press and pull done soundly; daily practice under Details, so that sessions go around it",
    asks_months=3,  # [J]
)
