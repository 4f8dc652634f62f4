"""Whole-body strength for a team, press angles varied, max strength last in the week. Common practice."""

from __future__ import annotations

from jarvok.core.library.exercises import exercise
from jarvok.core.session.blocks import PAIR, BlockStyle, Grouping
from jarvok.core.week.building import Build
from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

LEGS = ("trap_bar_deadlift", "front_squat", "box_squat")
HEAVY_LEG = "back_squat"
PRESSES = ("incline_bench_press", "dumbbell_overhead_press", "landmine_press")
HEAVY_PRESS = "bench_press"
TEMPO = "3-0-X-0"  # [C] lowered slowly, lifted fast
LESS_PCT = 14.0  # [J] below the heavy day: one day a week is heavy
PRESS_REPS = 6


def team_strength(facts: WeekFacts) -> list[DayDraft]:
    """Return two to four whole-body days; the last is the heavy one."""
    count = facts.days
    return [_day(facts, i, i == count - 1) for i in range(count)]


def _day(facts: WeekFacts, index: int, is_heavy: bool) -> DayDraft:
    drafts = [
        Draft("P1", "Prepare", "", "2 × 5", "mobility with strength", role="mobility_hip", salt=index),
        Draft("P2", "Prepare", "", "2 × 4", "land before jumping", role="landing", salt=index),
        Draft("A1", "A · fast", "", jump_text(facts, 3, 2), "power while fresh", True, role="jump_vertical", salt=index),
        _legs(facts, index, is_heavy),
        Draft(
            "B2", "B · legs", "", accessory_text(facts, 6, 2), "each leg on its own", role="single_leg", salt=index, style=PAIR
        ),
        _press(facts, index, is_heavy),
    ]
    if with_accessories(facts):
        pull = "row" if index % 2 else "pull_vertical"
        drafts += [
            Draft("C2", "C · press and pull", "", accessory_text(facts, 8), "pull", role=pull, salt=index, style=PAIR),
            Draft("D1", "D · trunk and groin", "", "2 × 8", "only the limbs move", role="trunk_still", salt=index, style=PAIR),
            Draft(
                "D2", "D · trunk and groin", "", accessory_text(facts, 8, 2), "groin, side to side", role="adductor", salt=index,
                style=PAIR,
            ),
        ]  # fmt: skip
        if index == 0:
            check = BlockStyle(Grouping.METRONOME, bpm=50)
            why = "a check of muscular endurance to the beat; how many is kept"
            drafts.append(Draft("E1", "E · to the beat", "metronome_push_up", "1 × 25+", why, style=check))
    return DayDraft("ABCD"[index], "Whole body, heavy" if is_heavy else "Whole body", "high" if is_heavy else "middle", drafts)


def _legs(facts: WeekFacts, index: int, is_heavy: bool) -> Draft:
    if is_heavy:
        text, why = heavy_text(facts, full=4), "max strength last in the week, on purpose"
        return Draft("B1", "B · legs", HEAVY_LEG, f"{text}, {TEMPO}", why, True, style=PAIR, build=Build.RISES)
    text = heavy_text(facts, full=3, less_pct=LESS_PCT)
    return Draft("B1", "B · legs", LEGS[index], f"{text}, {TEMPO}", "legs", True, style=PAIR)


def _press(facts: WeekFacts, index: int, is_heavy: bool) -> Draft:
    """Another angle each day; only the bench press, whose max is known, goes by a percentage."""
    block, why = "C · press and pull", "press; another angle each day"
    if is_heavy:
        return Draft("C1", block, HEAVY_PRESS, f"{heavy_text(facts, full=3)}, {TEMPO}", why, True, style=PAIR)
    lift = exercise(PRESSES[index])
    text = f"3 × {PRESS_REPS}{'/side' if lift.per_side else ''}, 2 in reserve, {TEMPO}"
    return Draft("C1", block, lift.id, text, why, True, style=PAIR)


ARRANGEMENT = WeekArrangement(
    "team_strength",
    "Team strength week",
    (2, 3, 4),
    team_strength,
    "Whole-body sessions: a bilateral leg lift paired with a single-leg one, lowered slowly and lifted fast; a press at "
    "another angle each day with a pull; trunk work in which only the limbs move, groin and side-to-side work; a push-up check "
    "to a metronome. Max strength "
    "stands last in the week on purpose; another school puts it where athletes are freshest.",
    "squads that train together and need one sheet for all",
    "everything a little, nothing to a peak",
    ("handball",),
    asks="squat, hinge, press and pull done soundly with light loads",
    asks_months=3,  # [J]
)
