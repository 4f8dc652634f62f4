"""Checks of one session. Each has a dose threshold and stays silent where a way of training does the thing on purpose."""

from __future__ import annotations

from collections.abc import Iterator

from jarvok.core.checks.effort import (
    dose_outside_the_zone,
    failure_in_power_work,
    max_effort_safety,
    reserve_range,
    rest_for_the_goal,
)
from jarvok.core.checks.fixes import drop
from jarvok.core.checks.flag import Check, Fix, Flag, Severity
from jarvok.core.checks.guards import GUARD_CHECKS
from jarvok.core.checks.jumps import contacts_over_the_cap, landing_before_depth, maximal_jumps, plyometric_sets
from jarvok.core.checks.mended import mended, offered
from jarvok.core.checks.order_in_session import conditioning_first, fast_after_fatigue, no_warm_up, small_before_big
from jarvok.core.checks.pain import open_pain
from jarvok.core.checks.plan_views import LineView, SessionView
from jarvok.core.library.exercises import exercise
from jarvok.core.library.substitutes import substitutes
from jarvok.core.running.classes import BY_KEY
from jarvok.core.working import COMMON_PRACTICE, Source

HAFF = Source("P", "Haff & Triplett 2016")
PRILEPIN = Source("P", "Prilepin's chart, as commonly reprinted")
OWN = Source("J", "Jarvok's default")
MOST_BIG_LIFTS = 4  # [J]
SEVERAL_SETS = 3  # [J] so many sets make a line count as work
SHORT_CONDITIONING_MIN = 10


def too_many_big_lifts(view: SessionView) -> Iterator[Flag]:
    """More big lifts than a session holds."""
    big = [
        x
        for x in view.lines
        if x.is_main and x.exercise.cost == "high" and x.total_sets >= SEVERAL_SETS and x.exercise.kind in ("strength", "classic")
    ]
    if len(big) > MOST_BIG_LIFTS:
        why = (
            f"{len(big)} lifts of high cost: {', '.join(x.exercise.name.lower() for x in big)}. The last of them are done tired."
        )
        yield Flag("big-lifts", Severity.THINK, "Many big lifts.", why, OWN, view.where, fix=drop(big[-1]))


def missing_kit(view: SessionView) -> Iterator[Flag]:
    """An exercise whose kit is not here."""
    for line in view.lines:
        missing = view.limits.kit.missing_for(line.exercise)
        if missing:
            why = f"{line.exercise.name} takes: {', '.join(missing)}."
            title = f"Not in “{view.limits.kit.name}”."
            yield Flag("kit", Severity.THINK, title, why, OWN, view.at(line), fix=_replacement(view, line))


def broken_restriction(view: SessionView) -> Iterator[Flag]:
    """An exercise that a restriction takes out."""
    for line in view.lines:
        off = view.limits.restricted & {line.exercise.pattern, line.exercise.region, *line.exercise.tags}
        if off:
            why = (
                f"{line.exercise.name} is off: {', '.join(sorted(off)).replace('_', ' ')}. It stays out until a "
                "licensed professional clears it."
            )
            yield Flag(
                "restriction",
                Severity.CAUTION,
                "A restriction is broken.",
                why,
                COMMON_PRACTICE,
                view.at(line),
                fix=_replacement(view, line),
            )


def _replacement(view: SessionView, line: LineView) -> Fix:
    found = next(iter(substitutes(line.exercise.id, view.limits)), None)
    if found is None:
        return drop(line)
    return Fix(
        f"Take {exercise(found.exercise_id).name.lower()} ({found.reason})",
        "replace",
        {"line": line.name, "exercise_id": found.exercise_id},
    )


def does_not_fit(view: SessionView) -> Iterator[Flag]:
    """More minutes than there are; what goes first is at the bottom, never the fast work."""
    if round(view.minutes) <= view.minutes_there or not view.lines:
        return
    cut = cut_first(view.lines)
    why = f"{view.minutes - view.minutes_there:.0f} min over the {view.minutes_there} there are."
    fix = None
    if cut is not None:
        why += f" {cut.slot} goes first, never the fast work."
        fix = drop(cut)
    yield Flag("hour", Severity.THINK, "It does not fit.", why, COMMON_PRACTICE, view.where, fix=fix)


def cut_first(lines: tuple[LineView, ...]) -> LineView | None:
    """Return the line that goes first when time is short: the last that is neither main nor fast."""
    return next((x for x in reversed(lines) if not x.is_main and not x.is_fast and not x.prepares), None)


