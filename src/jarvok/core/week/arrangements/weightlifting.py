"""Weightlifting, three to five days. Common practice."""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.library.exercises import exercise
from jarvok.core.session.blocks import PAIR
from jarvok.core.week.building import Build
from jarvok.core.week.dose import accessory_text, heavy_text, jump_text, lifts_text, with_accessories
from jarvok.core.week.pick import pool
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

PREPARE = "Prepare"
BLOCK_WEEKS = 3  # [C] the lead of the two lifts, and the overhead lift, change with each block
JERK_FAULTS = frozenset({"dips_forward", "weak_overhead", "one_sided_split"})
STANDS_UP_BADLY = frozenset({"chest_drops", "hips_rise_first"})  # [C] standing up with the clean is what fails
# the small work of the day that carries a weak point: the variation of the lift's own family
WEAK_ROLES = {"snatch": "snatch_variation", "clean": "clean_variation", "jerk": "jerk_variation"}


def weightlifting(facts: WeekFacts) -> list[DayDraft]:
    """Return three to five days; the first and the last are the heavy ones, the last before most rest. Back squat first."""
    return _days(facts, front_first=False)


def front_first(facts: WeekFacts) -> list[DayDraft]:
    """Return the same days with the front squat on the first and the back squat on the last."""
    return _days(facts, front_first=True)


def _days(facts: WeekFacts, front_first: bool) -> list[DayDraft]:
    first, last = _first_day(facts, front_first), _both_day(facts, not front_first)
    match facts.days:
        case 3:
            days = [first, _joined_day(facts), last]
        case 4:
            days = [first, _clean_day(facts), _weak_point_day(facts), last]
        case _:
            days = [first, _clean_day(facts), _small_day(facts), _weak_point_day(facts), last]
    return [DayDraft("ABCDE"[i], d.theme, d.load, d.drafts) for i, d in enumerate(days)]


def _prepare() -> list[Draft]:
    return [Draft("P1", PREPARE, "stick_squat_press", "1 × 10", "lighter implement first; the bar in the second round")]


def _jumps(facts: WeekFacts) -> Draft:
    return Draft("P2", PREPARE, "", jump_text(facts, 3, 2), "a few jumps: what the lifts do not train", role="jump_vertical")


def _small(facts: WeekFacts, *drafts: Draft) -> list[Draft]:
    return list(drafts) if with_accessories(facts) else []


def _squat(facts: WeekFacts, front: bool, why: str) -> Draft:
    """Limit front squats end more than ten days out, and stay away from the weeks that matter."""
    lift = "front_squat" if front else "back_squat"
    text = heavy_text(facts, full=4, less_pct=3, is_front_squat=True) if front else heavy_text(facts, full=4)
    return Draft("B1", "B · squat", lift, text, why, True, build=Build.RISES)


def _first_day(facts: WeekFacts, front: bool) -> DayDraft:
    """Heavy: a snatch exercise, a squat, an overhead lift, an upper-body press."""
    drafts = [
        *_prepare(),
        _snatch(facts),
        _squat(facts, front, "legs ahead of the lifts"),
        _overhead(facts),
        *_small(
            facts, Draft("D1", "D · press", "", accessory_text(facts, 8), "the press that holds the lockout", role="press_second")
        ),
    ]
    return DayDraft("A", "Snatch, squat and overhead", "high", drafts)


def _speaks_to_fault(role: str, facts: WeekFacts) -> bool:
    """Whether a variation of that kind works on a fault on record."""
    return any(facts.faults & frozenset(exercise(e).faults) for e in pool(role, facts.limits))


def _snatch(facts: WeekFacts) -> Draft:
    """The snatch, or the variation that works on the fault on record: the worst is met twice a week."""
    if _speaks_to_fault("snatch_variation", facts):
        why = "a snatch exercise while fresh, for the technical fault"
        return Draft("A1", "A · weightlifting", "", lifts_text(facts), why, True, "snatch_variation", for_fault=True)
    return Draft("A1", "A · weightlifting", "snatch", lifts_text(facts), "the snatch while fresh", True)


