"""A contest of strength events: a day for the deadlift, the overhead lift twice, the events on a day of their own.

Common practice. Earlier than five weeks out stricter forms and cousins without contest weights; then the events themselves, three
weeks up and back, each up to its own last heavy session.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta

from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise
from jarvok.core.season.exposures import Event, Standing, event_kinds
from jarvok.core.session.blocks import PAIR
from jarvok.core.week.building import Build
from jarvok.core.week.contest_work import amount_of, event_exercises
from jarvok.core.week.dose import LIGHT_RIR, heavy_text, jump_text
from jarvok.core.week.plan import DayDraft, Draft, WeekArrangement, WeekFacts

WEEK_DAYS = 7  # [T]
EVENT_WEEKS = 5  # [C] no contest weight earlier
ONE_OVERHEAD_DAYS = 14  # [J] from here on the overhead lift is trained once a week
# per cent of the load of the competition by whole weeks to it, three weeks up, then back; [J]
SHORT_SHARES = {5: 75, 4: 85, 3: 95, 2: 80, 1: 65}
LONG_SHARES = {5: 60, 4: 70, 3: 80, 2: 65, 1: 50}  # a timed event keeps its duration with something lighter
SURE_LESS = 10  # [J] points: a sure event is eased
# sets and repetitions of small work by whole weeks to the day: its load climbs as they fall; [J]
SMALL = {5: (3, 10), 4: (3, 8), 3: (2, 6), 2: (2, 5)}
SMALL_EARLY = (3, 12)  # [J]
LAST_SMALL_WEEK = 2  # [C] stops before the last training week
# by turns of three weeks while the contest is far: stricter, or from where it is hard at low load; common practice
FAR_PULLS = ("pause_deadlift", "snatch_grip_deadlift", "block_pull")
FAR_PRESSES = ("seated_dumbbell_press", "single_arm_overhead_press", "overhead_press")
FAR_SQUATS = ("pause_front_squat", "front_squat", "pause_squat")
TURN_WEEKS = 3
# what stands for the events where none is on record, and before contest weights
FAR_EVENTS = (("carry_front", "2 × 30 m, rest 1:30"), ("drag", "3 × 20 m, rest 1:30"), ("odd_lift", "3 × 3/side, rest 1:30"))


def strength_contest(facts: WeekFacts) -> list[DayDraft]:
    """Return three or four days, the events last; the day that holds the last heavy pull is the deadlift's."""
    if facts.days == 3:
        days = [_deadlift_day(facts, "A"), _overhead_day(facts, "B", squats=True), _event_day(facts, "C", overhead=True)]
    else:
        days = [
            _deadlift_day(facts, "A"),
            _overhead_day(facts, "B", squats=False),
            _squat_day(facts, "C"),
            _event_day(facts, "D", overhead=False),
        ]
    return _pull_first(days, facts)


def _pull_first(days: list[DayDraft], facts: WeekFacts) -> list[DayDraft]:
    """The days in their order; where the week's last heavy pull falls on another, that one and the deadlift's change places."""
    pulls = {e.day for e in facts.contest.exposures if event_kinds()[e.contested.kind].lift == "pull" and not e.is_left_out}
    at = next((i for i, d in enumerate(days) if facts.placed.get(d.key) in pulls), 0)
    if not at:
        return days
    found = list(days)
    found[0], found[at] = days[at], days[0]
    return [DayDraft(old.key, new.theme, old.load, new.drafts) for old, new in zip(days, found, strict=True)]


def _weeks_out(facts: WeekFacts) -> int:
    return max(0, facts.days_out) // WEEK_DAYS


def _is_near(facts: WeekFacts) -> bool:
    return _weeks_out(facts) <= EVENT_WEEKS and bool(_events(facts))


def _events(facts: WeekFacts) -> tuple[Event, ...]:
    """The events of the contest this week leads to, once each."""
    day = facts.week.competition_day
    rows = (e for e in facts.contest.exposures if day <= e.day + timedelta(days=e.days_out) <= day + timedelta(days=WEEK_DAYS))
    return tuple(dict.fromkeys(e.contested for e in rows))


def _lift_of(event: Event) -> Exercise | None:
    return next((exercise(e) for e in event_exercises(event)), None)


def _is_pull(event: Event) -> bool:
    lift = _lift_of(event)
    return event_kinds()[event.kind].lift == "pull" or (lift is not None and lift.pattern == "hinge" and lift.kind == "strength")


