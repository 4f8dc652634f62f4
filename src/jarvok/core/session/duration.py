"""Rests where a line says nothing, and the minutes before the first work set."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.exercises import Exercise
from jarvok.core.loading.prescription import Prescription
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.running.classes import BY_KEY, sprint_rest_s
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.roles import BlockRole
from jarvok.core.session.station import Station

REST_RULE = {"strength": "power", "ballistic": "power", "classic": "power", "jump": "jump", "throw": "jump"}
MOST_SPRINT_REST_S = 1200  # [J] past twenty minutes another warm-up is needed, not more rest
RAISES_FROM_S = 180  # [J] continuous work of three minutes raises; less only mobilises


def rest_s(prescription: Prescription, exercise: Exercise, rules: Rules = DEFAULT_RULES) -> int:
    """Return the rest between sets in s: as written, else by the goal and the kind of exercise.

    Maximal sprints by distance, maximal jumps longer than others. Common practice; Haff & Triplett 2016 for jumps and strength,
    quoted from memory.
    """
    if prescription.rest_s is not None:
        return prescription.rest_s
    metres = max((g.metres or 0 for g in prescription.groups), default=0)
    running = BY_KEY.get(exercise.running)
    if running is not None and running.is_maximal and metres and not prescription.submaximal:
        return min(MOST_SPRINT_REST_S, sprint_rest_s(metres))
    if is_maximal_jump(prescription, exercise):
        return int(rules["session.rest_maximal_jump_s"])
    return int(rules[f"session.rest_{REST_RULE.get(exercise.kind, 'other')}_s"])


def is_maximal_jump(prescription: Prescription, exercise: Exercise) -> bool:
    """Whether a line is jumped as high or as far as one can: by its exercise, or because that is what counts."""
    jump = exercise.plyometric
    if jump is None or prescription.submaximal:
        return False
    return jump.maximal or prescription.scored_by in ("height", "distance")


def raises(stations: Sequence[tuple[Station, BlockRole]]) -> bool:
    """Whether a session brings its own warm-up that raises: a timed circuit, or some minutes of continuous work."""
    for station, role in stations:
        if role is not BlockRole.PREPARE:
            continue
        if station.style.grouping is Grouping.WARM_UP:
            return True
        is_easy_work = station.exercise.kind in ("conditioning", "run")
        if is_easy_work and any((g.seconds or 0) >= RAISES_FROM_S for g in station.groups):
            return True
    return False


def warm_up_minutes(ramp_sets: int, rules: Rules = DEFAULT_RULES, *, has_own: bool = False) -> float:
    """Return the minutes before the first work set that no line holds: general warm-up, unless the session has its own, and
    the ramps of the main lifts.
    """
    general = 0.0 if has_own else rules["session.warm_up_min"]
    return general + rules["session.ramp_set_min"] * ramp_sets