def long_conditioning(view: SessionView) -> Iterator[Flag]:
    """More than ten minutes of conditioning beside strength."""
    if not any(x.is_heavy for x in view.lines):
        return
    for line in view.lines:
        if line.exercise.kind != "conditioning" or line.exercise.cost == "low" or line.prepares:
            continue
        minutes = (
            sum(g.sets * (g.seconds or (g.reps or 0) * line.exercise.seconds_per_rep) for g in line.prescription.groups) / 60
        )
        if minutes > SHORT_CONDITIONING_MIN:
            why = (
                f"{minutes:.0f} min beside strength. Six hours apart are better, a day better still; if unavoidable "
                "5–10 min after it."
            )
            robineau = Source("P", "Robineau et al. 2016")
            yield Flag(
                "strength-conditioning",
                Severity.THINK,
                "Long conditioning beside strength.",
                why,
                robineau,
                view.at(line),
                fix=drop(line),
            )


def run_outside_its_class(view: SessionView) -> Iterator[Flag]:
    """A run longer or shorter than its class is."""
    for line in view.lines:
        running = BY_KEY.get(line.exercise.running)
        if running is None or running.metres is None:
            continue
        far = max((g.metres or 0 for g in line.prescription.groups), default=0)
        if far and not running.holds(far):
            low, high = running.metres
            why = f"{far} m is not {running.name.lower()} ({low:g}–{high:g} m). Another run of the library is of that distance."
            yield Flag("run-class", Severity.NOTE, "Wrong distance for this kind of run.", why, running.source, view.at(line))


CAUTION_WORDS = {
    "start_light": "start very light, small steps",
    "bands_check": "check where the bands are fixed, and stand clear when they are loaded",
    "progress_speed": "warm first, on a sound surface; spikes and studs come by steps",
    "landing_first": "landings are practised before the jumps grow",
    "own_best": "it has its own best; more than the full lift is no error",
    "box_height": "box height by body mass and experience",
}


def usual_cautions(view: SessionView) -> Iterator[Flag]:
    """The usual care with what is on the sheet, in one note."""
    said: dict[str, list[str]] = {}
    for line in view.lines:
        for key in line.exercise.cautions:
            if key in ("start_light", "bands_check", "progress_speed"):
                said.setdefault(key, []).append(line.slot)
    if said:
        why = "; ".join(f"{', '.join(slots)}: {CAUTION_WORDS[key]}" for key, slots in said.items()) + "."
        yield Flag("care", Severity.NOTE, "Safety reminders.", why, COMMON_PRACTICE, view.where)


SESSION_CHECKS: tuple[Check[SessionView], ...] = (
    Check("fast-late", "fast work after fatigue", COMMON_PRACTICE, fast_after_fatigue),
    Check("conditioning-first", "conditioning before strength", COMMON_PRACTICE, conditioning_first),
    Check("small-first", "small work before the big lift", COMMON_PRACTICE, small_before_big),
    Check("plyo-long", "plyometric sets too long", COMMON_PRACTICE, plyometric_sets),
    Check("maximal-jumps", "maximal jumps in long sets", COMMON_PRACTICE, maximal_jumps),
    Check("contacts", "foot contacts over the cap", HAFF, contacts_over_the_cap),
    Check("big-lifts", "too many high-cost lifts", OWN, too_many_big_lifts),
    Check("rir-range", "reps in reserve outside their range", COMMON_PRACTICE, reserve_range),
    Check("failure-power", "failure sets in fast work", COMMON_PRACTICE, failure_in_power_work),
    Check("dose-high", "dose outside the zone table", PRILEPIN, dose_outside_the_zone),
    Check("no-warm-up", "no warm-up for fast work", COMMON_PRACTICE, no_warm_up),
    Check("kit", "equipment missing", OWN, missing_kit),
    Check("restriction", "restriction broken", COMMON_PRACTICE, broken_restriction),
    Check("open-pain", "a pain told on the floor and not answered", COMMON_PRACTICE, open_pain),
    Check("max-safety", "max effort: safety, and whom it is open to", COMMON_PRACTICE, max_effort_safety),
    Check("landing", "landing practice before depth jumps", COMMON_PRACTICE, landing_before_depth),
    Check("rest", "rest too short for the goal", HAFF, rest_for_the_goal),
    Check("hour", "minutes against the time there is", COMMON_PRACTICE, does_not_fit),
    Check("strength-conditioning", "conditioning beside strength", Source("P", "Robineau et al. 2016"), long_conditioning),
    Check("run-class", "a run outside its class", COMMON_PRACTICE, run_outside_its_class),
    *GUARD_CHECKS,
    Check("care", "usual care with what is on the sheet", COMMON_PRACTICE, usual_cautions),
)


def session_flags(view: SessionView) -> tuple[Flag, ...]:
    """Return what every check says of a session, cautions first. No fix is offered that another check would refuse."""
    found = offered(view, spoken(view), mended, spoken)
    return tuple(sorted(found, key=lambda f: ORDER[f.severity]))


def spoken(view: SessionView) -> list[Flag]:
    """Return what every check says, with the fix each has by itself."""
    return [flag for check in SESSION_CHECKS for flag in check.look(view)]


ORDER = {Severity.CAUTION: 0, Severity.THINK: 1, Severity.NOTE: 2}
