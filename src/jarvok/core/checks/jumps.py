"""Checks of jumps: how long a set lasts, contacts of a session, landings before jumps from a height."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from jarvok.core.checks.fixes import drop, rewrite, with_groups
from jarvok.core.checks.flag import Fix, Flag, Severity
from jarvok.core.checks.plan_views import LineView, SessionView
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.progress import CONTACT_CAPS
from jarvok.core.quantities.sentence import counted
from jarvok.core.session.roles import PREPARE_NAME
from jarvok.core.week.plan import LEVEL_NAMES, Level
from jarvok.core.working import COMMON_PRACTICE, Source

HAFF = Source("P", "Haff & Triplett 2016")
LONG_SET_S, LONGEST_SET_S = 6.0, 10.0  # common practice
CONTINUOUS_REPS, RESET_REPS = 6, 10  # common practice
MOST_JUMPS_A_SET = 5  # [C] maximal jumps before height falls
USUAL_JUMPS_A_SET = 4  # [C] 2–3 × 4 beats 1 × 10
HEAVY_ATHLETE_KG, LOW_BOX_CM = 100.0, 46  # Haff & Triplett 2016, quoted from memory


def plyometric_sets(view: SessionView) -> Iterator[Flag]:
    """Plyometric sets that last too long or hold too many contacts."""
    for line in view.lines:
        jump = line.exercise.plyometric
        if jump is None or line.exercise.cost == "low":
            continue
        most = CONTINUOUS_REPS if jump.kind == "continuous" else RESET_REPS
        for g in line.prescription.groups:
            lasts_s = _lasts_s(line, g)
            if lasts_s <= LONG_SET_S and (g.reps or 0) <= most:
                continue
            severity = Severity.THINK if lasts_s > LONGEST_SET_S or (g.reps or 0) > most else Severity.NOTE
            amount = counted(g.reps, "repetition") if g.reps else f"{lasts_s:.0f} s"
            why = f"{amount} a set. Quality falls after 4–6 foot contacts, or about 6 s; more sets of fewer keep it."
            fix = rewrite(line, with_groups(line, *(_shorter(line, x, most) for x in line.prescription.groups)))
            yield Flag("plyo-long", severity, "The jump sets are long.", why, COMMON_PRACTICE, view.at(line), fix=fix)
            break


def _lasts_s(line: LineView, g: SetGroup) -> float:
    """How long a set of jumps lasts on the ground and in the air, in s; with a reset between them only what is timed counts."""
    jump = line.exercise.plyometric
    if jump is not None and jump.kind == "continuous":
        return g.seconds or (g.reps or 0) * line.exercise.seconds_per_rep
    return g.seconds or 0


def _shorter(line: LineView, g: SetGroup, most: int) -> SetGroup:
    if _lasts_s(line, g) <= LONG_SET_S and (g.reps or 0) <= most:
        return g
    jump = line.exercise.plyometric
    if jump is not None and jump.kind == "continuous":
        most = max(1, min(MOST_JUMPS_A_SET, int(LONG_SET_S // line.exercise.seconds_per_rep)))
    return replace(g, reps=min(g.reps or MOST_JUMPS_A_SET, most), reps_high=None, seconds=None)


def maximal_jumps(view: SessionView) -> Iterator[Flag]:
    """Maximal jumps in sets longer than height holds: the athlete's own number where a test of theirs was kept."""
    for line in view.lines:
        if not line.is_maximal_jump or line.prepares:
            continue
        own = view.jumps_a_set.get(line.exercise.id)
        most = own or MOST_JUMPS_A_SET
        longest = max((g.reps or 0 for g in line.prescription.groups), default=0)
        if longest <= most:
            continue
        because = f"Their own heights fall after {own}, as tested." if own else "Height falls after 4–5 maximal jumps."
        why = f"{longest} a set. {because} More sets of fewer keep it; a line that is not meant so says submaximal."
        a_set = min(most, USUAL_JUMPS_A_SET) if own is None else own
        shorter = with_groups(line, *(_divided(g, a_set, most) for g in line.prescription.groups))
        yield Flag(
            "maximal-jumps",
            Severity.THINK,
            "Many maximal jumps in a set.",
            why,
            COMMON_PRACTICE,
            view.at(line),
            fix=rewrite(line, shorter),
        )


def _divided(g: SetGroup, a_set: int, most: int) -> SetGroup:
    """About as many jumps in sets of `a_set`, never more than there were."""
    if (g.reps or 0) <= most:
        return g
    return replace(g, sets=max(1, g.sets * (g.reps or 0) // a_set), reps=a_set, reps_high=None, sets_high=None)


def contacts_over_the_cap(view: SessionView) -> Iterator[Flag]:
    """More contacts than the athlete's level takes in a session."""
    cap = CONTACT_CAPS[min(int(view.level), len(CONTACT_CAPS)) - 1][2]
    total = sum(x.contacts for x in view.lines)
    if total > cap:
        most = max((x for x in view.lines if x.contacts), key=lambda x: x.contacts)
        why = f"{total} foot contacts; {cap} at most in a session for {LEVEL_NAMES[view.level]} athletes."
        fix = rewrite(most, _with_contacts(most, most.contacts - (total - cap)), f"Write {most.slot} as {{text}}")
        yield Flag("contacts", Severity.THINK, "Too many foot contacts.", why, HAFF, view.where, fix=fix)


def _with_contacts(line: LineView, left: int) -> Prescription:
    """The line with so many contacts at most: sets go first, then repetitions of the one that is left."""
    kept: list[SetGroup] = []
    for g in line.prescription.groups:
        sets = min(g.sets, left // max(1, (g.reps or 0) * g.sides))
        if sets:
            kept.append(replace(g, sets=sets, sets_high=None))
            left -= sets * (g.reps or 0) * g.sides
    if not kept:
        g = line.prescription.groups[0]
        kept.append(replace(g, sets=1, sets_high=None, reps=max(1, left // g.sides), reps_high=None))
    return with_groups(line, *kept)


def landing_before_depth(view: SessionView) -> Iterator[Flag]:
    """Depth jumps without landing practice on record or earlier in the session; low boxes for the heavy."""
    landed = view.landing_practised
    for line in view.lines:
        landed = landed or "landing" in line.exercise.roles
        if "jump_depth" not in line.exercise.roles:
            continue
        if not landed:
            fix = Fix("Put landings before it", "add", {"exercise_id": "low_box_landing", "text": "2 × 4", "block": PREPARE_NAME})
            why = "Land well before jumping from a height. No landing practice in the last weeks."
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
                fix=drop(line),
            )
