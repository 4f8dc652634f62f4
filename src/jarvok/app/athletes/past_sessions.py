"""Past sessions of athletes' exercises, as what looks back reads them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection
from datetime import date

from django.db.models import Q

from jarvok.app.facts.floor.models import SetKind, SetRecord
from jarvok.core.loading.accommodating import hung_on
from jarvok.core.marks.past import PastSession, PastSet


def read_past(
    athletes: Collection[int], since: date, until: date, of: Collection[str] | None = None, without_session: int | None = None
) -> dict[tuple[int, str], list[PastSession]]:
    """Return the work sets of each line by athlete and exercise, oldest first, in one query; `of` narrows the exercises."""
    if of is not None and not of:
        return {}
    wanted = Q(line__exercise_id__in=of) if of is not None else Q()
    rows = (
        SetRecord.objects.filter(
            wanted,
            line__session__athlete_id__in=athletes,
            line__session__day__gte=since,
            line__session__day__lte=until,
            kind=SetKind.WORK,
            form="",
            taken_back_at__isnull=True,
        )
        .exclude(line__session_id=without_session)
        .order_by("line__session__day", "line_id", "number")
        .values_list(
            "line_id", "line__session__athlete_id", "line__exercise_id", "line__session__day", "line__text",
            "line__note", "load_kg", "reps", "rir", "planned_reps", "trouble",
        )
    )  # fmt: skip
    sets: dict[int, list[PastSet]] = defaultdict(list)
    lines: dict[int, tuple[int, str, date, str, str]] = {}
    for line_id, athlete_id, exercise_id, day, text, note, load_kg, reps, rir, planned, trouble in rows:
        lines[line_id] = (athlete_id, exercise_id, day, text, hung_on(text, note) or "")
        sets[line_id].append(PastSet(load_kg, reps, rir, planned, form_broke=trouble == "form_broke"))
    found: dict[tuple[int, str], list[PastSession]] = defaultdict(list)
    for line_id, (athlete_id, exercise_id, day, text, hung) in lines.items():
        found[athlete_id, exercise_id].append(PastSession(day, text, tuple(sets[line_id]), f"line:{line_id}", hung))
    return found
