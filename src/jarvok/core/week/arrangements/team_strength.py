"""Whole-body strength for a team, press angles varied, max strength last in the week. Common practice."""

from __future__ import annotations

from jarvok.core.session.blocks import PAIR
from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

LEGS = ("split_squat", "trap_bar_deadlift", "front_squat")
PRESSES = ("incline_bench_press", "dumbbell_overhead_press", "landmine_press")


def team_strength(facts: WeekFacts) -> list[DayDraft]:
    """Return two to four whole-body days; the last is the heavy one."""
    count = facts.days
    return [_day(facts, i, i == count - 1) for i in range(count)]


def _day(facts: WeekFacts, index: int, is_heavy: bool) -> DayDraft:
    less = 0 if is_heavy else 8
    leg, press = ("back_squat", "bench_press") if is_heavy else (LEGS[index], PRESSES[index])
    drafts = [
        Draft("P1", "Prepare", "", "2 × 5", "mobility with strength", role="mobility_hip", salt=index),
        Draft("P2", "Prepare", "", "2 × 4", "land before jumping", role="landing", salt=index),
        Draft("A1", "A · fast", "", jump_text(facts, 3, 2), "power while fresh", role="jump_vertical", salt=index),
        Draft(
            "B1",
            "B · main pair",
            leg,
            heavy_text(facts, full=4 if is_heavy else 3, less_pct=less),
            "max strength last in the week, on purpose" if is_heavy else "legs",
            True,
            style=PAIR,
        ),
        Draft(
            "B2",
            "B · main pair",
            press,
            heavy_text(facts, full=3, less_pct=less),
            "press; another angle each day",
            True,
            style=PAIR,
        ),
    ]
    if with_accessories(facts):
        drafts += [
            Draft(
                "C1",
                "C · pull and hips",
                "",
                accessory_text(facts, 8),
                "pull",
                role="row" if index % 2 else "pull_vertical",
                salt=index,
                style=PAIR,
            ),
            Draft(
                "C2",
                "C · pull and hips",
                "",
                accessory_text(facts, 8, 2),
                "hamstrings",
                role="hip_extension",
                salt=index,
                style=PAIR,
            ),
            Draft("D1", "D · trunk", "", "2 × 8", "trunk each day", role="trunk", salt=index),
        ]
        if index == 0:
            drafts.append(
                Draft(
                    "D2",
                    "D · trunk",
                    "metronome_push_up",
                    "1 × 25",
                    "a check of muscular endurance to the beat",
                )
            )
    return DayDraft("ABCD"[index], "Whole body, heavy" if is_heavy else "Whole body", "high" if is_heavy else "middle", drafts)


ARRANGEMENT = WeekArrangement(
    "team_strength",
    "Team strength week",
    (2, 3, 4),
    team_strength,
    "Whole-body sessions, press angles varied in the week, trunk and mobility with strength each day, a push-up check "
    "to a metronome. Max strength "
    "stands last in the week on purpose; another school puts it where athletes are freshest.",
    "squads that train together and need one sheet for all",
    "everything a little, nothing to a peak",
    ("handball",),
)
