"""Another exercise takes the place of a line that pain has ended."""

from __future__ import annotations

from typing import Any

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.floor.models import SessionLine, SetKind, TrainingSession
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import FloorLine, floor_lines, read_session
from jarvok.app.floor.pains import felt_in
from jarvok.app.problems import Conflict
from jarvok.app.training.planned_weeks import limits_of
from jarvok.core.errors import CoachError
from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.pain import area_words, instead, instead_text, loads
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import told_from
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.duration import rest_s
from jarvok.core.session.roles import BlockRole


def choices(session: TrainingSession, lines: list[FloorLine], line: FloorLine) -> tuple[str, ...]:
    """What may stand in for a line that pain has ended, the closest first; nothing where something does already."""
    if not line.pain or line.line.role == BlockRole.PREPARE or _is_replaced(lines, line) or not _left(line):
        return ()
    areas = [f.area for f in felt_in(session, [x.line.pk for x in lines]) if not f.carried_on]
    here = {x.line.exercise_id for x in lines}
    lift = exercise(line.line.exercise_id)
    return tuple(e for e in instead(lift, areas, limits_of(session.athlete, session.day)) if e not in here)


def _is_replaced(lines: list[FloorLine], line: FloorLine) -> bool:
    return any(x.line.stands_in_for_id == line.line.pk for x in lines)


def _left(line: FloorLine) -> int:
    return sum(1 for s in line.sets if s.kind == SetKind.WORK and s.record is None)


def run(who: Who, session: TrainingSession, line_id: int, exercise_id: str) -> None:
    """Put an exercise that does not load what hurts in the place of an ended line, for the sets that are left, by feel."""
    with acting(who, "stand_in", "another exercise in its place", athlete=session.athlete) as act:
        check_open(session)
        session = read_session(session.pk)
        lines = floor_lines(session)
        at = next((i for i, x in enumerate(lines) if x.line.pk == line_id), None)
        if at is None:
            raise CoachError("This line is not in the session.", where="line_id")
        old = lines[at]
        if _is_replaced(lines, old):
            raise Conflict(f"{old.line.slot} is replaced already.")
        allowed, lift = choices(session, lines, old), exercise(exercise_id)
        if lift.id not in allowed:
            areas = [f.area for f in felt_in(session, [x.line.pk for x in lines]) if loads(f.area, lift)]
            why = f"it loads: {', '.join(area_words(a) for a in areas)}" if areas else "it is none of those that fit here"
            names = "; ".join(exercise(e).name for e in allowed) or "nothing: pain has not ended this line"
            raise CoachError(f"{lift.name} cannot take its place: {why}.", where="exercise_id", accepted=f"{names}.")
        act.words = f"{lift.name} in place of {exercise(old.line.exercise_id).name.lower()}"
        _add(session, lines, at, lift.id)
        tell(session, "changed", {"line_id": line_id})


def _add(session: TrainingSession, lines: list[FloorLine], at: int, exercise_id: str) -> None:
    old, lift, left = lines[at], exercise(exercise_id), _left(lines[at])
    written = parse(instead_text(lift, left))
    book = LiftBook([session.athlete], clock.today())
    state = book.state(session.athlete_id, lift.id)
    new = SessionLine.objects.create(
        session=session,
        order=len(lines),
        slot=f"{old.line.slot[:3]}b",
        block=old.line.block,
        exercise_id=lift.id,
        text=write(written),
        reason=f"in place of {exercise(old.line.exercise_id).name.lower()}: pain, {old.pain}",
        is_main=False,
        role=BlockRole.SMALL,
        planned=[ToldSet.of(s).to_raw() for s in resolve(written, state)],
        rest_s=rest_s(written, lift, book.rules),
        stands_in_for=old.line,
    )
    session.told = _with_its_steps(session, at, new.order, old)
    session.save(update_fields=["told"])


def _with_its_steps(session: TrainingSession, at: int, new: int, old: FloorLine) -> dict[str, Any]:
    """The steps with one more behind each set that is left of the old line; those stay, should the pain be taken back."""
    left = {s.number for s in old.sets if s.kind == SetKind.WORK and s.record is None}
    steps: list[dict[str, Any]] = []
    number = 0
    for step in told_from(session.told):
        steps.append(step.to_raw())
        for place in step.sets:
            if place.line == at and not place.warms_up and place.number in left:
                number += 1
                own: dict[str, Any] = {
                    "id": f"{step.id}.b",
                    "sets": [list(StepSet(new, False, number))],
                    "minis": [[]],
                    "clock": None,
                    "every_s": None,
                }
                steps.append({**step.to_raw(), **own, "grouping": "straight", "round": number, "rounds": len(left)})
    return {**session.told, "steps": steps}
