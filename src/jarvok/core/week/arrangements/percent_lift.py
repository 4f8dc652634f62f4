"""One main percent lift a day, done in order and not by weekday. Common practice."""

from __future__ import annotations

from jarvok.core.session.blocks import PAIR
from jarvok.core.week.dose import accessory_text, heavy_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

# main lift, its place, the accessory pair: regions alternate
DAYS = (
    ("back_squat", "Squat", "high", "hip_extension", "trunk_flexion"),
    ("bench_press", "Bench press", "low", "row", "triceps"),
    ("deadlift", "Deadlift", "high", "single_leg", "anti_rotation"),
    ("overhead_press", "Overhead press", "low", "pull_vertical", "rear_delt"),
    ("front_squat", "Front squat", "middle", "knee_flexion", "hold_side"),
)


def percent_lift(facts: WeekFacts) -> list[DayDraft]:
    """Return two to five days, each with a main lift, a pair of accessories and a short finisher."""
    return [_day(facts, i, *row) for i, row in enumerate(DAYS[: facts.days])]


def _day(facts: WeekFacts, index: int, lift: str, theme: str, load: str, first: str, second: str) -> DayDraft:
    drafts = [
        Draft(
            "P1",
            "Prepare",
            "",
            "2 × 5",
            "ready for the main lift",
            role="mobility_hip" if load != "low" else "mobility_upper",
            salt=index,
        ),
        Draft(
            "A1",
            "A · main lift",
            lift,
            heavy_text(facts, full=5, is_front_squat=lift == "front_squat"),
            "the day's percent lift",
            True,
        ),
    ]
    if with_accessories(facts):
        drafts += [
            Draft(
                "B1", "B · accessory pair", "", accessory_text(facts, 8), "supports the lift", role=first, salt=index, style=PAIR
            ),
            Draft("B2", "B · accessory pair", "", accessory_text(facts, 10), "balances it", role=second, salt=index, style=PAIR),
            Draft("C1", "C · finisher", "", "1 × 5 min", "short, and only if time is left", role="finisher", salt=index),
        ]
    return DayDraft("ABCDE"[index], theme, load, drafts)


ARRANGEMENT = WeekArrangement(
    "percent_lift",
    "One percent lift a day",
    (2, 3, 4, 5),
    percent_lift,
    "One main percent lift a day, regions alternating, an accessory pair, a short finisher. Done in order, not by "
    "weekday: an extra rest day shifts "
    "the rest, a long break repeats the week.",
    "lifters and busy adults with changing weeks",
    "little speed, little variety",
    is_sequence=True,
)
