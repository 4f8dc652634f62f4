"""Pains that were told on the floor: what they end in their session, and those that nobody has answered yet."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date

from django.db.models import QuerySet

from jarvok.app.facts.floor.models import PainReport, TrainingSession
from jarvok.app.facts.put_together import Objects
from jarvok.core.floor.pain import Felt, OpenPain, told_words
from jarvok.core.library.exercises import exercise


def standing(session: TrainingSession) -> list[PainReport]:
    """The pains of a session whose set was not taken back."""
    return [p for p in session.pains.all() if p.record.taken_back_at is None]


def felt_in(session: TrainingSession, line_ids: list[int]) -> list[Felt]:
    """The same as the core takes them: each in its line by its place."""
    return [
        Felt(p.area, line_ids.index(p.record.line_id), p.carried_on) for p in standing(session) if p.record.line_id in line_ids
    ]


def _open(ids: Sequence[int]) -> QuerySet[PainReport]:
    rows = PainReport.objects.filter(session__athlete_id__in=ids, answered_at__isnull=True, record__taken_back_at__isnull=True)
    return rows.select_related("session", "record__line")


_OPEN = Objects(_open)


def open_reports(athlete_ids: Iterable[int]) -> dict[int, list[PainReport]]:
    """Reports of some athletes that wait for a word, by athlete, oldest first."""
    found: dict[int, list[PainReport]] = {}
    for row in _OPEN.of(list(athlete_ids)):
        found.setdefault(row.session.athlete_id, []).append(row)
    return found


def open_before(athlete_id: int, day: date) -> tuple[OpenPain, ...]:
    """What an athlete is asked about again on arriving on a day."""
    return tuple(as_told(p) for p in open_reports([athlete_id]).get(athlete_id, ()) if p.session.day < day)


def as_told(report: PainReport) -> OpenPain:
    """A report as the core and the pages take it."""
    line = report.record.line
    words = told_words(report.area, report.session.day, exercise(line.exercise_id).name, report.record.reps)
    return OpenPain(report.area, report.session.day, words)
