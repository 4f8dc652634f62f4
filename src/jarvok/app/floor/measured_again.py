"""What was measured of a set changes after the set was logged: what was worked out of it is worked out anew."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from jarvok.app import clock
from jarvok.app.facts.floor.models import AdviceRecord, SetKind, SetRecord, TrainingSession
from jarvok.app.floor.advising import after_warm_up, after_work_set
from jarvok.app.floor.at_hand import read_anew
from jarvok.app.floor.done_sets import device_velocity, line_and_set
from jarvok.app.floor.lines import FloorSet

Place = tuple[int, str, int]  # line, kind, number of a set
BY_A_PERSON = ("accepted", "overridden")


@contextmanager
def measuring(session: TrainingSession, *places: Place) -> Iterator[None]:
    """Change what was measured of some sets; what is kept with them and what was said after them follows.

    What a person has answered stands, and so does what was said before the newest set of a line.
    """
    before = {place: line_and_set(session, *place) for place in places}
    yield
    changed = []
    for place, (line, was) in before.items():
        _, now = line_and_set(session, *place)
        if _counted(was) == _counted(now):
            continue
        _keep_device_velocity(now, device_velocity(line, was), device_velocity(line, now))
        changed.append(line.pk)
    if session.finished_at is None:
        for line_id in dict.fromkeys(changed):
            _say_again(session, line_id)


def _counted(item: FloorSet) -> tuple[object, ...]:
    return item.reps, item.jumps, item.splits, item.device_mps


def _keep_device_velocity(item: FloorSet, was: dict[str, float], now: dict[str, float]) -> None:
    """The velocity kept with a set is the device's where it was so before; one that was typed stays."""
    record = item.record
    if record is None or now == was or record.measures.get("velocity_mps") != was.get("velocity_mps"):
        return
    record.measures = {k: v for k, v in record.measures.items() if k != "velocity_mps"} | now
    record.save(update_fields=["measures"])


def _say_again(session: TrainingSession, line_id: int) -> None:
    """What was said after the newest set of a line, said anew: it hangs on the sets before it too."""
    done = SetRecord.objects.filter(line_id=line_id, taken_back_at__isnull=True).order_by("pk").last()
    if done is None:
        return
    after = done.number if done.kind == SetKind.WORK else 0
    said = AdviceRecord.objects.filter(line_id=line_id, after_number=after, taken_back_at__isnull=True)
    if said.filter(outcome__in=BY_A_PERSON).exists():
        return
    said.update(taken_back_at=clock.now())
    held = read_anew(session.pk)
    line = held.line(line_id)
    assert line is not None
    if done.kind == SetKind.WORK:
        after_work_set(held, line, done.number)
    elif done.number == len(line.ramp):
        after_warm_up(held, line)
