"""Checks of a week: what may not follow what. Each has a dose threshold and a scope where it stays silent on purpose."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from datetime import date, timedelta

from jarvok.core.checks.flag import Check, Fix, Flag, Severity
from jarvok.core.checks.mended import mended_week, offered
from jarvok.core.checks.plan_views import LineView, SessionView, WeekView
from jarvok.core.checks.session import ORDER, spoken
from jarvok.core.checks.two_a_day import fast_comes_second, two_sessions
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.sentence import counted
from jarvok.core.week.pick import pool
from jarvok.core.week.placement import MORNING_ENDS
from jarvok.core.working import COMMON_PRACTICE, Source

OWN = Source("J", "Jarvok's default")
HAFF = Source("P", "Haff & Triplett 2016")
HEAVY_SETS, SPRINT_SETS = 3, 2  # [J] fewer of either in a session is no limit dose
BACK_SETS = 8  # [J] hard sets of lat and upper back that tomorrow's squat feels
LIMIT_FRONT_SQUAT, GROUND_OUT_SHARE = 0.95, 0.90  # common practice
FRONT_SQUAT_DAYS = 10
CONTACTS_A_DAY = 40  # [J] fewer contacts may come on neighbouring days
PLYO_HOURS = "48–72 h"

LEAST_TO_SPREAD = 3  # [C] sessions a week from which heavy, middle and light days can be told apart
ABOVE_BEFORE = 1.05  # [J] so much more than the week before is a rise


def _days(view: WeekView) -> list[SessionView]:
    return sorted(view.sessions, key=lambda s: (s.day, s.key))


def _with_before(view: WeekView) -> list[SessionView]:
    """The week's sessions with those of the week before it, so that Sunday and Monday are neighbours too."""
    return sorted((*view.before, *view.sessions), key=lambda s: (s.day, s.key))


def _neighbours(view: WeekView) -> Iterator[tuple[SessionView, SessionView]]:
    """Sessions on days next to each other, the second of them in the week."""
    before = _with_before(view)
    for b in view.sessions:
        yield from ((a, b) for a in before if (b.day - a.day).days == 1)


def _free_day(view: WeekView, session: SessionView) -> date | None:
    """A day of the week without a session on it or next to it, else one without a session."""
    taken = {s.day for s in _with_before(view) if s is not session}
    days = [view.monday + timedelta(days=i) for i in range(7)]
    free = [d for d in days if d not in taken and d != session.day]
    apart = [d for d in free if d - timedelta(days=1) not in taken and d + timedelta(days=1) not in taken]
    return next(iter(apart or free), None)


def _move(view: WeekView, session: SessionView) -> Fix | None:
    day = _free_day(view, session)
    if day is None:
        return None
    return Fix(f"Move {session.key} to {day:%A}", "move", {"day": str(session.day), "key": session.key, "to": str(day)})


def _lower_sets(session: SessionView) -> int:
    """Heavy sets of squats and deadlifts."""
    return sum(x.total_sets for x in session.lines if x.is_heavy and x.exercise.pattern in ("squat", "hinge"))


def heavy_next_to_top_speed(view: WeekView) -> Iterator[Flag]:
    """Heavy squats or deadlifts the day after top-speed sprints, or the reverse."""
    for a, b in _neighbours(view):
        fast_then_heavy = a.top_speed_sets >= SPRINT_SETS and _lower_sets(b) >= HEAVY_SETS
        heavy_then_fast = _lower_sets(a) >= HEAVY_SETS and b.top_speed_sets >= SPRINT_SETS
        if fast_then_heavy or heavy_then_fast:
            order = (
                "Top speed on {:%A}, heavy legs the day after"
                if fast_then_heavy
                else "Heavy legs on {:%A}, top speed the day after"
            )
            why = f"{order.format(a.day)}. Hamstrings pay for it: a day between, or both on the same day."
            yield Flag(
                "speed-and-heavy",
                Severity.THINK,
                "Top speed beside heavy legs.",
                why,
                COMMON_PRACTICE,
                b.where,
                fix=_move(view, b),
            )


