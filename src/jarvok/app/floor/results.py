"""Results that are no load, as they were last time: rounds, time, height, distance."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date

from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.room.models import Reading
from jarvok.core.floor.measures import words_of
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.days import said_day


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
    found = {lift: f"last: {words}, {said_day(day)}" for lift, measures, day in kept if (words := words_of(measures))}
    return {**found, **_best_jumps(session, exercise_ids)}


def _best_jumps(session: TrainingSession, exercise_ids: Collection[str]) -> dict[str, str]:
    """The height to beat in each jump: the best of earlier sessions, by mat or typed."""
    jumps = [e for e in exercise_ids if exercise(e).kind == "jump"]
    if not jumps:
        return {}
    best: dict[str, tuple[float, date]] = {}
    mine = {
        "line__session__athlete_id": session.athlete_id,
        "line__exercise_id__in": jumps,
        "line__session__day__lt": session.day,
    }
    columns = ("line__exercise_id", "line__session__day")
    mats = Reading.objects.filter(**mine, taken_out_at__isnull=True).values_list(*columns, "values")
    seen = [(e, d, [v]) for e, d, v in mats]
    typed = SetRecord.objects.filter(**mine, taken_back_at__isnull=True).exclude(jumps=[]).values_list(*columns, "jumps")
    for lift, day, heights in [*seen, *typed]:
        for jump in heights:
            if jump.get("height_cm") and jump["height_cm"] > best.get(lift, (0.0, day))[0]:
                best[lift] = jump["height_cm"], day
    return {lift: f"to beat: {height:.0f} cm, {said_day(day)}" for lift, (height, day) in best.items()}
