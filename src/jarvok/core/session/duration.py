"""Does it fit the hour: minutes of a line and of a block."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.exercises import Exercise
from jarvok.core.loading.prescription import Prescription
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.session.blocks import BlockStyle, Grouping

METRES_PER_S = 1.0  # [J] loaded carries
REST_RULE = {"strength": "power", "ballistic": "power", "classic": "power", "jump": "jump", "throw": "jump"}


def rest_s(prescription: Prescription, exercise: Exercise, rules: Rules = DEFAULT_RULES) -> int:
    """Return the rest between sets in s: as written, else the visible default for the kind of exercise."""
    if prescription.rest_s is not None:
        return prescription.rest_s
    return int(rules[f"session.rest_{REST_RULE.get(exercise.kind, 'other')}_s"])


def line_minutes(
    prescription: Prescription, exercise: Exercise, paired: bool, rules: Rules = DEFAULT_RULES, *, rests: bool = True
) -> float:
    """Return the minutes a line takes: repetitions by tempo or typical seconds, transitions, and its share of rest.

    Without `rests` the work alone: the block counts the rests.
    """
    if prescription.every_s is not None:
        return prescription.every_s * prescription.total_sets / 60
    work = 0.0
    for group in prescription.groups:
        sides = group.sides
        if group.seconds is not None:
            each = float(group.seconds)
        elif group.metres is not None:
            each = group.metres / METRES_PER_S
        else:
            each = (group.reps or 1) * _seconds_per_rep(prescription.tempo, exercise)
        work += group.sets * (each * sides + rules["session.transition_s"])
    if not rests:
        return work / 60
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


def block_minutes(
    style: BlockStyle, lines: Sequence[tuple[Prescription, Exercise]], rules: Rules = DEFAULT_RULES
) -> tuple[float, ...]:
    """Return the minutes of each line of a block, from how it is grouped.

    Timed blocks take the minutes they say, shared by their lines; a clock counts exactly; lines done in turn share their
    rests; a metronome gives the seconds of each repetition.
    """
    count = max(1, len(lines))
    match style.grouping:
        case Grouping.AMRAP | Grouping.WARM_UP if style.minutes:
            return tuple(style.minutes / count for _ in lines)
        case Grouping.EVERY | Grouping.UNTIL_MISS if style.every_s:
            rounds = max((p.total_sets for p, _ in lines), default=0)
            return tuple(rounds * style.every_s / 60 / count for _ in lines)
        case Grouping.METRONOME if style.bpm:
            beat_s = style.beats * 60 / style.bpm
            return tuple(_metronome_minutes(p, e, beat_s, rules) for p, e in lines)
    if not style.is_shared or count < 2:
        return tuple(line_minutes(p, e, False, rules) for p, e in lines)
    if style.rest_inside_s is None and style.rest_between_s is None:
        return tuple(line_minutes(p, e, True, rules) for p, e in lines)
    rounds = max(p.total_sets for p, _ in lines)
    resting = rounds * (count - 1) * (style.rest_inside_s or 0) + max(0, rounds - 1) * (style.rest_between_s or 0)
    return tuple(line_minutes(p, e, False, rules, rests=False) + resting / 60 / count for p, e in lines)


def _metronome_minutes(line: Prescription, exercise: Exercise, beat_s: float, rules: Rules) -> float:
    reps = line.all_reps
    resting = rest_s(line, exercise, rules) * max(0, line.total_sets - 1)
    return (reps * beat_s + line.total_sets * rules["session.transition_s"] + resting) / 60
