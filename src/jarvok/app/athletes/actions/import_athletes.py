"""A table of athletes is taken in: new ones are added, known ones filled in, results of their lifts kept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

from django.db import transaction

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_mark
from jarvok.app.athletes.typed_marks import TypedMark
from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord, Squad
from jarvok.app.facts.people.models import Via
from jarvok.app.problems import NeedsConfirmation
from jarvok.core.errors import CoachError
from jarvok.core.interchange.athletes import LiftResult, Row


class Taken(NamedTuple):
    """The athletes that were added, how many were there already, and how many results were kept."""

    new: tuple[Athlete, ...]
    changed: int
    results: int


def run(who: Who, rows: Sequence[Row], squad: str) -> Taken:
    """Take the rows in, all or none; `squad` is theirs where they name none. Raises `CoachError` for a result that cannot be."""
    who, new, results = replace(who, via=Via.IMPORT), list[Athlete](), 0
    with acting(who, "import_athletes", f"{len(rows)} athletes taken in"):
        for row in rows:
            athlete, is_new = _take(row, squad)
            new += [athlete] if is_new else []
            results += sum(_keep(who, athlete, row, r, is_new=is_new) for r in row.results)
    return Taken(tuple(new), len(rows) - len(new), results)


def tried(who: Who, row: Row, squad: str) -> tuple[str, ...]:
    """What would be wrong with the results of a row, found by taking it in and taking that back."""
    problems: list[str] = []
    with transaction.atomic():
        athlete, is_new = _take(row, squad)
        for result in row.results:
            try:
                _keep(replace(who, via=Via.IMPORT), athlete, row, result, is_new=is_new)
            except NeedsConfirmation as problem:
                problems.append(f"{problem.message} If it is right, add it on the athlete's own page.")
            except CoachError as problem:
                problems.append(f"{problem.message} {problem.accepted}".strip())
        transaction.set_rollback(True)
    return tuple(problems)


def _take(row: Row, squad_name: str) -> tuple[Athlete, bool]:
    """Add an athlete, or fill in one of the same name and squad; return them, and whether they are new."""
    values = dict(row.values)
    values.pop("tested_on", None)
    name, sport = values.pop("name"), values.pop("sport", "")
    squad_name, mass_kg = values.pop("squad", "") or squad_name, values.pop("mass_kg", None)
    squad = Squad.objects.filter(name__iexact=squad_name).first() or Squad.objects.create(name=squad_name, sport=sport or "other")
    found = Athlete.objects.filter(squad=squad, name__iexact=name).first()
    athlete = found or Athlete(squad=squad, name=name)
    for key, value in values.items():
        setattr(athlete, key, value)
    athlete.save()
    if mass_kg is not None:
        BodyMass.objects.update_or_create(athlete=athlete, day=clock.today(), defaults={"mass_kg": mass_kg})
    return athlete, found is None


def _keep(who: Who, athlete: Athlete, row: Row, result: LiftResult, *, is_new: bool) -> bool:
    """Keep a result, unless the same stands there already; whether it was kept."""
    typed, day = result.typed, row.values.get("tested_on") or clock.today()
    same = MarkRecord.objects.filter(
        athlete=athlete, exercise_id=result.exercise_id, kind=typed.kind, day=day, reps=typed.reps, withdrawn_at__isnull=True
    )
    if any(abs(m.load_kg - typed.load_kg) < SAME_KG for m in same):
        return False
    mark = TypedMark(
        result.exercise_id, typed.kind, day, load_kg=typed.load_kg, reps=typed.reps, unit=typed.unit, note="from a table",
        confirm=is_new,
    )  # fmt: skip
    add_mark.run(who, athlete, mark)
    return True


SAME_KG = 0.01  # [T] nearer than this two loads are one