def back_before_legs(view: WeekView) -> Iterator[Flag]:
    """High-volume lat and upper-back work the day before heavy squats or deadlifts."""
    for a, b in _neighbours(view):
        rows = [x for x in a.lines if "upper_back" in x.exercise.tags]
        sets = sum(x.total_sets for x in rows)
        if sets > BACK_SETS and _lower_sets(b) >= HEAVY_SETS:
            held = counted(sets, "set")
            why = f"{held} for the upper back on {a.day:%A}, heavy legs the day after: the back is their stabiliser."
            last = rows[-1]
            fix = Fix(f"Take {last.slot} out of {a.day:%A}", "drop", {"day": str(a.day), "key": a.key, "line": last.name})
            yield Flag(
                "back-before-legs", Severity.NOTE, "The back is tired before heavy legs.", why, COMMON_PRACTICE, a.where, fix=fix
            )


def squat_and_deadlift(view: WeekView) -> Iterator[Flag]:
    """Heavy squat and heavy deadlift in one session."""
    for s in view.sessions:
        squat = next((x for x in s.lines if x.is_heavy and x.exercise.pattern == "squat" and x.exercise.cost == "high"), None)
        pull = next((x for x in s.lines if x.is_heavy and x.exercise.family == "deadlift" and x.exercise.cost == "high"), None)
        if squat is None or pull is None or min(squat.total_sets, pull.total_sets) < HEAVY_SETS:
            continue
        why = (
            f"{squat.exercise.name} and {pull.exercise.name.lower()} heavy on one day. Pair the most loadable leg "
            "lift with a press instead."
        )
        fix = Fix(f"Take {pull.slot} out", "drop", {"day": str(s.day), "key": s.key, "line": pull.name})
        yield Flag(
            "squat-and-deadlift", Severity.THINK, "Heavy squat and heavy deadlift.", why, COMMON_PRACTICE, s.where, fix=fix
        )


def _is_high(s: SessionView) -> bool:
    return s.heavy_sets >= s.rules["week.high_day_sets"] or s.top_speed_sets >= SPRINT_SETS


def high_days_close(view: WeekView) -> Iterator[Flag]:
    """Two high days with less than 24 hours between; not where the lifts are daily on purpose."""
    if view.allows_daily_lifts or view.is_light:
        return
    for a, b in _neighbours(view):
        if _is_high(a) and _is_high(b):
            why = (
                f"{a.day:%A} and {b.day:%A} are both high. At least 24 h between, better 48: what is hard goes "
                "together, what is easy between."
            )
            yield Flag("high-days", Severity.THINK, "Two high days in a row.", why, COMMON_PRACTICE, b.where, fix=_move(view, b))


def hard_morning(view: WeekView) -> Iterator[Flag]:
    """Hard sport practice in the morning and heavy strength the same day."""
    for s in view.sessions:
        hard = [
            p for p in view.practices
            if p.weekday == s.day.weekday() and p.hardness >= view.rules["week.hard_practice"] and p.hour < MORNING_ENDS
        ]  # fmt: skip
        if hard and _is_high(s):
            why = (
                f"Practice of {hard[0].minutes} min, RPE {hard[0].hardness}, was in the morning. Heavy lifting "
                "the same evening usually costs the next day."
            )
            yield Flag(
                "hard-morning",
                Severity.THINK,
                "Hard practice was that morning.",
                why,
                COMMON_PRACTICE,
                s.where,
                fix=_move(view, s),
            )


def limit_front_squat(view: WeekView) -> Iterator[Flag]:
    """Limit front squats in season, or within ten days of anything that matters."""
    for s in view.sessions:
        near = s.days_to_go <= FRONT_SQUAT_DAYS
        for line in s.lines:
            share = line.share or 0
            limit = share >= LIMIT_FRONT_SQUAT or (share >= GROUND_OUT_SHARE and line.is_to_failure) or line.is_max_effort
            if "front_squat" not in line.exercise.roles or not limit or not (near or view.in_season):
                continue
            when = f"{counted(s.days_to_go, 'day')} before the competition" if near else "in season"
            felt = f"{line.exercise.name} near the max, {when}: it is felt for 7–10 days."
            why = f"{felt} Singles around 80 % and sets of three are fine."
            fix = Fix("Write 3 × 1 @ 80 %", "write", {"day": str(s.day), "key": s.key, "line": line.name, "text": "3 × 1 @ 80 %"})
            yield Flag(
                "limit-front-squat", Severity.THINK, "A max-effort front squat now.", why, COMMON_PRACTICE, s.at(line), fix=fix
            )


