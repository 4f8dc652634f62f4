"""A device's table is kept in an athlete's record."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.room.models import DeviceColumns
from jarvok.app.room.device_files import preview
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.days import said_day


def run(
    who: Who,
    athlete: Athlete,
    exercise_id: str,
    device: str,
    text: str,
    mapping: Mapping[str, str],
    units: Mapping[str, str],
    day: date | None,
) -> int:
    """Keep the fastest repetition of each load and day as a measured set, and the device's columns. Returns how many."""
    with acting(who, "take_table", f"table of {device.strip() or 'a device'}", athlete=athlete) as act:
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
                raise CoachError(
                    f"{said_day(on, year=True, is_long=True)} is still to come.",
                    where="day",
                    accepted="Today or an earlier day is accepted.",
                )
            best[on, rep.load_kg] = max(speed, best.get((on, rep.load_kg), 0.0))
        MarkRecord.objects.bulk_create(
            MarkRecord(
                act=act,
                athlete=athlete, exercise_id=lift.id, kind=MarkKind.SET_VELOCITY, day=on, load_kg=load, reps=1,
                measures={"velocity_mps": speed}, note=f"from {device.strip() or 'a device'}"[:200],
            )
            for (on, load), speed in sorted(best.items())
        )  # fmt: skip
        return len(best)
