"""A week of tests at the close of a block, after an easier week and never inside a taper. Common practice."""

from __future__ import annotations

from jarvok.core.season.model import PhaseKey
from jarvok.core.week.dose import heavy_text
from jarvok.core.week.plan import DayDraft, Draft, Level, WeekArrangement, WeekFacts

TESTS = (
    ("Jump and squat", "countermovement_jump", "back_squat"),
    ("Throw and press", "chest_throw", "bench_press"),
    ("Broad jump and pull", "broad_jump", "prone_row"),
)


def closing_tests(facts: WeekFacts) -> list[DayDraft]:
    """Return two or three days of a fast test and a strength test; in a taper the tests are left out."""
    no_test = facts.week.phase is PhaseKey.TAPER
    days = []
    for i, (theme, fast, lift) in enumerate(TESTS[: facts.days]):
        text = (
            heavy_text(facts, full=2)
            if no_test or facts.level is Level.NOVICE or not facts.may_max
            else "1 × 5 @ 75 % then 1 × 8–10RM"
        )
        why = "a taper holds no test" if no_test else "a rep-max, estimated to a max; the guided tests lead through it"
        drafts = [
            Draft("P1", "Prepare", "", "2 × 4", "land before jumping", role="landing", salt=i),
            Draft("A1", "A · fast test", fast, "1 × 3, rest 2:00", "three single tries, the best counts", True),
            Draft("B1", "B · strength test", lift, text, why, True),
        ]
        days.append(DayDraft("ABC"[i], theme, "high" if i == 0 else "middle", drafts))
    return days


ARRANGEMENT = WeekArrangement(
    "test_week",
    "Test week",
    (2, 3),
    closing_tests,
    "A fast test and a strength test each day, after a deload week. Inside a taper nothing is tested.",
    "closing a block with numbers",
    "a week with little training in it",
    uses_failure=True,
    is_test=True,
)
