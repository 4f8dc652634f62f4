"""A table that was taken in is taken back: what it added goes, what it filled in is as it was."""

from __future__ import annotations

from datetime import date
from typing import Any, NamedTuple

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import remove_squad
from jarvok.app.facts.athletes.models import Athlete, BodyMass, ImportedTable, MarkRecord, Restriction
from jarvok.app.facts.people.models import Act
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError


class TakenBack(NamedTuple):
    """How many athletes went again, how many results and changed fields, and who stays because something was done since."""

    athletes: int
    results: int
    fields: int
    stay: tuple[str, ...]


def run(who: Who, table: ImportedTable) -> TakenBack:
    """Take a table back, once. An athlete it added for whom something was done since stays, without its results."""
    if table.undone_at is not None:
        raise Conflict("This import has been taken back already.")
    if table.act_id is None:
        raise CoachError("This import cannot be taken back.", where="table", accepted="One taken in since undo is kept.")
    new = list(Athlete.objects.select_related("squad").filter(pk__in=table.new))
    touched = list(Athlete.objects.filter(pk__in=[int(k) for k in table.before]))
    tested = Athlete.objects.filter(marks__act_id=table.act_id).distinct()
    with acting(who, "undo_import", f"undone: {table.words}", undoes=table.act, also=[*new, *touched, *tested]):
        marks = MarkRecord.objects.filter(act_id=table.act_id, withdrawn_at__isnull=True).update(withdrawn_at=clock.now())
        Restriction.objects.filter(act_id=table.act_id).delete()
        BodyMass.objects.filter(act_id=table.act_id).delete()
        fields = sum(_put_back(a, table.before[str(a.pk)]) for a in touched)
        stay = [a for a in new if _was_used(a, table)]
        gone = [a for a in new if a not in stay]
        for athlete in gone:
            Act.objects.filter(athlete=athlete).update(athlete=None)
            athlete.delete()
        for squad in {a.squad for a in gone}:
            if squad.pk in table.squads and not squad.athletes.exists():
                remove_squad.run(who, squad)
        table.undone_at = clock.now()
        table.save(update_fields=["undone_at"])
    return TakenBack(len(gone), marks, fields, tuple(a.name for a in stay))


def _was_used(athlete: Athlete, table: ImportedTable) -> bool:
    """Whether anything was done for an athlete since they were taken in."""
    taken_in = table.act_id or 0
    return (
        athlete.plan_act > taken_in
        or athlete.sessions.exists()
        or athlete.attendances.exists()
        or hasattr(athlete, "person")
        or Act.objects.filter(athlete=athlete, pk__gt=taken_in).exists()
    )


def _put_back(athlete: Athlete, before: dict[str, list[Any]]) -> int:
    """Put the fields back that still stand as the table had them; return how many."""
    count = 0
    for key, (stood, said) in before.items():
        if key.startswith("mass:"):
            day = date.fromisoformat(key.removeprefix("mass:"))
            count += athlete.masses.filter(day=day, mass_kg=said).update(mass_kg=stood)
            continue
        now = getattr(athlete, key)
        if (now.isoformat() if isinstance(now, date) else now) == said:
            setattr(athlete, key, date.fromisoformat(stood) if key == "birth_date" and stood else stood)
            count += 1
    athlete.save()
    return count
