"""Where to begin and how far to step so that the miss comes in the wanted round of a lift done until it is missed."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.equations import MOST_REPS
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.state import LiftState
from jarvok.core.quantities.mass import format_mass, said_mass
from jarvok.core.quantities.plates import build, unit_of
from jarvok.core.working import Input, Source, Working

BEGIN_SHARE = 0.65  # [J] of what can be lifted for the repetitions: light enough to find the positions
LOW_SHARE, HIGH_SHARE = 0.45, 0.85  # [J] outside it the first rounds are no work, or the first is hard already
FEWEST_ROUNDS, MOST_ROUNDS = 3, 20  # [J]
NO_LIFTS = ("run", "jump", "drill")
MOST_STEPS = 8  # [T] multiples of the smallest step that are looked at
CAUTION = "For lifters who have missed before: safeties set, room behind. The first miss or ugly repetition ends it."
SOURCE = Source("J", "first load near two thirds of the limit, Jarvok's default")


@dataclass(frozen=True)
class UntilMiss:
    """A first load and a step in kg, the round in which the miss is expected, the line as it is written, and the working."""

    start_kg: float
    step_kg: float
    round: int
    text: str
    working: Working


def can_miss(lift: Exercise) -> bool:
    """Whether a lift can be done until it is missed: a load is raised from round to round."""
    return lift.is_loaded and lift.kind not in NO_LIFTS


def until_miss(state: LiftState, reps: int, rounds: int, every_s: int) -> UntilMiss:
    """Return the line whose load first passes what the athlete can lift for `reps` in the wanted round.

    `every_s` are the seconds between rounds. Raises `CoachError` without a max, without a bar, or for rounds that cannot be.
    """
    implement = state.implement or implement_for(state.exercise)
    if state.max_kg is None or implement is None:
        raise CoachError("A max in this lift is wanted.", where="rounds", accepted="Add or test one first, or type the load.")
    if not FEWEST_ROUNDS <= rounds <= MOST_ROUNDS:
        accepted = f"{FEWEST_ROUNDS} to {MOST_ROUNDS} rounds are accepted."
        raise CoachError(f"A miss in round {rounds} cannot be planned.", where="rounds", accepted=accepted)
    if not 1 <= reps <= MOST_REPS:
        raise CoachError(f"{reps} repetitions say too little.", where="rounds", accepted=f"1 to {MOST_REPS}.")
    limit_kg = state.equation.load_kg(state.max_kg, reps)
    last = build(limit_kg, implement, cap_kg=limit_kg)  # the heaviest that goes: lifted in the round before
    smallest = round((last.above_kg or last.load_kg) - last.load_kg, 3)
    if smallest <= 0:
        raise CoachError("Nothing heavier can be loaded here.", where="rounds", accepted="More plates, or another lift.")
    best: tuple[float, float, float] | None = None
    for n in range(1, MOST_STEPS + 1):
        start = last.load_kg - n * smallest * (rounds - 2)
        off = abs(start / limit_kg - BEGIN_SHARE)
        if LOW_SHARE <= start / limit_kg <= HIGH_SHARE and (best is None or off < best[0]):
            best = off, start, n * smallest
    if best is None:
        raise CoachError(
            f"No step that can be loaded gives a miss in round {rounds}.", where="rounds", accepted="More or fewer rounds."
        )
    _, start, step = best
    unit = unit_of(implement)
    text = (
        f"{rounds} × {reps} @ {format_mass(start, unit)} {unit} + {format_mass(step, unit)} {unit}, "
        f"every {every_s // 60}:{every_s % 60:02d}, until you miss"
    )
    inputs = (*state.max_inputs, Input(f"limit for {reps}", said_mass(limit_kg, unit)))
    rule = f"round {rounds - 1} is the last that goes, {said_mass(start + step * (rounds - 2), unit)}; steps that can be loaded"
    working = Working(f"{said_mass(start, unit)}, + {said_mass(step, unit)}", rule, SOURCE, inputs, caution=CAUTION)
    return UntilMiss(start, step, rounds, text, working)
