"""Checks of one session. Each has a dose threshold and stays silent where a way of training does the thing on purpose."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from jarvok.core.checks.flag import Check, Fix, Flag, Severity
from jarvok.core.checks.guards import GUARD_CHECKS, fewer
from jarvok.core.checks.plan_views import LineView, SessionView
from jarvok.core.library.exercises import exercise
from jarvok.core.library.substitutes import substitutes
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.progress import CONTACT_CAPS
from jarvok.core.loading.shorthand import write
from jarvok.core.running.classes import BY_KEY, sprint_rest_s
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.rests import BETWEEN_JUMP_SETS, RESTS
from jarvok.core.session.roles import PREPARE_NAME
from jarvok.core.week.dose import dose_zone
from jarvok.core.week.plan import LEVEL_NAMES, Level
from jarvok.core.working import COMMON_PRACTICE, Source

HAFF = Source("P", "Haff & Triplett 2016")
PRILEPIN = Source("P", "Prilepin's chart, as commonly reprinted")
OWN = Source("J", "Jarvok's default")
TIRED_SETS = 6  # [J] heavy or hard sets before a fast line that make it late
FAST_DOSE = 6  # [J] repetitions of fast work below which order does not matter
LONG_SET_S, LONGEST_SET_S = 6.0, 10.0  # common practice
CONTINUOUS_REPS, RESET_REPS = 6, 10  # common practice
MOST_BIG_LIFTS = 4  # [J]
HEAVY_ATHLETE_KG, LOW_BOX_CM = 100.0, 46  # Haff & Triplett 2016, quoted from memory
SHORT_CONDITIONING_MIN = 10
LEAST_JUMP_REST_S = 60  # [J] below it a short set of jumps is clearly hurried
HEAVY_SHARE = 0.85  # [C]
TYPING_ERROR_SHARE = 1.25  # [J] no lift is done at so much of its own max
LIMIT_SHARE = 0.97  # [J] from here a lift is a limit lift
SEVERAL_SETS = 3  # [J] so many sets make a line count as work
FEW_SETS = 4  # [J] what a fix leaves of too many sets
MOST_JUMPS_A_SET = 5  # [C] maximal jumps before height falls
SHORT_REST = 0.75  # [J] a rest under this share of the usual one is short
REST_STEP_S = 30  # [T] rests are written in half minutes


def _write(line: LineView, text: str, words: str) -> Fix:
    return Fix(words, "write", {"line": line.name, "text": text})


def _drop(line: LineView, words: str) -> Fix:
    return Fix(words, "drop", {"line": line.name})


def fast_after_fatigue(view: SessionView) -> Iterator[Flag]:
    """Fast or skilled work after hard sets. The jumps of a contrast or primer pair are where they belong."""
    tired = 0
    for line in view.lines:
        if line.style.grouping in (Grouping.CONTRAST, Grouping.PAPE):
            continue
        if line.is_fast and line.exercise.kind != "ballistic" and tired >= TIRED_SETS and line.reps + line.metres >= FAST_DOSE:
            fix = Fix(f"Put {line.slot} first", "first", {"line": line.name})
            why = f"{line.exercise.name} comes after {tired} hard sets. Speed and coordination are trained fresh."
            yield Flag("fast-late", Severity.THINK, "Fast work comes late.", why, COMMON_PRACTICE, view.at(line), fix=fix)
        if line.is_heavy and line.exercise.region != "upper":
            tired += line.total_sets
        elif line.exercise.kind == "conditioning" and line.exercise.cost != "low":
            tired += 2 * line.total_sets


def conditioning_first(view: SessionView) -> Iterator[Flag]:
    """Hard conditioning before strength."""
    strength = [i for i, x in enumerate(view.lines) if x.is_heavy]
    for i, line in enumerate(view.lines):
        hard = line.exercise.kind == "conditioning" and line.exercise.cost != "low" and not line.prepares
        if hard and strength and i < strength[-1]:
            fix = Fix(f"Put {line.slot} last", "last", {"line": line.name})
            why = "Hard conditioning before strength is an error unless it is the goal of the day."
            yield Flag(
                "conditioning-first", Severity.THINK, "Conditioning comes first.", why, COMMON_PRACTICE, view.at(line), fix=fix
            )


def small_before_big(view: SessionView) -> Iterator[Flag]:
    """Small muscles or trunk tired before the main lifts."""
    small: LineView | None = None
    for line in view.lines:
        if line.prepares or line.style.grouping is Grouping.WARM_UP:
            continue
        if line.is_heavy and line.exercise.region != "upper" and small is not None and small.block != line.block:
            fix = Fix(f"Put {small.slot} last", "last", {"line": small.name})
            why = f"{small.exercise.name} tires what holds {line.exercise.name.lower()} up. The biggest lifts are done fresh."
            yield Flag(
                "small-first",
                Severity.NOTE,
                "Small work stands before the big lift.",
                why,
                COMMON_PRACTICE,
                view.at(small),
                fix=fix,
            )
            return
        if line.exercise.region == "trunk" and line.total_sets >= SEVERAL_SETS:
            small = line


def plyometric_sets(view: SessionView) -> Iterator[Flag]:
    """Plyometric sets that last too long or hold too many contacts."""
    for line in view.lines:
        jump = line.exercise.plyometric
        if jump is None or line.exercise.cost == "low":
            continue
        for g in line.prescription.groups:
            most = CONTINUOUS_REPS if jump.kind == "continuous" else RESET_REPS
            set_s = (
                (g.seconds or (g.reps or 0) * line.exercise.seconds_per_rep) if jump.kind == "continuous" else (g.seconds or 0)
            )
            if set_s <= LONGEST_SET_S and (g.reps or 0) <= most and set_s <= LONG_SET_S:
                continue
            severity = Severity.THINK if set_s > LONGEST_SET_S or (g.reps or 0) > most else Severity.NOTE
            amount = f"{g.reps} repetitions" if g.reps else f"{set_s:.0f} s"
            why = f"{amount} a set. Quality falls after 4–6 contacts, or about 6 s; more sets of fewer keep it."
            better = write(
                Prescription(
                    (
                        replace(
                            g,
                            reps=min(g.reps or MOST_JUMPS_A_SET, most if jump.kind == "reset" else MOST_JUMPS_A_SET),
                            seconds=None,
                        ),
                    )
                )
            )
            fix = _write(line, better, f"Write {better}")
            yield Flag("plyo-long", severity, "The jump sets are long.", why, COMMON_PRACTICE, view.at(line), fix=fix)
            break


def contacts_over_the_cap(view: SessionView) -> Iterator[Flag]:
    """More contacts than the athlete's level takes in a session."""
    cap = CONTACT_CAPS[min(int(view.level), len(CONTACT_CAPS)) - 1][2]
    total = sum(x.contacts for x in view.lines)
    if total > cap:
        most = max((x for x in view.lines if x.contacts), key=lambda x: x.contacts)
        each = max(1, most.contacts // max(1, most.total_sets))
        keep = max(1, most.total_sets - -(-(total - cap) // each))
        text = fewer(most.prescription, keep)
        why = f"{total} contacts; {cap} at most in a session for {LEVEL_NAMES[view.level]} athletes."
        yield Flag(
            "contacts",
            Severity.THINK,
            "Too many contacts.",
            why,
            HAFF,
            view.where,
            fix=_write(most, text, f"Write {most.slot} as {text}"),
        )


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
        yield Flag(
            "big-lifts", Severity.THINK, "Many big lifts.", why, OWN, view.where, fix=_drop(big[-1], f"Take {big[-1].slot} out")
        )


def reserve_range(view: SessionView) -> Iterator[Flag]:
    """Reps in reserve above 12 repetitions or beyond 4 in reserve."""
    for line in view.lines:
        for g in line.prescription.groups:
            if g.load is not None and g.load.unreliable(g.reps or 0):
                why = "Athletes cannot count reps in reserve reliably above 12 repetitions or beyond 4 in reserve."
                yield Flag("rir-range", Severity.NOTE, f"{line.slot}: a rough guide only.", why, COMMON_PRACTICE, view.at(line))
                break


def failure_in_power_work(view: SessionView) -> Iterator[Flag]:
    """Sets to failure in fast work."""
    for line in view.lines:
        if (
            line.is_to_failure
            and line.exercise.kind in ("jump", "throw", "classic", "ballistic", "run")
            and not line.prescription.until_miss
        ):
            why = "Fast work ends when speed falls, long before failure."
            plain = Prescription(
                tuple(replace(g, or_more=False) for g in line.prescription.groups), rest_s=line.prescription.rest_s
            )
            text = write(plain)
            yield Flag(
                "failure-power",
                Severity.THINK,
                "To failure in fast work.",
                why,
                COMMON_PRACTICE,
                view.at(line),
                fix=_write(line, text, f"Write {text}"),
            )


def dose_outside_the_zone(view: SessionView) -> Iterator[Flag]:
    """A weightlifting lift with more or fewer lifts than its intensity zone holds; light weeks may hold fewer."""
    for line in view.lines:
        loads = [g.load for g in line.prescription.groups if isinstance(g.load, Percent)]
        if line.exercise.kind != "classic" or not line.is_main or len(loads) != len(line.prescription.groups):
            continue
        top = max(max(load.percents) for load in loads)
        zone = dose_zone(top)
        lifts = line.reps
        if lifts > zone.total[1] or max(g.reps or 0 for g in line.prescription.groups) > zone.reps[1]:
            why = (
                f"{lifts} lifts at {top:g} %: {zone.total[0]}–{zone.total[1]} in sets of "
                f"{zone.reps[0]}–{zone.reps[1]}, best {zone.best}."
            )
            reps = min(zone.reps[1], max(g.reps or 1 for g in line.prescription.groups))
            text = f"{max(1, zone.best // reps)} × {reps} @ {top:g} %"
            yield Flag(
                "dose-high",
                Severity.THINK,
                "More lifts than the zone holds.",
                why,
                PRILEPIN,
                view.at(line),
                fix=_write(line, text, f"Write {text}"),
            )


def no_warm_up(view: SessionView) -> Iterator[Flag]:
    """Sprints or maximal jumps without anything to prepare them."""
    prepared = any(x.prepares or x.style.grouping is Grouping.WARM_UP or x.exercise.kind == "drill" for x in view.lines)
    fast = next((x for x in view.lines if x.is_fast and x.exercise.kind in ("run", "jump")), None)
    if fast is not None and not prepared:
        why = f"{fast.exercise.name} stands without drills or landings before it."
        yield Flag("no-warm-up", Severity.THINK, "Nothing prepares the fast work.", why, COMMON_PRACTICE, view.at(fast))


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
        return _drop(line, f"Take {line.slot} out")
    return Fix(
        f"Take {exercise(found.exercise_id).name.lower()} ({found.reason})",
        "replace",
        {"line": line.name, "exercise_id": found.exercise_id},
    )


def max_effort_safety(view: SessionView) -> Iterator[Flag]:
    """Max-effort and failure sets: the safety line, and a caution for those they are not open to."""
    for line in view.lines:
        limit = line.is_max_effort or (line.is_to_failure and line.exercise.is_loaded) or (line.share or 0) >= LIMIT_SHARE
        if not limit:
            continue
        if (line.share or 0) > TYPING_ERROR_SHARE:
            title = f"{100 * (line.share or 0):.0f} % of the max."
            yield Flag(
                "typing-error", Severity.CAUTION, title, "Likely a slip of the hand: look at the load.", OWN, view.at(line)
            )
            continue
        if not view.may_max:
            sets = min(FEW_SETS, line.total_sets)
            text = f"{sets} × 5, 2 in reserve"
            why = f"{view.why_not_max}. Rep sets short of failure build the same athlete."
            yield Flag(
                "max-closed",
                Severity.CAUTION,
                "Max effort is not open here.",
                why,
                COMMON_PRACTICE,
                view.at(line),
                fix=_write(line, text, f"Write {text}"),
            )
        else:
            why = "Spotters or safeties, collars, a clear platform. Without a spotter stop one short."
            yield Flag("max-safety", Severity.NOTE, "Near the limit.", why, COMMON_PRACTICE, view.at(line))


def landing_before_depth(view: SessionView) -> Iterator[Flag]:
    """Depth jumps without landing practice on record or earlier in the session; low boxes for the heavy."""
    landed = view.landing_practised
    for line in view.lines:
        landed = landed or "landing" in line.exercise.roles
        if "jump_depth" not in line.exercise.roles:
            continue
        if not landed:
            fix = Fix("Put landings before it", "add", {"exercise_id": "low_box_landing", "text": "2 × 4", "block": PREPARE_NAME})
            why = "Land well before jumping from a height. No landing practice is on record."
            yield Flag("landing", Severity.CAUTION, "No landing practice.", why, COMMON_PRACTICE, view.at(line), fix=fix)
        if view.body_mass_kg is not None and view.body_mass_kg > HEAVY_ATHLETE_KG:
            why = f"Above {HEAVY_ATHLETE_KG:g} kg the box stays at {LOW_BOX_CM} cm or lower."
            yield Flag("box", Severity.CAUTION, "A low box.", why, HAFF, view.at(line))
        elif view.level is Level.NOVICE:
            why = "Drop height grows only while contact time and RSI hold."
            yield Flag(
                "depth-novice",
                Severity.THINK,
                "Depth jumps early.",
                why,
                COMMON_PRACTICE,
                view.at(line),
                fix=_drop(line, f"Take {line.slot} out"),
            )


def rest_for_the_goal(view: SessionView) -> Iterator[Flag]:
    """A written rest too short for the goal; speed work with little rest is a method of its own."""
    for line in view.lines:
        rest_s = line.prescription.rest_s
        if rest_s is None or line.style.is_shared:
            continue
        least, goal = 0.0, ""
        if line.is_heavy and (line.share or 0) >= HEAVY_SHARE:
            least, goal = RESTS["strength"].least_s, RESTS["strength"].words
        elif line.exercise.running == "speed" and line.exercise.cost == "high" and line.metres:
            far = max(g.metres or 0 for g in line.prescription.groups)
            least, goal = SHORT_REST * sprint_rest_s(far), "sprints: about 1 min per 10 m"
        elif line.exercise.kind == "jump" and line.exercise.cost == "high" and not line.prepares:
            least, goal = LEAST_JUMP_REST_S, BETWEEN_JUMP_SETS.words
        if rest_s < least:
            why = f"{rest_s // 60}:{rest_s % 60:02d} of rest. For {goal}."
            longer = write(replace(line.prescription, rest_s=int(-(-least // REST_STEP_S) * REST_STEP_S)))
            yield Flag(
                "rest",
                Severity.NOTE,
                "The rest is short for the goal.",
                why,
                HAFF,
                view.at(line),
                fix=_write(line, longer, f"Write {longer}"),
            )


def does_not_fit(view: SessionView) -> Iterator[Flag]:
    """More minutes than there are; what goes first is at the bottom, never the fast work."""
    if view.minutes <= view.minutes_there or not view.lines:
        return
    cut = cut_first(view.lines)
    why = f"{view.minutes - view.minutes_there:.0f} min over the {view.minutes_there} there are."
    fix = None
    if cut is not None:
        why += f" {cut.slot} goes first, never the fast work."
        fix = _drop(cut, f"Take {cut.slot} out")
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
                fix=_drop(line, f"Take {line.slot} out"),
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
            yield Flag("run-class", Severity.NOTE, "The distance is of another class.", why, running.source, view.at(line))


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
        yield Flag("care", Severity.NOTE, "Usual care.", why, COMMON_PRACTICE, view.where)


SESSION_CHECKS: tuple[Check[SessionView], ...] = (
    Check("fast-late", "fast work after fatigue", COMMON_PRACTICE, fast_after_fatigue),
    Check("conditioning-first", "conditioning before strength", COMMON_PRACTICE, conditioning_first),
    Check("small-first", "small work before the big lift", COMMON_PRACTICE, small_before_big),
    Check("plyo-long", "plyometric sets too long", COMMON_PRACTICE, plyometric_sets),
    Check("contacts", "contacts over the cap", HAFF, contacts_over_the_cap),
    Check("big-lifts", "too many high-cost lifts", OWN, too_many_big_lifts),
    Check("rir-range", "reps in reserve outside their range", COMMON_PRACTICE, reserve_range),
    Check("failure-power", "failure sets in fast work", COMMON_PRACTICE, failure_in_power_work),
    Check("dose-high", "dose outside the zone table", PRILEPIN, dose_outside_the_zone),
    Check("no-warm-up", "no warm-up for fast work", COMMON_PRACTICE, no_warm_up),
    Check("kit", "equipment missing", OWN, missing_kit),
    Check("restriction", "restriction broken", COMMON_PRACTICE, broken_restriction),
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
    """Return what every check says of a session, cautions first."""
    found = [flag for check in SESSION_CHECKS for flag in check.look(view)]
    return tuple(sorted(found, key=lambda f: ORDER[f.severity]))


ORDER = {Severity.CAUTION: 0, Severity.THINK: 1, Severity.NOTE: 2}