def _overhead(facts: WeekFacts) -> Draft:
    """The overhead lift: push press and jerk by turns of three weeks; a fault of the jerk brings the jerk."""
    jerk = facts.week.index // BLOCK_WEEKS % 2 == 1 or bool(facts.faults & JERK_FAULTS)
    if jerk:
        text = lifts_text(facts, 5, 0.6)
        return Draft("C1", "C · overhead", "", text, "overhead on its own", True, role="jerk_variation", for_fault=True)
    text = heavy_text(facts, full=3, less_pct=5)
    return Draft("C1", "C · overhead", "push_press", text, "drive and lockout", True)


def _clean_and_jerk(facts: WeekFacts, slot: str, block: str, less_pct: float, share: float) -> list[Draft]:
    """One slot for both; clean and jerk are split only where standing up with the clean is the technical fault."""
    if not facts.faults & STANDS_UP_BADLY:
        why = "clean and jerk a first time in the week"
        return [Draft(slot, block, "clean_and_jerk", lifts_text(facts, less_pct, share), why, True)]
    why = "split from the jerk: standing up with the clean is the technical fault"
    text, lighter = lifts_text(facts, less_pct, share), lifts_text(facts, less_pct, share * 0.8)
    return [
        Draft(slot, block, "", text, why, True, role="clean_variation", for_fault=True),
        Draft(f"{slot[0]}2", block, "", lighter, why, True, role="jerk_variation", for_fault=True),
    ]


def _clean_day(facts: WeekFacts) -> DayDraft:
    """Lighter: clean and jerk in one slot, a pull, each leg on its own, an upper-body pull."""
    drafts = [
        *_prepare(),
        *_clean_and_jerk(facts, "A1", "A · weightlifting", 6, 0.7),
        Draft("B1", "B · pull", "", heavy_text(facts, full=3), "strength in the pulling positions", True, role="classic_pull"),
        *_small(
            facts,
            Draft("C1", "C · single leg", "", accessory_text(facts, 8), "each leg on its own", role="single_leg", style=PAIR),
            Draft(
                "C2", "C · single leg", "", accessory_text(facts, 8), "an upper back that holds the bar", role="row", style=PAIR
            ),
        ),
    ]
    return DayDraft("B", "Clean and jerk, and pull", "middle", drafts)


def _weak_point(facts: WeekFacts, slot: str, block: str) -> Draft:
    """The lift that lags, once more in a variation, with its figure; without one the snatch, met least of all."""
    lag = exercise(facts.weakest) if facts.weakest else None
    words = facts.weakest_words or "the lift that lags"
    family = lag.same_lift if lag is not None and lag.kind == "classic" else ""
    role = next((r for name, r in WEAK_ROLES.items() if name in (family or "")), "")
    jerk = facts.faults & JERK_FAULTS
    if jerk and role != WEAK_ROLES["jerk"]:  # the lagging jerk is met twice, whatever else lags
        why = "weak point: the jerk, for the technical fault" + (f"; besides, {words}" if lag is not None else "")
        text = lifts_text(facts, 10, 0.7)
        return Draft(slot, block, "", text, why, True, role=WEAK_ROLES["jerk"], salt=1, for_fault=True)
    if lag is not None and not role:
        text = heavy_text(facts, full=3, less_pct=8, is_front_squat=lag.id == "front_squat")
        return Draft(slot, block, lag.id, text, f"weak point: {words}", True)
    why = f"weak point: {words}" if lag is not None else "the snatch once more, light: no lift lags"
    speaking = (r for r in WEAK_ROLES.values() if _speaks_to_fault(r, facts))
    role = role or next(speaking, "snatch_variation")
    return Draft(slot, block, "", lifts_text(facts, 10, 0.7), why, True, role=role, salt=1, for_fault=True)


def _weak_point_day(facts: WeekFacts) -> DayDraft:
    """Lighter: the weak point, a soft-knee hinge, upper body."""
    drafts = [
        *_prepare(),
        _jumps(facts),
        _weak_point(facts, "A1", "A · weak point"),
        *_small(
            facts,
            Draft("B1", "B · hinge", "romanian_deadlift", accessory_text(facts, 6), "knees soft, the back of the legs"),
            Draft(
                "C1", "C · upper body", "", accessory_text(facts, 8), "upper body", role="press_second", salt=1, style=PAIR
            ),
            Draft("C2", "C · upper body", "", "2 × 8", "trunk between the lifts", role="trunk_flexion", style=PAIR),
        ),
    ]  # fmt: skip
    return DayDraft("C", "Weak point and hinge", "low", drafts)


