"""One main percent lift a day, done in order and not by weekday. Common practice."""

from __future__ import annotations

from jarvok.core.season.blocks import TEST_ID, closes_round
from jarvok.core.session.blocks import PAIR
from jarvok.core.week.building import RISE_PCT, Build
from jarvok.core.week.dose import accessory_text, heavy_text, with_accessories
from jarvok.core.week.plan import DayDraft, Draft, Level, WeekArrangement, WeekFacts

POWER_LIFT = "power_clean"
# main lift, its day, the complementary movement and one more accessory: upper and lower in turn, one power lift among them
DAYS = (
    ("back_squat", "Squat", "high", "hip_extension", "trunk_flexion"),
    ("bench_press", "Bench press", "low", "row", "triceps"),
    (POWER_LIFT, "Power clean", "high", "single_leg", "anti_rotation"),
    ("overhead_press", "Overhead press", "low", "pull_vertical", "rear_delt"),
    ("deadlift", "Deadlift", "high", "knee_flexion", "hold_side"),
)
TRIPLES_FROM, TRIPLES_TO = 85.0, 90.0  # [C] per cent of the max
MOST_MORE = 3  # [J] repetitions that an accessory grows by in a round of weeks
POWER_LIFT_REPS = 3  # [C] a power lift stays fast: never more


def percent_lift(facts: WeekFacts) -> list[DayDraft]:
    """Return two to five days, each with a main lift, a pair of accessories and a short finisher."""
    return [_day(facts, i, *row) for i, row in enumerate(DAYS[: facts.days])]


def _main_text(facts: WeekFacts, lift: str) -> str:
    """The top set by the week; a power lift with few repetitions."""
    text = heavy_text(facts, full=5)
    sets, dot, rest = text.partition(" × ")
    reps = int(rest.split()[0].rstrip(","))
    if not facts.week.is_light and TRIPLES_FROM <= facts.week.intensity_pct <= TRIPLES_TO and reps < POWER_LIFT_REPS:
        reps = POWER_LIFT_REPS  # a triple in the high eighties, and one about 90 %
        return f"{sets}{dot}{reps}{rest[len(str(reps)) :]}"
    return text if lift != POWER_LIFT or reps <= POWER_LIFT_REPS else f"{sets}{dot}{POWER_LIFT_REPS}{rest[len(str(reps)) :]}"


def _opens(facts: WeekFacts, lift: str) -> bool:
    """Whether the last set of a lift stays open: a round closes that has shown nothing of its max, and no tests follow it."""
    if not closes_round(facts.week) or facts.level is Level.NOVICE or not facts.may_max:
        return False
    after = next((w for w in facts.season.weeks if w.index == facts.week.index + 1), None)
    return lift not in {POWER_LIFT, *facts.shown} and (after is None or after.phase_id != TEST_ID)


def _open_text(text: str) -> str:
    """A line of a round's last week with its top set open, what comes before it lighter by one step."""
    _, _, rest = text.partition(" × ")
    reps, _, load = rest.partition(" @ ")
    pct = float(load.split()[0])
    return f"1 × {reps} @ {pct - RISE_PCT:g} % then 1 × {reps}+ @ {pct:g} %"


def _accessory(facts: WeekFacts, reps: int) -> str:
    """An accessory line: from the second week a repetition more each week, with last week's load as the floor."""
    more = 0 if facts.week.is_light else min(MOST_MORE, facts.week.week_of_phase - 1)
    text = accessory_text(facts, reps + more)
    return text.replace(" in reserve", " in reserve beat last week", 1) if more else text


def _day(facts: WeekFacts, index: int, lift: str, theme: str, load: str, first: str, second: str) -> DayDraft:
    text, why = _main_text(facts, lift), "the day's percent lift, rising to its top set"
    if _opens(facts, lift):
        text, why = _open_text(text), f"{why}, left open: nothing in this round has shown the max the next one starts from"
    drafts = [
        Draft(
            "P1",
            "Prepare",
            "",
            "2 × 5",
            "ready for the main lift",
            role="mobility_hip" if load != "low" else "mobility_upper",
            salt=index,
        ),
        Draft(
            "A1",
            "A · main lift",
            lift,
            text,
            why,
            True,
            build=Build.RISES,
        ),
    ]
    if with_accessories(facts):
        block = "B · accessory pair"
        drafts += [
            Draft("B1", block, "", _accessory(facts, 8), "supports the lift", role=first, salt=index, style=PAIR, by_phase=True),
            Draft("B2", block, "", _accessory(facts, 10), "balances it", role=second, salt=index, style=PAIR, by_phase=True),
            Draft(
                "C1",
                "C · finisher",
                "",
                "1 × 5 min, for rounds",
                "short, only if time is left; its result is kept",
                role="finisher",
                salt=index,
            ),
        ]
    return DayDraft("ABCDE"[index], theme, load, drafts)


ARRANGEMENT = WeekArrangement(
    "percent_lift",
    "One percentage-based main lift a day",
    (2, 3, 4, 5),
    percent_lift,
    "One percentage-based main lift a day, upper and lower in turn, rising inside the session to its top set; a movement for the "
    "complementary muscles, one more accessory, a short finisher whose result is kept. Done in order, not by "
    "weekday: an extra rest day shifts "
    "the rest, a long break repeats the week.",
    "lifters and busy adults with changing weeks",
    "little speed, little variety",
    is_sequence=True,
    asks="sound technique in its main lifts, a max or a rep-max in each, a bar and a rack",
    asks_months=6,  # [J]
)
