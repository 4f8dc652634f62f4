"""A table of athletes is taken in: new ones are added, known ones filled in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, NamedTuple

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, BodyMass, Squad
from jarvok.app.facts.people.models import Via


class Taken(NamedTuple):
    """The athletes that were added, and how many were there already."""

    new: tuple[Athlete, ...]
    changed: int


def run(who: Who, rows: Sequence[dict[str, Any]], squad: str) -> Taken:
    """Take the rows in, all or none; `squad` is theirs where they name none."""
    new: list[Athlete] = []
    with acting(replace(who, via=Via.IMPORT), "import_athletes", f"{len(rows)} athletes taken in"):
        for row in rows:
            new += _take(dict(row), squad)
    return Taken(tuple(new), len(rows) - len(new))


def _take(values: dict[str, Any], squad_name: str) -> list[Athlete]:
    """Add an athlete, or fill in one of the same name and squad; return who is new."""
    name, sport = values.pop("name"), values.pop("sport", "")
    squad_name, mass_kg = values.pop("squad", "") or squad_name, values.pop("mass_kg", None)
    squad = Squad.objects.filter(name__iexact=squad_name).first() or Squad.objects.create(name=squad_name, sport=sport or "other")
    athlete = Athlete.objects.filter(squad=squad, name__iexact=name).first()
    found = athlete
    athlete = athlete or Athlete(squad=squad, name=name)
    for key, value in values.items():
        setattr(athlete, key, value)
    athlete.save()
    if mass_kg is not None:
        BodyMass.objects.update_or_create(athlete=athlete, day=clock.today(), defaults={"mass_kg": mass_kg})
    return [athlete] if found is None else []
