"""A line as the exercise that stands on it takes it: sides, holds, and loads that belong to it."""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.exercises import Exercise
from jarvok.core.loading.methods.reserve import Reserve
from jarvok.core.loading.prescription import Prescription, SetGroup

FEWEST_BY_FEEL = 6  # [J] repetitions where a heavy barbell line falls to dumbbells or the own body
SHORTEST_HOLD_S, USUAL_HOLD_S = 10, 20  # [J]
USUAL_REPS, MOST_SMALL_SETS = 8, 4  # [C] of a line without load, and of small work


def fitted(prescription: Prescription, lift: Exercise, wanted: Exercise | None = None) -> Prescription:
    """Return a line as the chosen exercise takes it: sides, holds, and loads that do not belong to it are settled."""
    groups = tuple(_fitted(group, lift, wanted) for group in prescription.groups)
    unchanged = all(new is old for new, old in zip(groups, prescription.groups, strict=True))
    return prescription if unchanged else replace(prescription, groups=groups)


def _fitted(group: SetGroup, lift: Exercise, wanted: Exercise | None) -> SetGroup:
    sides = lift.per_side
    if lift.kind == "hold" and group.seconds is None:
        seconds = int(lift.seconds_per_rep) if lift.seconds_per_rep >= SHORTEST_HOLD_S else USUAL_HOLD_S
        return SetGroup(group.sets, seconds=seconds, per_side=sides)
    if group.seconds is not None or group.metres is not None:
        return _sided(group, sides)
    if not lift.is_loaded:
        reps = group.reps or USUAL_REPS
        strong = lift.kind not in ("jump", "throw", "run", "ballistic")
        return SetGroup(group.sets, reps=max(USUAL_REPS, reps) if strong and group.load is not None else reps, per_side=sides)
    changed = wanted is not None and wanted.implement == "barbell" and lift.implement != "barbell"
    if changed or (lift.kind == "accessory" and group.load is not None and not isinstance(group.load, Reserve)):
        reps = max(FEWEST_BY_FEEL, group.reps or FEWEST_BY_FEEL)
        return SetGroup(min(group.sets, MOST_SMALL_SETS), reps=reps, per_side=sides, load=Reserve(2))
    return _sided(group, sides)


def _sided(group: SetGroup, sides: bool) -> SetGroup:
    return group if group.per_side == sides else replace(group, per_side=sides)
