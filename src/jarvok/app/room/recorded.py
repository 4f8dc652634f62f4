"""Recorded bar positions and device tables, put where they belong: a set of a session, or the athlete's record."""

from __future__ import annotations

import secrets
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, MarkRecord
from jarvok.app.floor.models import Rep, SessionLine
from jarvok.app.floor.queries import floor_line
from jarvok.app.floor.writes import check_open, tell
from jarvok.app.problems import Conflict
from jarvok.app.room.models import DeviceColumns
from jarvok.core.errors import CoachError
from jarvok.core.interchange.velocity_files import RepTable, read_reps, read_trace
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.mark import MarkKind
from jarvok.core.velocity.detect import RepDetector


@dataclass(frozen=True)
class TraceTaken:
    """What a recorded trace gave: repetitions, samples a second, and what was left out."""

    reps: int
    rate_hz: float
    problems: tuple[str, ...]


@transaction.atomic
def take_trace(line: SessionLine, kind: str, number: int, text: str) -> TraceTaken:
    """Find the repetitions of a recorded bar position and keep them with a set, exactly as a live stream would give them."""
    check_open(line.session)
    item = next((s for s in floor_line(line).sets if s.kind == kind and s.number == number), None)
    motion = exercise(line.exercise_id).motion
    if item is None:
        raise CoachError(f"{line.slot} has no {kind} set {number}.", where="number")
    if motion is None:
        raise CoachError(f"A bar sensor does not measure {exercise(line.exercise_id).name.lower()}.", where="line_id")
    if item.reps:
        raise Conflict(f"Set {number} of {line.slot} has {len(item.reps)} measured repetitions already.")
    trace = read_trace(text)
    detector = RepDetector(motion, trace.rate_hz)
    found = [*detector.push(trace.samples), *detector.flush()]
    token = f"file:{secrets.token_hex(8)}"
    for rep in found:
        m = rep.metrics
        Rep.objects.create(
            line=line, kind=kind, set_number=number, number=rep.number, stream=token, start_s=rep.start_s, mean_mps=m.mean_mps,
            mean_propulsive_mps=m.mean_propulsive_mps, peak_mps=m.peak_mps, time_to_peak_s=m.time_to_peak_s, range_m=m.range_m,
            load_kg=item.record.load_kg if item.record else item.planned_load_kg,
        )  # fmt: skip
    tell(line.session, "changed", {"line_id": line.pk})
    faults = tuple(f.message for f in detector.faults[:20])
    return TraceTaken(len(found), trace.rate_hz, (*trace.problems, *faults))


def columns_of(device: str) -> DeviceColumns | None:
    """What the columns of a device meant last time."""
    return DeviceColumns.objects.filter(device=device.strip()).first()


def preview(device: str, text: str, mapping: Mapping[str, str], units: Mapping[str, str]) -> RepTable:
    """Read a device's table with the given columns, else those kept for the device, else guessed from their names."""
    kept = columns_of(device)
    if mapping:
        return read_reps(text, mapping, units)
    if kept is not None:
        try:
            return read_reps(text, kept.mapping, kept.units)
        except CoachError:
            pass  # the device writes other columns now: guess anew
    return read_reps(text, None, units)


@transaction.atomic
def take_table(
    athlete: Athlete,
    exercise_id: str,
    device: str,
    text: str,
    mapping: Mapping[str, str],
    units: Mapping[str, str],
    day: date | None,
) -> int:
    """Keep the fastest repetition of each load and day as a measured set, and the device's columns. Returns how many."""
    lift = exercise(exercise_id)
    if lift.motion is None:
        raise CoachError(f"A bar sensor does not measure {lift.name.lower()}.", where="exercise_id")
    table = preview(device, text, mapping, units)
    if table.missing or not table.reps:
        said = "; ".join((*(f"no column for {m}" for m in table.missing), *table.problems[:3])) or "no repetition"
        raise CoachError(f"Nothing could be taken: {said}.", where="mapping", accepted="Columns for load and mean velocity.")
    if device.strip():
        DeviceColumns.objects.update_or_create(
            device=device.strip()[:60], defaults={"mapping": table.guess, "units": dict(units), "changed_at": clock.now()}
        )
    best: dict[tuple[date, float], float] = {}
    for rep in table.reps:
        speed = rep.peak_mps if lift.velocity == "peak" and rep.peak_mps is not None else rep.mean_mps
        on = rep.day or day or clock.today()
        if on > clock.today():
            raise CoachError(f"{on:%-d %B %Y} is still to come.", where="day", accepted="Today or an earlier day is accepted.")
        best[on, rep.load_kg] = max(speed, best.get((on, rep.load_kg), 0.0))
    MarkRecord.objects.bulk_create(
        MarkRecord(
            athlete=athlete, exercise_id=lift.id, kind=MarkKind.SET_VELOCITY, day=on, load_kg=load, reps=1,
            measures={"velocity_mps": speed}, note=f"from {device.strip() or 'a device'}"[:200],
        )
        for (on, load), speed in sorted(best.items())
    )  # fmt: skip
    return len(best)
