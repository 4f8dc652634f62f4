"""Another exercise in the place of a line: what may come, and how it is put there with its sets, warm-ups and steps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.floor.models import SessionLine, SetKind, TrainingSession
from jarvok.app.floor.lines import FloorLine, told_steps
from jarvok.app.floor.pains import felt_in
from jarvok.app.training.planned_weeks import limits_of
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.pain import instead, instead_text
from jarvok.core.floor.swapped import same_again
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.library.substitutes import nearest
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.ramp import RampedLine, RampSet, session_ramps
from jarvok.core.loading.resolve import ResolvedSet, resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.duration import rest_s
from jarvok.core.session.roles import BlockRole

MOST_SWAPS = 8  # [T] a list that is read at the rack


@dataclass(frozen=True)
class Put:
    """What is put in the place of a line: the exercise, its sets, why, as what, and whether it warms up."""

    lift: Exercise
    written: Prescription
    sets: Sequence[ResolvedSet]
    reason: str
    role: str
    is_main: bool = False
    ramp: Sequence[RampSet] = ()


def choices(session: TrainingSession, lines: list[FloorLine], line: FloorLine) -> tuple[str, ...]:
    """What may stand in for a line that pain has ended, the closest first; nothing where something does already."""
    if not line.pain or line.line.role == BlockRole.PREPARE or is_replaced(lines, line) or not left_of(line):
        return ()
    areas = [f.area for f in felt_in(session, [x.line.pk for x in lines]) if not f.carried_on]
    here = {x.line.exercise_id for x in lines}
    lift = exercise(line.line.exercise_id)
    return tuple(e for e in instead(lift, areas, limits_of(session.athlete, session.day)) if e not in here)


def swaps(session: TrainingSession, lines: list[FloorLine], line: FloorLine) -> tuple[tuple[str, str], ...]:
    """What may be done in place of a line for want of the bar or the kit, the closest first, with why; nothing that hurts."""
    if line.ended or not left_of(line) or _is_on_one_bar(session, line):
        return ()
    areas = [f.area for f in felt_in(session, [x.line.pk for x in lines]) if not f.carried_on]
    here = {x.line.exercise_id for x in lines}
    limits = limits_of(session.athlete, session.day)
    free = instead(exercise(line.line.exercise_id), areas, limits) if areas else None
    found = [s for s in nearest(line.line.exercise_id, limits) if s.exercise_id not in here]
    return tuple((s.exercise_id, s.reason) for s in found if free is None or s.exercise_id in free)[:MOST_SWAPS]


def _is_on_one_bar(session: TrainingSession, line: FloorLine) -> bool:
    """Whether a line is lifted with others as one bar: one of them cannot be something else."""
    return any(step.is_one_bar and step.is_one_tap for step in told_steps(session) if line.line.order in _lines_of(step))


def _lines_of(step: ToldStep) -> set[int]:
    return {s.line for s in step.sets}


def is_replaced(lines: list[FloorLine], line: FloorLine) -> bool:
    """Whether something stands in for a line already."""
    return any(x.line.stands_in_for_id == line.line.pk and not x.is_void for x in lines)


def left_of(line: FloorLine) -> list[int]:
    """The work sets of a line, as told, that are neither done nor passed over."""
    told = [s for s in line.sets if s.kind == SetKind.WORK and not s.is_added]
    return [s.number for s in told if s.record is None and not s.is_skipped]


def by_feel(session: TrainingSession, old: FloorLine, lift: Exercise) -> Put:
    """A replacement after pain: few repetitions by feel, far from failure."""
    written = parse(instead_text(lift, len(left_of(old))))
    state = LiftBook([session.athlete], clock.today()).state(session.athlete_id, lift.id)
    reason = f"in place of {exercise(old.line.exercise_id).name.lower()}: pain, {old.pain}"
    return Put(lift, written, resolve(written, state), reason, BlockRole.SMALL)


def as_told(session: TrainingSession, old: FloorLine, lift: Exercise) -> Put:
    """A replacement for want of the bar, the kit or the like: the same sets and repetitions, its own load, its own warm-up."""
    state = LiftBook([session.athlete], clock.today()).state(session.athlete_id, lift.id)
    left = left_of(old)
    try:
        written = same_again(parse(old.line.text), exercise(old.line.exercise_id), lift, len(left), state.max_kg)
    except CoachError:  # lines told long ago may be written in words of their own
        written = parse(instead_text(lift, len(left)))
    sets = resolve(written, state)
    if len(sets) > len(left):
        sets = tuple(s for s in sets if s.set_index + 1 in left)
    untouched = not any(s.record is not None for s in old.sets if s.kind == SetKind.WORK)
    ramp: Sequence[RampSet] = ()
    if old.line.is_main and untouched and sets:
        implement = implement_for(lift, kit_of(session.athlete.kit))
        first = next((s.load_kg for s in sets if s.load_kg), None)
        ramp = session_ramps([RampedLine("R", lift, implement, first, sets[0].reps or 3)]).get("R", ())
    reason = f"in place of {exercise(old.line.exercise_id).name.lower()}"
    return Put(lift, written, sets, reason, old.line.role, old.line.is_main, ramp)


def put(session: TrainingSession, lines: list[FloorLine], at: int, new: Put) -> SessionLine:
    """Put an exercise in the place of a line, for the sets that are left of it."""
    old = lines[at]
    rules = LiftBook([session.athlete], clock.today()).rules
    taken = sum(1 for x in lines if x.line.slot.startswith(old.line.slot[:3]) and x.line.stands_in_for_id is not None)
    stop_pct = rules["velocity.stop_loss_pct"]
    line = SessionLine.objects.create(
        session=session,
        order=len(lines),
        slot=f"{old.line.slot[:3]}{'bcdefghij'[min(taken, 8)]}",
        block=old.line.block,
        exercise_id=new.lift.id,
        text=write(new.written),
        reason=new.reason,
        is_main=new.is_main,
        role=new.role,
        ramp=[ToldSet.of_ramp(r, stop_pct).to_raw() for r in new.ramp],
        planned=[ToldSet.of(s).to_raw() for s in new.sets],
        rest_s=rest_s(new.written, new.lift, rules),
        stands_in_for=old.line,
    )
    session.told = _with_its_steps(session, at, line, left_of(old), len(new.ramp), len(new.sets))
    session.save(update_fields=["told"])
    return line


def _with_its_steps(
    session: TrainingSession, at: int, new: SessionLine, left: Sequence[int], ramp_sets: int, work_sets: int
) -> dict[str, Any]:
    """The steps with one more behind each set that is left of the old line; those stay, should the change be taken back."""
    steps: list[dict[str, Any]] = []
    number = 0
    for step in told_steps(session):
        steps.append(step.to_raw())
        for place in step.sets:
            if place.line != at or place.warms_up or place.number not in left or number >= work_sets:
                continue
            base: dict[str, Any] = {
                **step.to_raw(), "minis": [[]], "clock": None, "every_s": None, "grouping": Grouping.STRAIGHT.value,
            }  # fmt: skip
            if number == 0:
                for warm in range(1, ramp_sets + 1):
                    own = {"id": f"{new.slot}.w{warm}", "sets": [list(StepSet(new.order, True, warm))], "rest_s": 0}
                    steps.append({**base, **own, "round": warm, "rounds": ramp_sets})
            number += 1
            own = {"id": f"{new.slot}.{number}", "sets": [list(StepSet(new.order, False, number))]}
            steps.append({**base, **own, "round": number, "rounds": work_sets})
    return {**session.told, "steps": steps}
