"""Past sessions of athletes' exercises, as what looks back reads them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Sequence
from datetime import date
from typing import Any

from django.db.models import QuerySet

from jarvok.app.facts.floor.models import SetKind, SetRecord
from jarvok.app.facts.put_together import PutTogether
from jarvok.core.loading.accommodating import hung_on
from jarvok.core.marks.past import PastSession, PastSet


def _past(ids: Sequence[int], since: date, until: date) -> QuerySet[SetRecord, Any]:
    return (
        SetRecord.objects.filter(
            line__session__athlete_id__in=ids,
            line__session__day__range=(since, until),
            kind=SetKind.WORK,
            form="",
            taken_back_at__isnull=True,
        )
        .order_by("line__session__day", "line_id", "number")
        .values_list(
            "line__session_id", "line_id", "line__session__athlete_id", "line__exercise_id", "line__session__day", "line__text",
            "line__note", "load_kg", "reps", "rir", "planned_reps", "trouble",
        )
    )  # fmt: skip


_ALL = PutTogether(_past)


def read_past(
    athletes: Collection[int], since: date, until: date, of: Collection[str] | None = None, without_session: int | None = None
) -> dict[tuple[int, str], list[PastSession]]:
    """Return the work sets of each line by athlete and exercise, oldest first, in one query; `of` narrows the exercises."""
    if of is not None and not of:
        return {}
    ids = list(athletes)
    rows: Iterable[Any] = (
        _ALL.rows(ids, since, until) if of is None else _past(ids, since, until).filter(line__exercise_id__in=of)
    )
    sets: dict[int, list[PastSet]] = defaultdict(list)
    lines: dict[int, tuple[int, str, date, str, str]] = {}
    for session, line_id, athlete_id, exercise_id, day, text, note, load_kg, reps, rir, planned, trouble in rows:
        if session == without_session:
            continue
        lines[line_id] = (athlete_id, exercise_id, day, text, hung_on(text, note) or "")
        sets[line_id].append(PastSet(load_kg, reps, rir, planned, form_broke=trouble == "form_broke"))
    found: dict[tuple[int, str], list[PastSession]] = defaultdict(list)
    for line_id, (athlete_id, exercise_id, day, text, hung) in lines.items():
        found[athlete_id, exercise_id].append(PastSession(day, text, tuple(sets[line_id]), f"line:{line_id}", hung))
    return found
