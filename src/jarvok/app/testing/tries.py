"""Tries of tests as they are kept: those that count, the next one, and the last taken back."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.facts.room.models import Trial, TrialEntry
from jarvok.app.problems import Conflict
from jarvok.core.testing.tried import Tried, from_raw, to_raw


def entries_of(trial: Trial) -> list[TrialEntry]:
    """The tries that count, in order."""
    return [e for e in trial.entries.all() if e.taken_back_at is None]


def tries_of(trial: Trial) -> list[Tried]:
    """The same as what was tried."""
    return [from_raw(trial.kind, e.data) for e in entries_of(trial)]


def check_running(trial: Trial) -> None:
    """Raise `Conflict` for a test that is over."""
    if trial.ended_at is not None:
        raise Conflict("This test is over; its result stays as it is.")


def keep(trial: Trial, number: int, tried: Tried) -> None:
    """Store a try by its place."""
    TrialEntry.objects.create(trial=trial, number=number, data=to_raw(tried), at=clock.now())


def take_back_last(trial: Trial) -> None:
    """Take the last try back. Raises `Conflict` where there is none, or the test is over."""
    check_running(trial)
    last = trial.entries.filter(taken_back_at__isnull=True).last()
    if last is None:
        raise Conflict("Nothing has been tried yet.")
    last.taken_back_at = clock.now()
    last.save(update_fields=["taken_back_at"])
