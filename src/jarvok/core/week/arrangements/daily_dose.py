"""One short focused cluster a day, another each day. Common practice."""

from __future__ import annotations

from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts


def daily_dose(facts: WeekFacts) -> list[DayDraft]:
    """Return four to six short days."""
    squat, jumps, single, upper, other, hinge = (
        (
            "Heavy squat",
            "high",
            [Draft("A1", "A · dose", "back_squat", heavy_text(facts, full=3), "one heavy thing", True)],
            "trunk_flexion",
        ),
        ("Jumps", "middle", [Draft("A1", "A · dose", "", jump_text(facts, 4), "fast and few", True, "jump_vertical")], "scapula"),
        (
            "Single leg",
            "middle",
            [Draft("A1", "A · dose", "", heavy_text(facts, full=3, less_pct=8), "each leg on its own", True, "single_leg")],
            "hold_side",
        ),
        (
            "Press and row",
            "low",
            [
                Draft("A1", "A · dose", "bench_press", heavy_text(facts, full=3), "press", True),
                Draft("A2", "A · dose", "", accessory_text(facts, 8), "row", role="row"),
            ],
            "triceps",
        ),
        (
            "Other jumps",
            "middle",
            [Draft("A1", "A · dose", "", jump_text(facts, 3), "another direction", True, "jump_horizontal")],
            "anti_rotation",
        ),
        (
            "Hinge",
            "high",
            [Draft("A1", "A · dose", "trap_bar_deadlift", heavy_text(facts, full=3, less_pct=5), "hips", True)],
            "hold_front",
        ),
    )
    order = {
        4: (squat, jumps, upper, hinge),
        5: (squat, jumps, upper, hinge, single),
        6: (squat, upper, jumps, hinge, single, other),
    }
    return [_day(facts, i, *row) for i, row in enumerate(order[facts.days])]


def _day(facts: WeekFacts, index: int, theme: str, load: str, dose: list[Draft], supplement: str) -> DayDraft:
    drafts = [Draft("P1", "Prepare", "", "2 × 4", "land before jumping", role="landing", salt=index), *dose]
    if with_accessories(facts):
        drafts.append(
            Draft(
                "B1", "B · supplement", "", accessory_text(facts, 8, 2), "one supplement, then home", role=supplement, salt=index
            )
        )
    return DayDraft("ABCDEF"[index], theme, load, drafts)


ARRANGEMENT = WeekArrangement(
    "daily_dose",
    "A small dose a day",
    (4, 5, 6),
    daily_dose,
    "One focused cluster a day with a supplement or two: heavy squat, jumps, press and row, hinge, single leg, other "
    "jumps. A missed day costs little.",
    "athletes with half an hour before practice",
    "no long session ever; warm-up each day",
    asks="sound technique; what is done daily is done light",
    asks_months=3,  # [J]
)
