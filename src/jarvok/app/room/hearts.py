"""Heart rates of those who wear a sensor, as they are now."""

from __future__ import annotations

from collections.abc import Collection
from datetime import timedelta

from django.db.models import Max

from jarvok.app import clock
from jarvok.app.facts.room.models import Reading

FRESH_S = 60  # [T] an older rate says nothing of now


def rates_of(athlete_ids: Collection[int]) -> dict[int, int]:
    """Return the newest rate of some athletes in beats a minute; who wears no sensor is left out."""
    since = clock.now() - timedelta(seconds=FRESH_S)
    rows = Reading.objects.filter(athlete_id__in=athlete_ids, at__gte=since, values__has_key="bpm").order_by()
    newest = rows.values("athlete_id").annotate(last=Max("pk")).values("last")
    found = Reading.objects.filter(pk__in=newest).values_list("athlete_id", "values")
    return {athlete_id: int(values["bpm"]) for athlete_id, values in found if athlete_id is not None}
