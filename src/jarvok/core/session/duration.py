"""Does it fit the hour: minutes of a line and of a block."""

from __future__ import annotations

from jarvok.core.library.exercises import Exercise
from jarvok.core.loading.prescription import Prescription

TRANSITION_S = 20  # [J] chalk, plates and words around each set
METRES_PER_S = 1.0  # [J] loaded carries
DEFAULT_REST_S = {"strength": 150, "ballistic": 150, "classic": 150, "jump": 60, "throw": 60}  # common practice
OTHER_REST_S = 60
PAIR_SHARE = 0.5  # [J] in a pair half of each rest is spent on the partner exercise


def rest_s(prescription: Prescription, exercise: Exercise) -> int:
    """Return the rest between sets in s: as written, else the visible default for the kind of exercise."""
    if prescription.rest_s is not None:
        return prescription.rest_s
    return DEFAULT_REST_S.get(exercise.kind, OTHER_REST_S)


def line_minutes(prescription: Prescription, exercise: Exercise, paired: bool) -> float:
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
        work += group.sets * (each * sides + TRANSITION_S)
    resting = rest_s(prescription, exercise) * max(0, prescription.total_sets - 1) * (PAIR_SHARE if paired else 1.0)
    return (work + resting) / 60


def _seconds_per_rep(tempo: str | None, exercise: Exercise) -> float:
    if not tempo:
        return exercise.seconds_per_rep
    return max(1.0, sum(1.0 if part == "X" else float(part) for part in tempo.split("-")))


WARM_UP_MINUTES = 10.0  # [J] general warm-up and mobility before anything on the sheet
RAMP_SET_MINUTES = 1.2  # [J] one warm-up set of a main lift, plates included


def warm_up_minutes(ramp_sets: int) -> float:
    """Return the minutes before the first work set: general warm-up and the ramps of the main lifts."""
    return WARM_UP_MINUTES + RAMP_SET_MINUTES * ramp_sets
