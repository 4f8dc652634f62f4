"""Weightlifting, three to five days. Common practice."""

from __future__ import annotations

from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, lifts_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

PREPARE = "Prepare"


def weightlifting(facts: WeekFacts) -> list[DayDraft]:
    """Return three, four or five days; the first and the last hold most of the big lifts."""
    match facts.days:
        case 3:
            days = [_snatch_day(facts, True), _technique_day(facts), _both_day(facts)]
        case 4:
            days = [_snatch_day(facts), _clean_day(facts), _technique_day(facts, with_clean=False), _both_day(facts)]
        case _:
            days = [_snatch_day(facts), _clean_day(facts), _technique_day(facts), _body_day(facts), _both_day(facts)]
    return [DayDraft("ABCDE"[i], d.theme, d.load, d.drafts) for i, d in enumerate(days)]


def _prepare() -> list[Draft]:
    return [Draft("P1", PREPARE, "stick_squat_press", "1 × 10", "lighter implement first; the bar in the second round")]


def _small(facts: WeekFacts, *drafts: Draft) -> list[Draft]:
    return list(drafts) if with_accessories(facts) else []


def _front_squat(facts: WeekFacts) -> str:
    """Limit front squats end more than ten days out, and stay away from the weeks that matter."""
    return heavy_text(facts, full=4, less_pct=3, is_front_squat=True)


def _snatch_day(facts: WeekFacts, with_clean: bool = False) -> DayDraft:
    drafts = [*_prepare(), Draft("A1", "A · classic lift", "snatch", lifts_text(facts), "the snatch while fresh", True)]
    if with_clean:
        drafts.append(
            Draft(
                "B1",
                "B · clean",
                "",
                lifts_text(facts, 6, 0.7),
                "the clean a first time",
                True,
                role="clean_variation",
                for_fault=True,
            )
        )
    drafts.append(Draft("C1", "C · squat", "back_squat", heavy_text(facts, full=4), "legs ahead of the lifts", True))
    drafts += _small(
        facts,
        Draft("D1", "D · upper body", "", accessory_text(facts, 8), "an upper back that holds the bar", role="row"),
        Draft("D2", "D · upper body", "", "2 × 8", "trunk between the lifts", role="trunk_flexion"),
    )
    return DayDraft("A", "Snatch and squat", "high", drafts)


def _clean_day(facts: WeekFacts) -> DayDraft:
    drafts = [
        *_prepare(),
        Draft(
            "A1",
            "A · classic lift",
            "",
            lifts_text(facts, 6),
            "the clean, by the fault on record or in turn",
            True,
            role="clean_variation",
            for_fault=True,
        ),
        Draft(
            "B1", "B · jerk", "", lifts_text(facts, 5, 0.7), "overhead on its own", True, role="jerk_variation", for_fault=True
        ),
        Draft("C1", "C · pull", "", heavy_text(facts, full=3), "strength in the pulling positions", True, role="classic_pull"),
    ]
    drafts += _small(
        facts,
        Draft("D1", "D · single leg", "", accessory_text(facts, 8), "each leg on its own", role="single_leg"),
        Draft("D2", "D · single leg", "", "2 × 8", "sideways", role="trunk_side"),
    )
    return DayDraft("B", "Clean, jerk and pull", "middle", drafts)


def _technique_day(facts: WeekFacts, with_clean: bool = True) -> DayDraft:
    drafts = [
        *_prepare(),
        Draft("P2", PREPARE, "", jump_text(facts, 3, 2), "a few jumps: what the lifts do not train", role="jump_vertical"),
        Draft(
            "A1",
            "A · technique",
            "",
            lifts_text(facts, 10, 0.7),
            "snatch technique, by the fault on record or in turn",
            True,
            role="snatch_variation",
            for_fault=True,
        ),
    ]
    if with_clean:
        drafts.append(
            Draft("B1", "B · jerk", "", lifts_text(facts, 8, 0.7), "jerk technique", True, role="jerk_variation", for_fault=True)
        )
        if facts.days == 3:
            drafts.append(
                Draft(
                    "C1",
                    "C · pull",
                    "",
                    heavy_text(facts, full=3),
                    "strength in the pulling positions",
                    True,
                    role="classic_pull",
                )
            )
    else:
        drafts.append(
            Draft("B1", "B · push press", "push_press", heavy_text(facts, full=3, less_pct=5), "drive and lockout", True)
        )
        drafts += _small(
            facts, Draft("C1", "C · hinge", "romanian_deadlift", accessory_text(facts, 6), "a hinge for the back of the legs")
        )
    drafts += _small(
        facts,
        Draft("D1", "D · single leg", "", accessory_text(facts, 8), "each leg on its own", role="single_leg", salt=1),
        Draft("D2", "D · single leg", "", accessory_text(facts, 10), "upper body", role="press_second", salt=1),
    )
    return DayDraft("C", "Technique, lighter", "middle" if facts.days == 3 else "low", drafts)


def _body_day(facts: WeekFacts) -> DayDraft:
    drafts = [
        *_prepare(),
        Draft("A1", "A · push press", "push_press", heavy_text(facts, full=3, less_pct=5), "drive and lockout", True),
    ]
    drafts += _small(
        facts,
        Draft("B1", "B · hinge", "romanian_deadlift", accessory_text(facts, 6), "a hinge for the back of the legs"),
        Draft("C1", "C · body", "", accessory_text(facts, 8), "upper back", role="row", salt=1),
        Draft("C2", "C · body", "", accessory_text(facts, 10), "shoulders that stay sound", role="scapula"),
        Draft("C3", "C · body", "", "2 × 20 s", "front plane", role="hold_front"),
    )
    return DayDraft("D", "Push press and body", "low", drafts)


def _both_day(facts: WeekFacts) -> DayDraft:
    """Both classic lifts back to back; which leads alternates by block of three weeks."""
    lead, other = ("snatch", "clean_and_jerk") if facts.week.index // 3 % 2 == 0 else ("clean_and_jerk", "snatch")
    drafts = [
        *_prepare(),
        Draft("A1", "A · both lifts", lead, lifts_text(facts), "as on the platform; the lead changes by block", True),
        Draft("A2", "A · both lifts", other, lifts_text(facts, 3, 0.8), "tired from the first, as on the day", True),
        Draft("B1", "B · squat", "front_squat", _front_squat(facts), "legs for standing up with the clean", True),
    ]
    if facts.weakest:
        text = heavy_text(facts, full=3, less_pct=8)
        drafts.append(Draft("C1", "C · weakest lift", facts.weakest, text, facts.weakest_words or "the lift that lags", True))
    elif with_accessories(facts):
        drafts.append(
            Draft(
                "C1",
                "C · hinge",
                "romanian_deadlift",
                "3 × 6, 2 in reserve",
                "a hinge for the back of the legs",
            )
        )
    return DayDraft("E", "Both lifts and front squat", "high", drafts)


ARRANGEMENT = WeekArrangement(
    "weightlifting",
    "Weightlifting, three to five days",
    (3, 4, 5),
    weightlifting,
    "Each classic lift or a variation at least twice, both squats, a pull, a jerk or push press, one hinge, single-leg "
    "and upper-body "
    "work, one place for the weakest lift. One day holds both lifts back to back. The first and last days are the big ones.",
    "weightlifters who train around work or school",
    "each lift is met only two or three times a week",
    ("weightlifting",),
    allows_daily_lifts=True,
    skill=3,
)
