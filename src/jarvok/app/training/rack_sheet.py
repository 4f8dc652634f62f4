"""The rack sheet of a session: who lifts at which rack in which order, and what changes on the bar from one to the next."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from math import ceil

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Gathering
from jarvok.app.training.sheets import Sheet, SheetLine
from jarvok.core.errors import CoachError
from jarvok.core.floor.racks import MOST_LIFTERS, MOST_RACKS, Lifter, Turn, place, turns_of
from jarvok.core.floor.step_words import loads_words
from jarvok.core.library.exercises import exercise

USUAL_AT_A_RACK = 4  # [J] lifters who share a bar where nobody said how many racks there are


@dataclass(frozen=True)
class LiftAtRacks:
    """A line of the session that is lifted with a barbell: its slot and exercise, and the turns at each rack that is used.

    Turns go by the first set; `loads` are all sets in a few characters, `sets` their number, by athlete; `unit` is the plates'.
    """

    slot: str
    exercise_id: str
    text: str
    racks: tuple[tuple[Turn, ...], ...]
    sets: Mapping[int, int]
    loads: Mapping[int, str]
    unit: str
    line: SheetLine


def racks_of(squad_id: int, day: date, athletes: int) -> int:
    """Return how many racks are used: as on the day, else as last time, else four at a rack."""
    last = Gathering.objects.filter(squad_id=squad_id, day__lte=day).order_by("-day", "-id").first()
    return last.racks if last is not None else min(MOST_RACKS, max(1, ceil(athletes / USUAL_AT_A_RACK)))


def rack_sheet(own: Sheet, people: Sequence[tuple[Athlete, Sheet]], racks: int) -> tuple[LiftAtRacks, ...]:
    """Return the barbell lines of a session with everybody who has a load in them, lightest first at each rack.

    Raises `CoachError` for a number of racks or athletes that cannot be.
    """
    if len(people) > MOST_LIFTERS:
        raise CoachError(f"{len(people)} are too many at once.", where="athletes", accepted=f"Up to {MOST_LIFTERS} are accepted.")
    found: list[LiftAtRacks] = []
    for line in own.lines:
        lift = exercise(line.planned.exercise_id)
        if lift.implement != "barbell":
            continue
        having = [(a, x) for a, sheet in people if (x := _same(sheet, line)) is not None]
        having = [(a, x) for a, x in having if any(s.load_kg is not None for s in x.sets)]
        if not having:
            continue
        groups = place([_lifter(a, x) for a, x in having], racks)
        found.append(
            LiftAtRacks(
                line.planned.slot,
                lift.id,
                line.text,
                tuple(turns_of(g) for g in groups if g),
                {a.pk: len(x.sets) for a, x in having},
                {a.pk: loads_words(x.told) for a, x in having},
                having[0][1].sets[0].unit,
                line,
            )
        )
    return tuple(found)


def _same(sheet: Sheet, line: SheetLine) -> SheetLine | None:
    wanted = (line.planned.slot, line.planned.exercise_id)
    return next((x for x in sheet.lines if (x.planned.slot, x.planned.exercise_id) == wanted), None)


def _lifter(athlete: Athlete, line: SheetLine) -> Lifter:
    first = next(s for s in line.sets if s.load_kg is not None)
    return Lifter(athlete.pk, athlete.name, first.load_kg or 0.0, first.per_side_kg, athlete.height_cm)
