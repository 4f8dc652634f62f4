"""Weightlifting with both lifts nearly every day, heavy, moderate and technical in turn. Common practice."""

from __future__ import annotations

from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, lifts_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

HEAVY, MODERATE, TECHNICAL = "heavy", "moderate", "technical"
LESS = {HEAVY: 0.0, MODERATE: 8.0, TECHNICAL: 20.0}  # [J] points of the max below the week's top
SHARE = {HEAVY: 0.7, MODERATE: 0.6, TECHNICAL: 0.4}
SNATCH = (HEAVY, TECHNICAL, MODERATE, HEAVY, TECHNICAL)
CLEAN_AND_JERK = (MODERATE, HEAVY, TECHNICAL, MODERATE, HEAVY)


def daily_lifts(facts: WeekFacts) -> list[DayDraft]:
    """Return five days of both lifts out of phase, and a sixth of jumps, throws and body work."""
    days = [_day(facts, i) for i in range(5)]
    if facts.days == 6:
        days.insert(3, DayDraft("F", "Athletic development", "low", _athletic(facts)))
    return [DayDraft("ABCDEF"[i], d.theme, d.load, d.drafts) for i, d in enumerate(days)]


def _day(facts: WeekFacts, index: int) -> DayDraft:
    snatch, clean = SNATCH[index], CLEAN_AND_JERK[index]
    drafts = [Draft("P1", "Prepare", "stick_squat_press", "1 × 10", "lighter implement first")]
    if index == 2:
        text = jump_text(facts, 3, 2)
        drafts.append(Draft("P2", "Prepare", "", text, "a few jumps: what the lifts do not train", role="jump_vertical"))
    drafts.append(_lift(facts, "A1", "A · snatch", "snatch", "snatch_variation", snatch, index))
    if index == 3:
        text = lifts_text(facts, LESS[clean], SHARE[clean])
        drafts.append(Draft("B1", "B · jerk", "jerk_from_rack", text, "jerk only, so that the front squat fits", True))
        drafts.append(
            Draft(
                "C1",
                "C · squat",
                "front_squat",
                heavy_text(facts, full=3, less_pct=4, is_front_squat=True),
                "front squat on the jerk day",
                True,
            )
        )
    else:
        drafts.append(_lift(facts, "B1", "B · clean and jerk", "clean_and_jerk", "clean_variation", clean, index))
    if index == 2:
        drafts.append(
            Draft("C1", "C · squat", "back_squat", heavy_text(facts, full=4), "heavy squats where the lifts are light", True)
        )
    if index == 4 and with_accessories(facts):
        drafts.append(Draft("C1", "C · hinge", "romanian_deadlift", accessory_text(facts, 6), "before the rest day"))
    load = "high" if HEAVY in (snatch, clean) else "middle"
    return DayDraft("A", f"Snatch {snatch}, clean and jerk {clean}", load, drafts)


def _lift(facts: WeekFacts, slot: str, block: str, lift: str, variations: str, effort: str, index: int) -> Draft:
    text = lifts_text(facts, LESS[effort], SHARE[effort])
    if effort == TECHNICAL and facts.faults:
        return Draft(slot, block, "", text, "technique, by the fault on record", True, variations, salt=index, for_fault=True)
    why = {HEAVY: "heavy today", MODERATE: "moderate, by how the bar moves", TECHNICAL: "technique today"}[effort]
    return Draft(slot, block, lift, text, why, True)


def _athletic(facts: WeekFacts) -> list[Draft]:
    drafts = [
        Draft("P1", "Prepare", "", "2 × 4", "land before jumping", role="landing"),
        Draft("A1", "A · jumps and throws", "", jump_text(facts, 3, 2), "what the lifts do not train", role="jump_vertical"),
    ]
    if with_accessories(facts):
        drafts += [
            Draft("A2", "A · jumps and throws", "", "2 × 5", "whole body", role="throw_whole"),
            Draft("B1", "B · body", "", accessory_text(facts, 8, 2), "each leg on its own", role="single_leg"),
            Draft("B2", "B · body", "", accessory_text(facts, 8, 2), "upper back", role="row"),
            Draft("B3", "B · body", "", "2 × 20 s", "sideways", role="hold_side"),
        ]
    return drafts


ARRANGEMENT = WeekArrangement(
    "daily_lifts",
    "Weightlifting, the lifts daily",
    (5, 6),
    daily_lifts,
    "Both lifts nearly every day, each with a heavy, a moderate and a technical day, out of phase; heavy squats where "
    "the lifts are light; "
    "front squat on a day of jerks only; one day of jumps, throws and body work.",
    "weightlifters who recover well and live for the lifts",
    "leaves little for anything else; needs an eye on the daily form",
    ("weightlifting",),
    allows_daily_lifts=True,
    skill=3,
)
