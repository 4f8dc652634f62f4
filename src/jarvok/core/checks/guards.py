"""What is protected defends itself: light weeks, tapers, weeks of camp and the days after a last heavy session."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from jarvok.core.checks.flag import Check, Fix, Flag, Severity
from jarvok.core.checks.plan_views import LineView, SessionView
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.shorthand import write
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.sentence import counted
from jarvok.core.season.model import PhaseKey, SeasonWeek
from jarvok.core.week.contest_work import BLOCK, HEAVY_PCT
from jarvok.core.week.plan import cap_pct
from jarvok.core.working import COMMON_PRACTICE

ROUNDING_PCT = 1.0  # [T] so little more is the rounding of a load
PROTECTED = {"taper": "What is built is protected now.", "deload week": "Now the work shows."}
NEAR_DAYS = 10  # [C] from here on the last days hold loads back


def why_guarded(week: SeasonWeek) -> str:
    """Return in a word why nothing is added to a week, or nothing for a week that takes more."""
    if week.phase is PhaseKey.TAPER or week.taper is not None:
        return "taper"
    if week.is_easy:
        return "deload week"
    if week.is_back:
        return "week on the way back"
    return "week of " + (week.note or "less time") if week.calendar_share < 1 else ""


def fewer(line: Prescription, sets: int) -> str:
    """Return the line with so many sets at most, as shorthand."""
    left, groups = max(1, sets), []
    for g in line.groups:
        if left > 0:
            groups.append(replace(g, sets=min(g.sets, left)))
            left -= g.sets
    return write(replace(line, groups=tuple(groups)))


def work_added(view: SessionView) -> Iterator[Flag]:
    """Sets, lines or a whole session added where the plan is light on purpose."""
    guard = view.guard
    held = sum(x.total_sets for x in view.lines if not x.prepares)
    typed = [x for x in view.lines if x.added_sets > 0]
    planned = guard.planned_sets
    if not guard.why or not (typed or (planned is not None and held > planned)):
        return
    protected = PROTECTED.get(guard.why, "")
    if planned == 0:
        title, why = f"A session was added to the {guard.why}.", f"{counted(held, 'set')} where the plan has none. {protected}"
        fix = Fix("Take the session out", "take_out")
    elif typed:
        line = typed[0]
        text = fewer(line.prescription, line.total_sets - line.added_sets)
        title = f"Work was added to the {guard.why}."
        why = f"{', '.join(x.slot for x in typed)}: more sets than planned. {protected}"
        fix = Fix(f"Write {line.slot} as {text}", "write", {"line": line.name, "text": text})
    else:
        title = f"Work was added to the {guard.why}."
        why = f"{counted(held, 'set')}, {planned} in the plan. {protected}"
        fix = Fix("Back to the session as planned", "restore")
    yield Flag("added", Severity.CAUTION, title, why.strip(), COMMON_PRACTICE, view.where, fix=fix)


def heavier_than_the_week(view: SessionView) -> Iterator[Flag]:
    """A line typed heavier than a light week, or than the last days before the competition, hold."""
    for line in view.lines:
        if not line.is_typed or not line.is_main or line.exercise.kind not in ("strength", "classic"):
            continue
        near = cap_pct(view.days_to_go, line.exercise.id == "front_squat") if line.exercise.region != "upper" else 100.0
        most = min(near if view.days_to_go <= NEAR_DAYS else 100.0, view.guard.top_pct if view.guard.why else 100.0)
        share = 100 * (line.share or 0)
        if share <= most + ROUNDING_PCT:
            continue
        near_the_day = near <= most and view.days_to_go <= NEAR_DAYS
        where = f"{counted(view.days_to_go, 'day')} before the competition" if near_the_day else f"in the {view.guard.why}"
        text = _held(line, most)
        fix = Fix(f"Write {line.slot} as {text}", "write", {"line": line.name, "text": text}) if text else None
        yield Flag(
            "too-heavy",
            Severity.CAUTION,
            f"{line.exercise.name} is too heavy {where}.",
            f"{share:.0f} % of the max; at most {most:g} % here.",
            COMMON_PRACTICE,
            view.at(line),
            fix=fix,
        )


def _held(line: LineView, most_pct: float) -> str:
    """The line held to a share of the max, as shorthand; nothing where its load is not a share that can be held."""
    groups = tuple(replace(g, load=g.load.capped(most_pct)) if g.load is not None else g for g in line.prescription.groups)
    if groups == line.prescription.groups:
        sets, reps = line.total_sets, line.prescription.groups[0].reps
        return f"{sets} × {reps} @ {most_pct:g} %" if reps else ""
    return write(replace(line.prescription, groups=groups))


def heavy_after_the_last(view: SessionView) -> Iterator[Flag]:
    """A lift of an event, heavy again after its last heavy session before the contest."""
    for line in view.lines:
        if not line.is_typed:
            continue
        for limit in view.event_limits:
            share = 100 * (line.share or 0)
            if not limit.covers(line.exercise) or (limit.most_pct > 0 and share < HEAVY_PCT):
                continue
            text = _held(line, limit.most_pct) if limit.most_pct > 0 else ""
            fix = (
                Fix(f"Write {line.slot} as {text}", "write", {"line": line.name, "text": text})
                if text
                else Fix(f"Take {line.slot} out", "drop", {"line": line.name})
            )
            yield Flag(
                "after-last",
                Severity.CAUTION,
                f"{line.exercise.name} after its last heavy session.",
                f"The last one for {limit.event} was on {said_day(limit.after)}; after it: {limit.words}.",
                COMMON_PRACTICE,
                view.at(line),
                fix=fix,
            )


def last_heavy_is_missing(view: SessionView) -> Iterator[Flag]:
    """A session the coach has written lies on the day of a last heavy session, and does not hold it: the line is offered."""
    held = {x.exercise.id for x in view.lines}
    for due in view.due:
        if due.exercise_id not in held:
            name = exercise(due.exercise_id).name
            values: dict[str, str | float | bool | None] = {"exercise_id": due.exercise_id, "text": due.text, "block": BLOCK}
            yield Flag(
                "last-heavy",
                Severity.THINK,
                f"The last heavy session of {due.event} lies on this day.",
                f"{due.reason}. The session you wrote does not hold it.",
                COMMON_PRACTICE,
                f"{view.where}:{due.exercise_id}",
                fix=Fix(f"Add {name.lower()} {due.text}", "add", values),
            )


GUARD_CHECKS: tuple[Check[SessionView], ...] = (
    Check("added", "work added to a light week, a taper or a week of camp", COMMON_PRACTICE, work_added),
    Check("too-heavy", "a load above a light week or the last days", COMMON_PRACTICE, heavier_than_the_week),
    Check("last-heavy", "a written session without the last heavy session of its day", COMMON_PRACTICE, last_heavy_is_missing),
    Check("after-last", "an event's lift heavy after its last heavy session", COMMON_PRACTICE, heavy_after_the_last),
)
