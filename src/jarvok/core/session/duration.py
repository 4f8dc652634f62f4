"""Does it fit the hour: minutes of a line and of a block."""

from __future__ import annotations

from jarvok.core.library.exercises import Exercise
from jarvok.core.loading.prescription import Prescription
from jarvok.core.rules import DEFAULT_RULES, Rules

METRES_PER_S = 1.0  # [J] loaded carries
REST_RULE = {"strength": "power", "ballistic": "power", "classic": "power", "jump": "jump", "throw": "jump"}


def rest_s(prescription: Prescription, exercise: Exercise, rules: Rules = DEFAULT_RULES) -> int:
    """Return the rest between sets in s: as written, else the visible default for the kind of exercise."""
    if prescription.rest_s is not None:
        return prescription.rest_s
    return int(rules[f"session.rest_{REST_RULE.get(exercise.kind, 'other')}_s"])


def line_minutes(prescription: Prescription, exercise: Exercise, paired: bool, rules: Rules = DEFAULT_RULES) -> float:
    """Return the minutes a line takes: repetitions by tempo or typical seconds, transitions, and its share of rest."""
    if prescription.every_s is not None:
        return prescription.every_s * prescription.total_sets / 60
    work = 0.0
    for group in prescription.groups:
        sides = 2 if group.per_side else 1
        if group.seconds is not None:
            each = float(group.seconds)
        elif group.metres is not None:
            each = group.metres / METRES_PER_S
        else:
            each = (group.reps or 1) * _seconds_per_rep(prescription.tempo, exercise)
        work += group.sets * (each * sides + rules["session.transition_s"])
    share = rules["session.pair_rest_pct"] / 100 if paired else 1.0
    resting = rest_s(prescription, exercise, rules) * max(0, prescription.total_sets - 1) * share
    return (work + resting) / 60


def _seconds_per_rep(tempo: str | None, exercise: Exercise) -> float:
    if not tempo:
        return exercise.seconds_per_rep
    return max(1.0, sum(1.0 if part == "X" else float(part) for part in tempo.split("-")))


def warm_up_minutes(ramp_sets: int, rules: Rules = DEFAULT_RULES) -> float:
    """Return the minutes before the first work set: general warm-up and the ramps of the main lifts."""
    return rules["session.warm_up_min"] + rules["session.ramp_set_min"] * ramp_sets
