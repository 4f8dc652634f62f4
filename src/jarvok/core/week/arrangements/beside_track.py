"""Strength beside a track programme: no extra sprinting. Common practice."""

from __future__ import annotations

from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts


def beside_track(facts: WeekFacts) -> list[DayDraft]:
    """Return two or three days of the same shape with other exercises."""
    return [_day(facts, key, salt) for salt, key in enumerate("ABC"[: facts.days])]


def _day(facts: WeekFacts, key: str, salt: int) -> DayDraft:
    drafts = [
        Draft("P1", "Prepare", "", "1 × 10", "foot and ankle series", role="foot", salt=salt),
        Draft("P2", "Prepare", "", "2 × 8", "leg cycle, no mechanics work beyond it", role="leg_cycle", salt=salt),
        Draft(
            "A1",
            "A · bounds",
            "",
            jump_text(facts, 4, 2),
            "a few bounds; the track supplies the sprinting",
            role="jump_short_contact",
            salt=salt,
        ),
    ]
    if salt % 2 == 0:
        drafts.append(
            Draft(
                "B1",
                "B · squat",
                "band_fast_lowering_squat",
                heavy_text(facts, full=4, less_pct=20),
                "fast lowering, caught and stood up",
                True,
            )
        )
    else:
        drafts.append(Draft("B1", "B · squat", "", heavy_text(facts, full=3), "strength held", True, role="track_squat"))
    drafts.append(
        Draft("C1", "C · single leg", "", accessory_text(facts, 6), "split or reverse lunge", True, role="track_lunge", salt=salt)
    )
    if with_accessories(facts):
        drafts += [
            Draft(
                "D1",
                "D · hinge and trunk",
                "",
                accessory_text(facts, 8, 2),
                "single-leg hinge",
                role="single_leg_hinge",
                salt=salt,
            ),
            Draft("D2", "D · hinge and trunk", "", "2 × 10", "against rotation", role="anti_rotation", salt=salt),
        ]
    return DayDraft(key, "Squat, lunge, single-leg hinge", "high", drafts)


ARRANGEMENT = WeekArrangement(
    "beside_track",
    "Beside a track programme",
    (2, 3),
    beside_track,
    "Foot and ankle series, leg cycles, a few bounds, a squat with banded fast lowering, a lunge, a single-leg hinge, "
    "anti-rotation. No extra "
    "sprint volume, and no mechanics work unless a fault is recorded.",
    "sprinters whose speed comes from the track",
    "depends on what the track coach does that day",
    asks="a sprint programme led by somebody else",
)