def _joined_day(facts: WeekFacts) -> DayDraft:
    """Days two and three in one: clean and jerk, a pull, the weak point, hinge and single leg, upper body."""
    drafts = [
        *_prepare(),
        _jumps(facts),
        *_clean_and_jerk(facts, "A1", "A · weightlifting", 6, 0.6),
        _weak_point(facts, "B1", "B · weak point"),
        Draft("C1", "C · pull", "", heavy_text(facts, full=3), "strength in the pulling positions", True, role="classic_pull"),
        *_small(
            facts,
            Draft("D1", "D · small work", "", accessory_text(facts, 8), "each leg on its own", role="single_leg", style=PAIR),
            Draft(
                "D2", "D · small work", "", accessory_text(facts, 8), "an upper back that holds the bar", role="row", style=PAIR
            ),
            Draft("E1", "E · hinge", "romanian_deadlift", accessory_text(facts, 6), "knees soft, the back of the legs"),
        ),
    ]
    return DayDraft("B", "Clean and jerk, weak point, pull", "middle", drafts)


def _small_day(facts: WeekFacts) -> DayDraft:
    """A small day: a few jumps, each leg on its own, trunk and upper back."""
    drafts = [
        *_prepare(),
        Draft("P2", PREPARE, "", jump_text(facts, 3, 2), "what the lifts do not train", role="jump_horizontal"),
        *_small(
            facts,
            Draft("A1", "A · body", "", accessory_text(facts, 8), "each leg on its own", role="single_leg", salt=1, style=PAIR),
            Draft("A2", "A · body", "", accessory_text(facts, 8), "upper back", role="row", salt=1, style=PAIR),
            Draft("B1", "B · trunk", "", accessory_text(facts, 10), "shoulders that stay sound", role="scapula", style=PAIR),
            Draft("B2", "B · trunk", "", "2 × 20 s", "anti-extension", role="hold_front", style=PAIR),
        ),
    ]
    return DayDraft("D", "Small day: body", "low", drafts)


def _both_day(facts: WeekFacts, front: bool) -> DayDraft:
    """Heavy, before most rest: both classic lifts back to back, the lead alternating by block, and the other squat."""
    lead, other = ("snatch", "clean_and_jerk") if facts.week.index // BLOCK_WEEKS % 2 == 0 else ("clean_and_jerk", "snatch")
    drafts = [
        *_prepare(),
        Draft("A1", "A · both lifts", lead, lifts_text(facts), "as on the platform; the lead changes by block", True),
        Draft(
            "A2",
            "A · both lifts",
            other,
            lifts_text(facts, 3, 0.8),
            "tired from the first, as on the day",
            True,
        ),
        _squat(facts, front, "the squat the first day does not hold"),
    ]
    return DayDraft("F", f"Both lifts and {'front' if front else 'back'} squat", "high", drafts)


_HOW = (
    "The first and the last day are heavy: snatch, {first} squat, an overhead lift and a press; then both lifts back to back, "
    "the lead changing by block, and the {last} squat. Between them clean and jerk in one slot with a pull, and a day for the "
    "lift that lags, once more in a variation, with a soft-knee hinge. Clean and jerk are split only where standing up with "
    "the clean is the technical fault. Three days join the lighter ones; five add a small day."
)
ASKS = "sound snatch, clean and jerk under load, a bar and room to drop it"
ARRANGEMENT = WeekArrangement(
    "weightlifting",
    "Weightlifting, three to five days",
    (3, 4, 5),
    weightlifting,
    _HOW.format(first="back", last="front"),
    "weightlifters who train around work or school",
    "each lift is met only two or three times a week",
    ("weightlifting",),
    allows_daily_lifts=True,
    skill=3,
    asks=ASKS,
    asks_months=6,  # [J]
)
FRONT_FIRST = replace(
    ARRANGEMENT,
    key="weightlifting_front_first",
    name="Weightlifting, front squat first",
    drafts=front_first,
    how=_HOW.format(first="front", last="back"),
    good_for="weightlifters whose recovery from the clean limits them: the front squat while fresh",
    weakness="the heaviest squat stands behind both lifts, on the last day",
)
