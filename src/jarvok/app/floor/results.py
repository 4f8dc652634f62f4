"""Results that are no load, as they were last time: rounds, time, height, distance."""

from __future__ import annotations

from collections.abc import Collection

from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.core.floor.measures import words_of


def last_results(session: TrainingSession, exercise_ids: Collection[str]) -> dict[str, str]:
    """Return the newest result of each exercise before a session, in words with its day; nothing is read where none is asked."""
    if not exercise_ids:
        return {}
    kept = (
        SetRecord.objects.filter(
            line__session__athlete_id=session.athlete_id, line__exercise_id__in=exercise_ids, taken_back_at__isnull=True
        )
        .exclude(measures={})
        .exclude(line__session_id=session.pk)
        .filter(line__session__day__lte=session.day)
        .order_by("line__session__day", "id")
        .values_list("line__exercise_id", "measures", "line__session__day")
    )
    return {lift: f"{words_of(measures)}, {day:%-d %b}" for lift, measures, day in kept}