def _max_efforts(sessions: tuple[SessionView, ...]) -> dict[str, tuple[SessionView, LineView]]:
    return {x.exercise.id: (s, x) for s in sessions for x in s.lines if x.is_max_effort}


def repeated_max_effort(view: WeekView) -> Iterator[Flag]:
    """The same max-effort variation in consecutive weeks."""
    last = _max_efforts(view.before)
    for key, (s, line) in _max_efforts(view.sessions).items():
        if key not in last:
            continue
        role = next((r for r in line.exercise.roles if r.endswith("_me")), line.exercise.roles[0])
        other = next((e for e in pool(role, s.limits) if e != key and e not in last), None)
        fix = None
        if other is not None:
            fix = Fix(
                f"Take {exercise(other).name.lower()}",
                "replace",
                {"day": str(s.day), "key": s.key, "line": line.name, "exercise_id": other},
            )
        why = f"{line.exercise.name} was last week's too. A small step of bar, stance, height or bands keeps it moving."
        yield Flag(
            "same-max-effort", Severity.THINK, "The same max-effort lift again.", why, COMMON_PRACTICE, s.at(line), fix=fix
        )


def fault_not_met(view: WeekView) -> Iterator[Flag]:
    """Fewer than two technique variations for a recorded fault in a weightlifter's week."""
    if not view.is_weightlifting or not view.faults or not view.sessions:
        return
    found = sum(1 for s in view.sessions for x in s.lines if view.faults & frozenset(x.exercise.faults))
    if found < 2:
        names = ", ".join(sorted(view.faults)).replace("_", " ")
        why = f"Under Details: {names}. {found or 'No'} line works on it; twice a week is usual."
        yield Flag("fault", Severity.NOTE, "Too little work on a known fault.", why, COMMON_PRACTICE, "week")


def no_athletic_work(view: WeekView) -> Iterator[Flag]:
    """A weightlifter's week without any jump or throw."""
    if not view.is_weightlifting or view.is_light or len(view.sessions) < LEAST_TO_SPREAD:
        return
    if not any(x.exercise.kind in ("jump", "throw") for s in view.sessions for x in s.lines):
        why = "A few jumps and throws a week train what the lifts do not."
        yield Flag("athletic", Severity.NOTE, "No athletic development.", why, COMMON_PRACTICE, "week")


def load_rises_with_life(view: WeekView) -> Iterator[Flag]:
    """Load rising while camp, travel or exams take more."""
    if view.busy and view.load_before and view.load > ABOVE_BEFORE * view.load_before and not view.is_light:
        rise = 100 * (view.load / view.load_before - 1)
        why = f"{view.busy} this week, and the planned load is {rise:.0f} % above last week's."
        yield Flag("busy", Severity.THINK, "Two loads rise together.", why, COMMON_PRACTICE, "week")


def failure_on_most_days(view: WeekView) -> Iterator[Flag]:
    """Sets to failure on most days; not where failure is the method."""
    if view.uses_failure or len(view.sessions) < 2:
        return
    days = [s for s in view.sessions if any(x.is_to_failure and not x.is_chosen_method for x in s.lines)]
    if len(days) >= 2 and len(days) > len(view.sessions) / 2:
        why = (
            f"{len(days)} of {len(view.sessions)} days hold sets to failure. One or two in reserve build the same "
            "with less left over."
        )
        yield Flag("failure-days", Severity.THINK, "To failure on most days.", why, COMMON_PRACTICE, "week")


ANGLES = ("press_flat", "press_incline", "press_overhead")
Angle = tuple[str, ...]


def _angle(lift: Exercise) -> Angle:
    """The angle of a heavy press; one that lies between two is an angle of its own."""
    return tuple(a for a in ANGLES if a in lift.roles) if lift.kind == "strength" else ()


