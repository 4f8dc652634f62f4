"""An athlete is erased with everything that is known of them, as they have asked."""

from __future__ import annotations

from django.db.models import F, Value
from django.db.models.functions import Replace

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, Erased, ImportedTable
from jarvok.app.facts.people.models import Act
from jarvok.core.errors import CoachError

NOBODY = "erased person"


def run(who: Who, athlete: Athlete, typed_name: str) -> None:
    """Erase an athlete: results, plans, sessions, sets, answers, their account, and their name in what was done.

    The name is typed once more, so that it is nobody else. Backups keep them until they are gone; put back, they are erased
    again.
    """
    if typed_name.strip() != athlete.name:
        raise CoachError("Type the name as it stands here.", where="name", accepted=athlete.name)
    with acting(who, "erase_athlete", NOBODY):
        erase(athlete)


def erase(athlete: Athlete) -> None:
    """Erase an athlete without asking: also in a backup that was put back."""
    name, pk = athlete.name, athlete.pk
    Act.objects.filter(athlete=athlete).update(athlete=None)
    Act.objects.filter(words__contains=name).update(words=Replace(F("words"), Value(name), Value(NOBODY)))
    person = getattr(athlete, "person", None)
    if person is not None:
        if person.user is not None:
            person.user.delete()
        person.links.all().delete()
        person.refresh_from_db()
        person.name, person.athlete, person.ended_at = NOBODY, None, person.ended_at or clock.now()
        person.save()
    for table in ImportedTable.objects.filter(before__has_key=str(pk)):
        table.before.pop(str(pk))
        table.save(update_fields=["before"])
    athlete.delete()
    Erased.objects.get_or_create(athlete_id=pk, defaults={"at": clock.now()})
