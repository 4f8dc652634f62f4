"""Velocities that were typed at the rack: as another device gave them, never mixed with those of a sensor of ours."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date

from django.db.models import Q

from jarvok.app.facts.floor.hung import HUNG
from jarvok.app.facts.floor.models import SetRecord
from jarvok.core.library.exercises import exercises
from jarvok.core.velocity.definition import Definition
from jarvok.core.velocity.profile import LoadVelocity


def typed_velocities(
    ids: Sequence[int], since: date, until: date, without_session: int | None
) -> Iterator[tuple[int, str, LoadVelocity]]:
    """Return what was typed in a span of days by athlete and lift, one for each set; loads in kg, velocities in m/s."""
    rows = (
        SetRecord.objects.filter(
            line__session__athlete_id__in=ids, line__session__day__range=(since, until), load_kg__gt=0, form="",
            taken_back_at__isnull=True,
        )
        .exclude(HUNG | Q(measures={}) | Q(line__session_id=without_session))
    )  # fmt: skip
    columns = ("line_id", "kind", "number", "line__session__athlete_id", "line__exercise_id", "line__session__day")
    known = exercises()
    for line_id, kind, number, athlete_id, exercise_id, day, load_kg, said in rows.values_list(*columns, "load_kg", "measures"):
        if "velocity_mps" in said and load_kg:
            ref = f"line:{line_id}:{kind}:{number}"
            point = LoadVelocity(day, load_kg, float(said["velocity_mps"]), ref, Definition.DEVICE)
            yield athlete_id, known[exercise_id].same_lift, point