def press_angle_repeated(view: WeekView) -> Iterator[Flag]:
    """The same press angle heavy twice in a week though the room has another; speed work and jerks are another matter."""
    by_angle: dict[Angle, list[tuple[SessionView, LineView]]] = defaultdict(list)
    for s in view.sessions:
        for x in s.lines:
            if x.is_heavy and (angle := _angle(x.exercise)):
                by_angle[angle].append((s, x))
    for angle, rows in by_angle.items():
        if len({s.day for s, _ in rows}) < 2 or (view.overhead_twice and "press_overhead" in angle):
            continue
        s, line = rows[-1]
        here = (exercise(e) for a in ANGLES for e in pool(a, s.limits))
        instead = next((e for e in here if (other := _angle(e)) and other not in by_angle), None)
        if instead is None:
            continue
        fix = Fix(
            f"Take {instead.name.lower()}",
            "replace",
            {"day": str(s.day), "key": s.key, "line": line.name, "exercise_id": instead.id},
        )
        word = " to ".join(a.removeprefix("press_") for a in angle)
        why = f"{' and '.join(x.exercise.name.lower() for _, x in rows)}: both {word}. Another angle spares the shoulder."
        yield Flag("press-angle", Severity.NOTE, "The press angle repeats.", why, COMMON_PRACTICE, s.at(line), fix=fix)


def jumps_too_close(view: WeekView) -> Iterator[Flag]:
    """Many contacts on neighbouring days."""
    for a, b in _neighbours(view):
        first, second = sum(x.contacts for x in a.lines), sum(x.contacts for x in b.lines)
        if min(first, second) >= CONTACTS_A_DAY:
            why = f"{first} foot contacts on {a.day:%A}, {second} the day after; {PLYO_HOURS} before repeating."
            yield Flag("plyo-days", Severity.THINK, "Jumps on neighbouring days.", why, HAFF, b.where, fix=_move(view, b))


def all_middles(view: WeekView) -> Iterator[Flag]:
    """A week made of middles: nothing hard, nothing easy."""
    if len(view.sessions) > LEAST_TO_SPREAD and not view.is_light and all(s.load == "middle" for s in view.sessions):
        why = "Every day is medium. Hard days hard, easy days easy."
        yield Flag("middles", Severity.NOTE, "No day is really hard or really easy.", why, COMMON_PRACTICE, "week")


WEEK_CHECKS: tuple[Check[WeekView], ...] = (
    Check("speed-and-heavy", "heavy legs beside top speed", COMMON_PRACTICE, heavy_next_to_top_speed),
    Check("back-before-legs", "upper-back volume before heavy legs", COMMON_PRACTICE, back_before_legs),
    Check("squat-and-deadlift", "heavy squat and deadlift on one day", COMMON_PRACTICE, squat_and_deadlift),
    Check("high-days", "two high days without 24 h between", COMMON_PRACTICE, high_days_close),
    Check("two-a-day", "two sessions of a day", Source("P", "Robineau et al. 2016"), two_sessions),
    Check("fast-second", "fast work in the second session of a day", COMMON_PRACTICE, fast_comes_second),
    Check("hard-morning", "hard practice that morning", COMMON_PRACTICE, hard_morning),
    Check("limit-front-squat", "max-effort front squats in season or near the day", COMMON_PRACTICE, limit_front_squat),
    Check("same-max-effort", "the same max-effort variation again", COMMON_PRACTICE, repeated_max_effort),
    Check("fault", "too little work on a known fault", COMMON_PRACTICE, fault_not_met),
    Check("athletic", "no athletic development", COMMON_PRACTICE, no_athletic_work),
    Check("busy", "load rising with camp, travel or exams", COMMON_PRACTICE, load_rises_with_life),
    Check("failure-days", "sets to failure on most days", COMMON_PRACTICE, failure_on_most_days),
    Check("press-angle", "the press angle repeated", COMMON_PRACTICE, press_angle_repeated),
    Check("plyo-days", "jumps on neighbouring days", HAFF, jumps_too_close),
    Check("middles", "a week made of middles", COMMON_PRACTICE, all_middles),
)


def _of_the_week(view: WeekView) -> list[Flag]:
    return [flag for check in WEEK_CHECKS for flag in check.look(view)]


def _of_all(view: WeekView) -> list[Flag]:
    """What checks say of the week and of each of its sessions."""
    return [*_of_the_week(view), *(flag for s in view.sessions for flag in spoken(s))]


def week_flags(view: WeekView) -> tuple[Flag, ...]:
    """Return what every check says of a week, the serious first; of its sessions only what a fix would bring counts."""
    found = offered(view, _of_the_week(view), mended_week, _of_all)
    return tuple(sorted(found, key=lambda f: ORDER[f.severity]))
