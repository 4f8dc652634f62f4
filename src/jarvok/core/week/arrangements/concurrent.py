"""Max effort, dynamic effort and repetition effort in one week: four, three or two days. Common practice."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.week.building import Build
from jarvok.core.week.dose import accessory_text, jump_text, with_accessories
from jarvok.core.week.pick import pool
from jarvok.core.week.plan import DayDraft, Draft, Level, WeekArrangement, WeekFacts

TOP_NEAR_PCT = 80.0  # [C] of the max, where the top set stays short of a limit
LAST_MAX_EFFORT_DAYS = 16  # [C] nearer to the day the top sets stay short of a limit
# lowest start, usual start, top and usual step of a wave of three weeks, in % of the max on the bar; common practice
TEAM_WAVE, STRENGTH_WAVE = (30, 32, 40, 4), (40, 45, 60, 5)
WAVE_WEEKS = 3
LEAST_STEP_PCT = 2  # [J] a wave rises by a few points each week, wherever it starts
STRENGTH_SPORTS = frozenset({"weightlifting", "powerlifting", "strength", "strength sport"})
BANDS_PCT = 25  # [C]
WITHOUT_BANDS_PCT = 15  # [J] more on the bar where nothing is hung on it
HEAVY_DAY_REPS = 6  # [C] small work of a heavy day: 5 to 8; of a fast day 10 and more
TOP_REPS = (3, 1, 2)  # [C] up to a triple, a single, a double in turn: 1 to 5RM for athletes
# small changes of a lift that make another combination of it; bands and chains only where they are
STANCES = ("", "feet a hand wider", "feet a hand closer", "toes straight ahead")
GRIPS = ("", "index finger on the ring", "little finger on the ring", "thumbs at the smooth part")
PULLS = ("", "hands at the shins’ width", "feet a hand closer", "bar two fingers from the shins")
RESISTED = ("light bands added", "chains added")


def combinations(changes: Sequence[str], facts: WeekFacts) -> tuple[str, ...]:
    """Return the small changes a lift goes through: stance or grip, alone and with what can be hung on the bar here."""
    gear = facts.limits.kit.gear
    hung = ["", *(word for word in RESISTED if word.split()[-2] in gear)] if facts.level is not Level.NOVICE else [""]
    return tuple(", ".join(w for w in (change, on) if w) for on in hung for change in changes)


def _max_text(facts: WeekFacts) -> str:
    if facts.level is Level.NOVICE or not facts.may_max:
        return "4 × 5, 2 in reserve"
    if facts.week.is_light or facts.days_out <= LAST_MAX_EFFORT_DAYS:
        return f"4 × 3 @ {min(TOP_NEAR_PCT, facts.week.intensity_pct):g} %"
    reps = TOP_REPS[0] if facts.level is Level.INTERMEDIATE else TOP_REPS[facts.week.index % len(TOP_REPS)]
    return f"4 × {reps} @ top RPE 9, rest 3:00"


def wave_pct(facts: WeekFacts, role: str) -> tuple[int, str]:
    """Return what lies on the bar this week in % of the max, and where the wave starts in words: where the last one of a lift
    of the role was still fast, as far as the usual range leaves room to rise.
    """
    lowest, usual, top, step = STRENGTH_WAVE if facts.sport in STRENGTH_SPORTS else TEAM_WAVE
    rises = WAVE_WEEKS - 1
    found = [f for f in facts.wishes.fast if f.exercise_id in pool(role, facts.limits)]
    start = usual if not found else max(lowest, min(round(found[-1].pct), top - rises * LEAST_STEP_PCT))
    step = min(step, (top - start) // rises)
    words = f"; starts at {start} %, {found[-1].words}" if found else ""
    return start + step * (facts.week.index % WAVE_WEEKS), words


def _speed_text(facts: WeekFacts, role: str, full: int, reps: int) -> str:
    bar, _ = wave_pct(facts, role)
    if "bands" in facts.limits.kit.gear and facts.level is not Level.NOVICE:
        return f"{full} × {reps} @ {bar} % + {BANDS_PCT} % bands, rest 0:50"
    return f"{full} × {reps} @ {bar + WITHOUT_BANDS_PCT} %, rest 0:50"


def _accessories(facts: WeekFacts, rows: Sequence[tuple[str, str]], reps: int, block: str = "C · small work") -> list[Draft]:
    if not with_accessories(facts):
        return []
    return [
        Draft(f"{block[0]}{i}", block, "", accessory_text(facts, reps, 3), why, role=role, salt=i)
        for i, (role, why) in enumerate(rows, start=1)
    ]


def _max_lower(facts: WeekFacts) -> DayDraft:
    role = "squat_me" if facts.week.index % 2 == 0 else "pull_me"
    drafts = [
        Draft(
            "P1",
            "Prepare",
            "",
            jump_text(facts, 3, 2),
            "every lower day starts with jumps; the kind changes weekly",
            role="jump_vertical",
            weekly=True,
        ),
        # squat and pull take turns, so each pool is gone through in every second week
        Draft(
            "A1",
            "A · max effort",
            "",
            _max_text(facts),
            "built to the top set of the day",
            True,
            role,
            facts.week.index // 2 - facts.week.index,
            weekly=True,
            build=Build.TOP,
            variants=combinations(STANCES if role == "squat_me" else PULLS, facts),
        ),
    ]
    small = (
        ("single_leg", "each leg on its own"),
        ("hip_extension", "hips"),
        ("knee_flexion", "back of the knee"),
        ("trunk_flexion", "trunk"),
    )
    return DayDraft("A", "Lower, max effort", "high", drafts + _accessories(facts, small, HEAVY_DAY_REPS))


def _max_upper(facts: WeekFacts) -> DayDraft:
    drafts = [
        Draft("P1", "Prepare", "", jump_text(facts, 3, 2), "every upper day starts with throws", role="throw_push"),
        Draft(
            "A1",
            "A · max effort",
            "",
            _max_text(facts),
            "built to the top set of the day",
            True,
            "press_me",
            weekly=True,
            build=Build.TOP,
            variants=combinations(GRIPS, facts),
        ),
    ]
    small = (
        ("press_second", "a second press"),
        ("row", "as much pull as press"),
        ("triceps", "lockout"),
        ("oblique", "side of the trunk"),
        ("shrug", "upper back"),
        ("biceps", "elbows stay sound"),
    )
    return DayDraft("B", "Upper, max effort", "middle", drafts + _accessories(facts, small, HEAVY_DAY_REPS))


def _speed_lower(facts: WeekFacts) -> DayDraft:
    drafts = [
        Draft(
            "P1",
            "Prepare",
            "",
            jump_text(facts, 3, 2),
            "every lower day starts with jumps; the kind changes weekly",
            role="jump_horizontal",
            weekly=True,
        ),
        Draft(
            "A1",
            "A · speed",
            "",
            _speed_text(facts, "squat_de", 9, 2),
            f"speed squat first{wave_pct(facts, 'squat_de')[1]}",
            True,
            "squat_de",
        ),
        Draft(
            "B1",
            "B · speed pull",
            "",
            "6 × 1 @ 60 %, rest 0:50",
            "then the speed pull",
            True,
            "pull_de",
        ),
    ]
    small = (
        ("adductor", "groin, in place of the single leg"),
        ("hip_extension", "hips"),
        ("knee_flexion", "back of the knee"),
        ("oblique", "trunk"),
    )
    return DayDraft("C", "Lower, dynamic effort", "high", drafts + _accessories(facts, small, 12))


def _speed_upper(facts: WeekFacts) -> DayDraft:
    drafts = [
        Draft("P1", "Prepare", "", jump_text(facts, 3, 2), "every upper day starts with throws", role="throw_push", salt=1),
        Draft(
            "A1",
            "A · speed",
            "",
            _speed_text(facts, "press_de", 9, 3),
            f"speed press; the grip changes every three sets{wave_pct(facts, 'press_de')[1]}",
            True,
            "press_de",
        ),
    ]
    small = (
        ("row", "as much pull as press"),
        ("triceps", "lockout"),
        ("oblique", "trunk"),
        ("scapula", "shoulders"),
        ("shrug", "upper back"),
        ("biceps", "elbows stay sound"),
    )
    return DayDraft("D", "Upper, dynamic effort", "low", drafts + _accessories(facts, small, 15))


def _merged(key: str, theme: str, load: str, first: DayDraft, second: DayDraft, keep: Sequence[Draft]) -> DayDraft:
    """Two days in one: the main work of both, and the small work of one."""
    main = [d for d in first.drafts if d.block[0] in "PAB"]
    other = [
        Draft(
            "B9" if d.slot == "A1" else d.slot,
            "B · " + d.block.split(" · ", 1)[-1] + ", second",
            d.exercise_id,
            d.text,
            d.reason,
            d.is_main,
            d.role,
            d.salt,
            d.weekly,
            build=d.build,
            variants=d.variants,
        )
        for d in second.drafts
        if d.block[0] == "A"
    ]
    return DayDraft(key, theme, load, [*main, *other, *keep])


def _small_of(day: DayDraft) -> list[Draft]:
    return [d for d in day.drafts if d.block.startswith("C")]


def _days(facts: WeekFacts, order: str) -> list[DayDraft]:
    max_lower, max_upper, fast_lower, fast_upper = _max_lower(facts), _max_upper(facts), _speed_lower(facts), _speed_upper(facts)
    match facts.days:
        case 4:
            days = (
                [max_lower, fast_upper, fast_lower, max_upper]
                if order == "apart"
                else [max_lower, max_upper, fast_lower, fast_upper]
            )
        case 3:
            both = _merged("C", "Both dynamic effort", "middle", fast_lower, fast_upper, _small_of(fast_upper)[:3])
            days = [max_lower, max_upper, both]
        case _:
            one = _merged("A", "Fast legs, heavy press", "high", fast_lower, max_upper, _small_of(fast_lower))
            two = _merged("B", "Fast press, heavy legs", "high", fast_upper, max_lower, _small_of(fast_upper))
            days = [one, two]
    return [DayDraft("ABCD"[i], d.theme, d.load, d.drafts) for i, d in enumerate(days)]


def heavy_apart(facts: WeekFacts) -> list[DayDraft]:
    """Return the week with the two heavy days apart."""
    return _days(facts, "apart")


def heavy_first(facts: WeekFacts) -> list[DayDraft]:
    """Return the week with the two heavy days first."""
    return _days(facts, "first")


_HOW = (
    "Max effort: built to a top set of one to five in a combination of lift, stance or grip, and bands or chains that "
    "does not come back for as long as the room allows. Dynamic effort: light bar "
    "plus bands, many short sets "
    "with little rest, a wave of three weeks. Repetition effort: small work, fewer and heavier on heavy days. Two days "
    "pair fast legs with a heavy "
    "press and the reverse; the region trained fast takes the small work."
)
ASKS = "strength first: by one view about a 100 kg bench press for a grown man, scaled by body mass; bands and boxes"
HEAVY_APART = WeekArrangement(
    "concurrent",
    "Concurrent, heavy days apart",
    (2, 3, 4),
    heavy_apart,
    _HOW,
    "strong athletes who need everything kept alive all year",
    "not for the very weak: strength first; messier to plan",
    ("wrestling", "handball"),
    asks=ASKS,
    asks_months=12,  # [J]
)
HEAVY_FIRST = WeekArrangement(
    "concurrent_heavy_first",
    "Concurrent, heavy days first",
    (4,),
    heavy_first,
    f"{_HOW} Both heavy days stand before both fast ones.",
    "weeks that end with a match or hard practice",
    "two heavy days follow each other",
    (),
    asks=ASKS,
    asks_months=12,  # [J]
)