def _is_squat(event: Event) -> bool:
    lift = _lift_of(event)
    return event_kinds()[event.kind].lift == "squat" or (lift is not None and lift.pattern == "squat" and lift.kind == "strength")


def _is_overhead(event: Event) -> bool:
    lift = _lift_of(event)
    return lift is not None and ("press_overhead" in lift.roles or "jerk" in lift.roles)


def _own(facts: WeekFacts, belongs: Callable[[Event], bool], usual: str) -> str:
    """The contest's own lift of a kind, else the usual one."""
    lifts = (_lift_of(e) for e in _events(facts) if belongs(e))
    return next((x.id for x in lifts if x is not None), usual)


def _far(rows: tuple[str, ...], facts: WeekFacts) -> str:
    return rows[facts.week.index // TURN_WEEKS % len(rows)]


def _small_text(facts: WeekFacts) -> str:
    sets, reps = SMALL.get(_weeks_out(facts), SMALL_EARLY)
    reserve = LIGHT_RIR if facts.week.is_light else 2
    return f"{sets} × {reps}, {reserve} in reserve, rest 1:00"


def _smalls(facts: WeekFacts, block: str, *rows: tuple[str, str]) -> list[Draft]:
    if _weeks_out(facts) < LAST_SMALL_WEEK:
        return []
    style = PAIR
    return [
        Draft(f"{block[0]}{i}", block, "", _small_text(facts), why, role=role, style=style)
        for i, (role, why) in enumerate(rows, start=1)
    ]


def _prepare(salt: int) -> list[Draft]:
    return [Draft("P1", "Prepare", "", "2 × 5", "joints the day loads", role="mobility_hip", salt=salt)]


def _deadlift_day(facts: WeekFacts, key: str) -> DayDraft:
    near = _is_near(facts)
    lift = _own(facts, _is_pull, "deadlift") if near else _far(FAR_PULLS, facts)
    why = "the pull has a day of its own" + ("" if near else "; a form that is hard at low load, by turns of three weeks")
    drafts = [
        *_prepare(0),
        Draft("A1", "A · pull", lift, heavy_text(facts, full=5), why, True, build=Build.RISES),
        *_smalls(facts, "B · back and hips", ("row", "an upper back that holds the bar"), ("knee_flexion", "back of the knee")),
        *_smalls(facts, "C · trunk and grip", ("trunk_flexion", "trunk"), ("grip", "the hands hold out")),
    ]
    return DayDraft(key, "Deadlift", "high", drafts)


def _is_done_elsewhere(facts: WeekFacts, key: str) -> bool:
    """Whether, near the day, another day of the week holds the last heavy session of an overhead event: once a week is enough."""
    day, week = facts.placed.get(key), facts.week
    return facts.out(key) <= ONE_OVERHEAD_DAYS and any(
        _is_overhead(e.contested) and week.start <= e.day <= week.end and e.day != day and not e.is_left_out
        for e in facts.contest.exposures
    )


def _overhead(facts: WeekFacts, key: str, slot: str, block: str, full: int, less_pct: float) -> list[Draft]:
    """The overhead lift: while the contest is far a stricter form by effort, then the contest's own."""
    if _is_done_elsewhere(facts, key):
        return []
    if not _is_near(facts):
        lift = exercise(_far(FAR_PRESSES, facts))
        if lift.implement == "barbell":
            return [Draft(slot, block, lift.id, heavy_text(facts, full=full, less_pct=less_pct), "strict, no leg drive", True)]
        sides = "/side" if lift.per_side else ""
        return [
            Draft(slot, block, lift.id, f"{full} × 6{sides}, 2 in reserve", "strict and one arm at a time is hard enough", True)
        ]
    lift_id = _own(facts, _is_overhead, "push_press")
    if exercise(lift_id).implement != "barbell":
        return [Draft(slot, block, "push_press", heavy_text(facts, full=full, less_pct=less_pct), "drive and lockout", True)]
    return [
        Draft(slot, block, lift_id, heavy_text(facts, full=full, less_pct=less_pct), "the overhead lift of the competition", True)
    ]


def _squat(facts: WeekFacts, slot: str, block: str, full: int) -> Draft:
    lift = _own(facts, _is_squat, "back_squat") if _is_near(facts) else _far(FAR_SQUATS, facts)
    text = heavy_text(facts, full=full, less_pct=4, is_front_squat="front" in lift)
    return Draft(slot, block, lift, text, "legs that carry", True, build=Build.RISES)


def _overhead_day(facts: WeekFacts, key: str, squats: bool) -> DayDraft:
    drafts = [*_prepare(1), *_overhead(facts, key, "A1", "A · overhead", 4, 2)]
    drafts += _event_lines(facts, [e for e in _events(facts) if _is_overhead(e)], "B · overhead event")
    if squats:
        drafts.append(_squat(facts, "C1", "C · squat", 4))
    drafts += _smalls(facts, "D · upper body", ("press_second", "a second press"), ("pull_vertical", "as much pull as press"))
    drafts += _smalls(facts, "E · shoulders", ("rear_delt", "shoulders stay sound"), ("triceps", "lockout"))
    return DayDraft(key, "Overhead and squat" if squats else "Overhead", "middle", drafts)


def _squat_day(facts: WeekFacts, key: str) -> DayDraft:
    drafts = [*_prepare(2), _squat(facts, "A1", "A · squat", 5)]
    if facts.out(key) > ONE_OVERHEAD_DAYS:
        drafts += _overhead(facts, key, "B1", "B · overhead, light", 3, 12)
    drafts += _smalls(facts, "C · legs and hips", ("single_leg", "each leg on its own"), ("hip_extension", "hips"))
    drafts += _smalls(facts, "D · trunk", ("oblique", "side of the trunk"), ("shrug", "upper back"))
    return DayDraft(key, "Squat, overhead light", "middle", drafts)


def _event_day(facts: WeekFacts, key: str, overhead: bool) -> DayDraft:
    drafts = [
        *_prepare(3),
        Draft("P2", "Prepare", "", jump_text(facts, 3, 2), "fast before heavy", role="jump_vertical", weekly=True),
    ]
    if overhead and facts.out(key) > ONE_OVERHEAD_DAYS:
        drafts += _overhead(facts, key, "A1", "A · overhead, light", 3, 12)
    here = [e for e in _events(facts) if not (_is_pull(e) or _is_squat(e) or _is_overhead(e))]
    lines = _event_lines(facts, here, "B · events") if _is_near(facts) else []
    if not lines and facts.out(key) > WEEK_DAYS:
        why = "like the events, without their weights" if here else "carried, dragged and lifted from the floor"
        far = FAR_EVENTS if not _is_near(facts) or not here else ()
        lines = [Draft(f"B{i}", "B · events", "", text, why, True, role) for i, (role, text) in enumerate(far, start=1)]
    return DayDraft(key, "Events", "high", [*drafts, *lines, *_smalls(facts, "C · trunk", ("hold_front", "trunk held in front"))])


def _event_lines(facts: WeekFacts, events: list[Event], block: str) -> list[Draft]:
    """Each event at its share of the contest's load; not the worst one, nor one that has its last heavy session this week."""
    if not _is_near(facts):
        return []
    week = facts.week
    held = {e.contested for e in facts.contest.exposures if week.start <= e.day <= week.end and not e.is_left_out}
    found: list[Draft] = []
    for event in events:
        lift = _lift_of(event)
        if lift is None or event in held or event.standing is Standing.WORST:
            continue
        is_long = event.kind == "timed_endurance"
        share = (LONG_SHARES if is_long else SHORT_SHARES).get(_weeks_out(facts), 0)
        share -= SURE_LESS if event.standing is Standing.SURE else 0
        if share <= 0:
            continue
        sets = 2 if is_long or event.standing is Standing.SURE else 3
        load = f" @ {share} % of competition" if lift.is_loaded and (event.load_kg or event.divisions) else ""
        why = f"{event.name or event_kinds()[event.kind].name}: {share} % of it" + (", its duration kept" if is_long else "")
        slot = f"{block[0]}{len(found) + 1}"
        found.append(Draft(slot, block, lift.id, f"{sets} × {amount_of(event)}{load}, rest 3:00", why, True))
    return found


ARRANGEMENT = WeekArrangement(
    "strength_contest",
    "Strength events, on a day of their own",
    (3, 4),
    strength_contest,
    "The deadlift has a day of its own, away from the events; the overhead lift is trained twice, in the last two weeks once; "
    "the events stand on one day. Earlier than five weeks out: stricter forms, no competition weight. Then three weeks "
    "up and back as shares of the competition load, each event up to its last heavy session; a timed one keeps its duration. "
    "The load of small work climbs as its sets fall, and it stops before the last training week.",
    "competitions of several strength events",
    "little speed; joints pay where competition weights come early",
    ("strength",),
    overhead_twice=True,
    asks="squat, deadlift and press sound under load, implements or what stands for them",
    asks_months=12,  # [J]
)
