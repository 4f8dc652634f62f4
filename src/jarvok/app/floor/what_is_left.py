"""What a running session still holds: minutes, what may be left out, a light task, whether to stop after the main work."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.app import clock
from jarvok.app.facts.floor.models import SetKind, TrainingSession
from jarvok.app.floor.lines import FloorLine, FloorSet, rest_now_s, set_at
from jarvok.app.floor.pains import felt_in
from jarvok.core.floor.left import Left, LineLeft, asks_to_stop, left_of, may_still_add, seconds_of
from jarvok.core.floor.light_tasks import light_task
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.library.exercises import exercise
from jarvok.core.rules import Rules

USUAL_MINUTES = 60  # [J]
LONGEST_MINUTES = 240  # [T] a clock that ran longer was forgotten


def minutes_gone(session: TrainingSession) -> int:
    """The minutes since a session began, to its end where it has one; 60 where nobody ended it the same day."""
    gone = ((session.finished_at or clock.now()) - session.started_at).total_seconds() / 60
    return round(gone) if 0 <= gone <= LONGEST_MINUTES else USUAL_MINUTES


def is_left(item: FloorSet) -> bool:
    """Whether a set is neither done nor passed over."""
    return item.record is None and not item.over


def steps_left(steps: tuple[ToldStep, ...], lines: list[FloorLine]) -> list[ToldStep]:
    """The steps that still come up: no set of an ended line, no warm-up of a line whose work has begun."""
    worked = {at for at, line in enumerate(lines) if any(s.kind == SetKind.WORK and s.record is not None for s in line.sets)}
    found: list[ToldStep] = []
    for step in steps:
        items = [(p, set_at(lines, p)) for p in step.sets if not lines[p.line].ended]
        if any(item is not None and is_left(item) and not (p.warms_up and p.line in worked) for p, item in items):
            found.append(step)
    return found


def seconds_left(steps: tuple[ToldStep, ...], lines: list[FloorLine], rules: Rules) -> float:
    """The seconds that a session still takes."""
    return seconds_of(steps_left(steps, lines), rules)


@dataclass(frozen=True)
class StillThere:
    """What a session still holds, and what is said beside it."""

    left: Left
    light_task: str
    asks_to_stop: bool
    goes_on: GoesOn | None


@dataclass(frozen=True)
class GoesOn:
    """A line whose least sets are done and that may go on, in words."""

    line_id: int
    words: str


def _goes_on(lines: list[FloorLine]) -> GoesOn | None:
    """The line of the newest work set, where it is written with a range of sets and none is left of the least."""
    newest = max(
        (s.record for x in lines for s in x.sets if s.record and s.kind == SetKind.WORK), key=lambda r: r.pk, default=None
    )
    line = next((x for x in lines if newest is not None and x.line.pk == newest.line_id), None)
    if (
        newest is None
        or line is None
        or newest.trouble
        or line.pain
        or any(is_left(s) for s in line.sets if s.kind == SetKind.WORK)
    ):
        return None
    done = sum(1 for s in line.sets if s.kind == SetKind.WORK and s.record)
    most = may_still_add(line.line.text, done)
    if most is None:
        return None
    return GoesOn(line.line.pk, f"{exercise(line.line.exercise_id).name}: {done} done, up to {most} are written.")


def still_there(
    session: TrainingSession,
    lines: list[FloorLine],
    steps: tuple[ToldStep, ...],
    coming: tuple[FloorLine, FloorSet] | None,
    minutes_there: float,
    rules: Rules,
) -> StillThere:
    """Return what is left of a session that runs."""
    to_come = steps_left(steps, lines)
    rows: list[LineLeft] = []
    for at, line in enumerate(lines):
        mine = [s for s in to_come if s.sets[0].line == at]
        if mine:
            begun = any(s.record is not None for s in line.sets)
            name = f"{line.line.slot} {exercise(line.line.exercise_id).name}"
            rows.append(LineLeft(name, line.line.role, begun, seconds_of(mine, rules)))
    sets = sum(1 for x in lines if not x.ended for s in x.sets if s.kind == SetKind.WORK and is_left(s))
    gone = (clock.now() - session.started_at).total_seconds() / 60
    hour = minutes_there - gone if 0 <= gone <= minutes_there else None
    done = {at for at, x in enumerate(lines) if not any(is_left(s) for s in x.sets if s.kind == SetKind.WORK)}
    begun_at = {at for at, x in enumerate(lines) if any(s.record for s in x.sets if s.kind == SetKind.WORK)}
    ended = {at for at, x in enumerate(lines) if x.ended}
    task = ""
    if coming is not None:
        areas = [f.area for f in felt_in(session, [x.line.pk for x in lines])]
        here = {x.line.exercise_id for x in lines}
        lift = exercise(coming[0].line.exercise_id)
        if coming[1].kind == SetKind.WORK and coming[1].number > 1:
            task = light_task(lift, rest_now_s(steps, lines, coming), areas, here, coming[1].number)
    roles = [x.line.role for x in lines]
    asks = coming is not None and asks_to_stop(roles, done, ended, begun_at)
    return StillThere(left_of(rows, sets, hour), task, asks, _goes_on(lines))
