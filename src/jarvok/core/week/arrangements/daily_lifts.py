"""Weightlifting with both lifts nearly every day, each in its own rhythm, out of phase. Common practice."""

from __future__ import annotations

from jarvok.core.week.building import Build
from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, lifts_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

HEAVY, MODERATE, TECHNICAL, SELF = "heavy", "moderate", "technical", "self-regulated"
LESS = {HEAVY: 0.0, MODERATE: 8.0, TECHNICAL: 20.0, SELF: 10.0}  # [J] points of the max below the week's top
SHARE = {HEAVY: 0.7, MODERATE: 0.6, TECHNICAL: 0.4, SELF: 0.5}
SNATCH = (HEAVY, TECHNICAL, SELF, HEAVY, TECHNICAL)
JERK_DAY = 3  # [C] no clean that day, so that the front squat fits
SELF_WORDS = "up today if it moves well, technique if not"
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
    if index == JERK_DAY:
        text = lifts_text(facts, LESS[clean], SHARE[clean])
        drafts.append(Draft("B1", "B · jerk", "jerk_from_rack", text, "jerk only, so that the front squat fits", True))
        drafts.append(
            Draft(
                "C1",
                "C · squat",
                "front_squat",
                heavy_text(facts, full=3, less_pct=4, is_front_squat=True),
                "front squat on the day without cleans",
                True,
                build=Build.RISES,
            )
        )
    else:
        drafts.append(_lift(facts, "B1", "B · clean and jerk", "clean_and_jerk", "clean_variation", clean, index))
    if index == 0:
        text = heavy_text(facts, full=4)
        drafts.append(Draft("C1", "C · squat", "back_squat", text, "heavy squats after the days off", True, build=Build.RISES))
    if index == 4 and with_accessories(facts):
        drafts.append(Draft("C1", "C · hinge", "romanian_deadlift", accessory_text(facts, 6), "before the rest day"))
    load = "high" if HEAVY in (snatch, clean) else "middle"
    theme = f"Snatch {snatch}, jerk alone" if index == JERK_DAY else f"Snatch {snatch}, clean and jerk {clean}"
    return DayDraft("A", theme, load, drafts)


def _lift(facts: WeekFacts, slot: str, block: str, lift: str, variations: str, effort: str, index: int) -> Draft:
    text = lifts_text(facts, LESS[effort], SHARE[effort])
    if effort == TECHNICAL and facts.faults:
        return Draft(slot, block, "", text, "technique, for the technical fault", True, variations, salt=index, for_fault=True)
    why = {HEAVY: "heavy today", MODERATE: "moderate", TECHNICAL: "technique today", SELF: SELF_WORDS}[effort]
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
    "Both lifts on every lifting day, each in its own rhythm, out of phase: the snatch heavy, technical, self-regulated; clean "
    "and jerk moderate, heavy, technical. Heavy back squats after the days off, the front squat on a day of jerks only; one "
    "day of jumps, throws and body work.",
    "weightlifters who recover well and live for the lifts",
    "leaves little for anything else; needs an eye on the daily form",
    ("weightlifting",),
    allows_daily_lifts=True,
    skill=3,
    asks="two years of the weightlifting lifts, shoulders and wrists that bear them daily",
    asks_months=24,  # [J]
)
