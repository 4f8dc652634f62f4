"""A table of athletes is taken in: new ones are added, known ones filled in, results of their lifts kept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from typing import Any, NamedTuple

from django.db import transaction

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_mark, add_restriction
from jarvok.app.athletes.kept_known import nothing_kept
from jarvok.app.athletes.reading import restriction_tags
from jarvok.app.athletes.squads import squad_named
from jarvok.app.athletes.typed_marks import TypedMark
from jarvok.app.facts.athletes.models import Athlete, BodyMass, ImportedTable, MarkRecord, Squad
from jarvok.app.facts.people.models import Via
from jarvok.app.facts.writing import writing
from jarvok.app.problems import NeedsConfirmation
from jarvok.core.errors import CoachError
from jarvok.core.interchange.athletes import LiftResult, Row
from jarvok.core.interchange.restrictions import read_restrictions
from jarvok.core.quantities.sentence import counted


class Taken(NamedTuple):
    """The athletes that were added, how many were there already, how many results were kept, and what undo needs."""

    new: tuple[Athlete, ...]
    changed: int
    results: int
    table: ImportedTable


def run(who: Who, rows: Sequence[Row], squad: str) -> Taken:
    """Take the rows in, all or none; `squad` is theirs where they name none. Raises `CoachError` for a result that cannot be."""
    who, new, known, results = replace(who, via=Via.IMPORT), list[Athlete](), set[int](), 0
    before: dict[int, dict[str, Any]] = {}
    there = set(Squad.objects.values_list("pk", flat=True))
    with acting(who, "import_athletes", f"{counted(len(rows), 'row')} taken in"):
        for row in rows:
            athlete, is_new = _take(who, row, squad, before)
            new += [athlete] if is_new else []
            known |= set() if is_new or athlete in new else {athlete.pk}
            results += sum(_keep(who, athlete, row, r, is_new=athlete in new) for r in row.results)
        words = f"{len(new)} added, {len(known)} filled in, {counted(results, 'result')}"
        table = ImportedTable.objects.create(
            words=words,
            new=[a.pk for a in new],
            squads=sorted({a.squad_id for a in new} - there),
            before={str(k): v for k, v in before.items()},
            at=clock.now(),
        )
    return Taken(tuple(new), len(known), results, table)


def tried(who: Who, row: Row, squad: str) -> tuple[str, ...]:
    """What would be wrong with the results of a row, found by taking it in and taking that back."""
    problems: list[str] = []
    with writing(), nothing_kept():
        try:
            athlete, is_new = _take(who, row, squad, {})
        except CoachError as problem:
            transaction.set_rollback(True)
            return (f"{problem.message} {problem.accepted}".strip(),)
        for result in row.results:
            try:
                _keep(replace(who, via=Via.IMPORT), athlete, row, result, is_new=is_new)
            except NeedsConfirmation as problem:
                problems.append(f"{problem.message} If it is right, add it on the athlete's own page.")
            except CoachError as problem:
                problems.append(f"{problem.message} {problem.accepted}".strip())
        transaction.set_rollback(True)
    return tuple(problems)


def _take(who: Who, row: Row, squad_name: str, before: dict[int, dict[str, Any]]) -> tuple[Athlete, bool]:
    """Add an athlete, or fill in one of the same name and squad; return them, and whether they are new.

    What stood where something is filled in goes to `before`.
    """
    values = dict(row.values)
    day = values.pop("tested_on", None) or clock.today()
    name, sport, restriction = values.pop("name"), values.pop("sport", ""), values.pop("restriction", "")
    squad_name, mass_kg = values.pop("squad", "") or squad_name, values.pop("mass_kg", None)
    squad = squad_named(who, squad_name, sport)
    found = Athlete.objects.filter(squad=squad, name__iexact=name).first()
    athlete = found or Athlete(squad=squad, name=name)
    for key, value in values.items():
        stood = getattr(athlete, key)
        if found is not None and stood != value:
            kept = before.setdefault(found.pk, {})
            kept.setdefault(key, [_plain(stood), None])[1] = _plain(value)
        setattr(athlete, key, value)
    if "training_age_years" in values:
        athlete.years_said_on = day
    athlete.save()
    if mass_kg is not None and not athlete.masses.filter(day=day, mass_kg=mass_kg).exists():
        stood = athlete.masses.filter(day=day).first()
        if stood is not None:
            before.setdefault(athlete.pk, {})[f"mass:{day}"] = [stood.mass_kg, mass_kg]
            stood.mass_kg = mass_kg
            stood.save(update_fields=["mass_kg"])
        else:
            BodyMass.objects.create(athlete=athlete, day=day, mass_kg=mass_kg)
    for said in read_restrictions(restriction, restriction_tags()):
        if not athlete.restrictions.filter(tag=said.tag, words=said.words, until__isnull=True).exists():
            add_restriction.run(
                who, athlete, tag=said.tag, words=said.words, side=said.side, set_by=said.set_by, since=day, until=None
            )
    return athlete, found is None


def _plain(value: Any) -> Any:
    return value.isoformat() if isinstance(value, date) else value


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
