"""Past sessions of athletes' exercises, as what looks back reads them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, NamedTuple

from django.db.models import QuerySet

from jarvok.app.athletes.lift_sets import told_since
from jarvok.app.facts.floor.models import SetKind, SetRecord
from jarvok.app.facts.put_together import PutTogether, Row
from jarvok.core.loading.accommodating import hung_on
from jarvok.core.marks.past import PastSession, PastSet


def _past(ids: Sequence[int], since: date, until: date, whose: str = "athlete_id") -> QuerySet[SetRecord, Any]:
    return (
        SetRecord.objects.filter(
            **{f"line__session__{whose}__in": ids},
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
_OF_SESSIONS = PutTogether(lambda ids, since, until: _past(ids, since, until, "pk"))


class PastLine(NamedTuple):
    """A line of a past session with its sets."""

    day: date
    line_id: int
    session_id: int
    athlete_id: int
    exercise_id: str
    done: PastSession


@dataclass(frozen=True)
class Past:
    """The past sessions of one athlete; `heard` is an event that had been told of them when they were read."""

    lines: Mapping[int, Sequence[PastLine]]  # by session
    heard: int

    def by_exercise(self, without_session: int | None = None) -> dict[str, list[PastSession]]:
        """The work sets of each line by exercise, oldest first."""
        found: dict[str, list[PastSession]] = defaultdict(list)
        for line in sorted((x for pk, some in self.lines.items() if pk != without_session for x in some), key=lambda x: x[:2]):
            found[line.exercise_id].append(line.done)
        return dict(found)


def past_of(athlete_id: int, since: date, until: date, heard: int, before: Past | None) -> Past:
    """Return the past of one athlete: read, or as `before` but for the sessions of which something was told since."""
    if before is None:
        return Past(_by_session(_ALL.rows([athlete_id], since, until)), heard)
    told = told_since({athlete_id: before.heard}).get(athlete_id, {})
    again = _by_session(_OF_SESSIONS.rows(list(told), since, until))
    stays = {pk: some for pk, some in before.lines.items() if pk not in told}
    return Past(stays | again, max(told.values(), default=before.heard))


def _by_session(rows: Iterable[Row]) -> dict[int, list[PastLine]]:
    found: dict[int, list[PastLine]] = defaultdict(list)
    for line in _lines(rows):
        found[line.session_id].append(line)
    return dict(found)


def _lines(rows: Iterable[Row]) -> list[PastLine]:
    sets: dict[int, list[PastSet]] = defaultdict(list)
    lines: dict[int, tuple[date, int, int, str, str, str]] = {}
    for session, line_id, athlete_id, exercise_id, day, text, note, load_kg, reps, rir, planned, trouble in rows:
        lines[line_id] = (day, session, athlete_id, exercise_id, text, hung_on(text, note) or "")
        sets[line_id].append(PastSet(load_kg, reps, rir, planned, form_broke=trouble == "form_broke"))
    return [
        PastLine(day, pk, session, who, lift, PastSession(day, text, tuple(sets[pk]), f"line:{pk}", hung))
        for pk, (day, session, who, lift, text, hung) in lines.items()
    ]


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
    found: dict[tuple[int, str], list[PastSession]] = defaultdict(list)
    for line in _lines(rows):
        if line.session_id != without_session:
            found[line.athlete_id, line.exercise_id].append(line.done)
    return found
