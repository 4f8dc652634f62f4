"""What athletes have entered, and what their calendar and their squad's hold, as it stands."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import Q

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.seasons.models import CalendarEntry, Entry

_ENTERED = Objects(lambda ids: Entry.objects.filter(athlete_id__in=ids, withdrawn_at__isnull=True).select_related("competition"))
_CALENDAR = Objects(
    lambda ids: CalendarEntry.objects.filter(
        Q(athlete_id__in=ids) | Q(squad_id__in=Athlete.objects.filter(pk__in=ids).values("squad_id")), withdrawn_at__isnull=True
    )
)


def entered_by(ids: Sequence[int]) -> list[Entry]:
    """Their parts in competitions, each with the competition, in order of the athlete's days."""
    return sorted(_ENTERED.of(ids), key=lambda e: (e.day, e.pk))


def calendar_entries(ids: Sequence[int]) -> list[CalendarEntry]:
    """The entries of their calendars and of those of their squads; a group's too, of whoever is not in it."""
    return _CALENDAR.of(ids)
