"""The tests of an athlete in one list: guided ones of a max, and those of what suits the athlete."""

from __future__ import annotations

from datetime import date

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.testing import trials
from jarvok.app.testing.max_tests import day_of
from jarvok.core.library.exercises import exercise
from jarvok.core.testing.choice import NAMES, TestKind

MOST_SHOWN = 40  # [T]


class TestRowOut(Schema):
    """A test that was begun; a guided one of a max has a page of its own kind."""

    id: int
    kind: str
    name: str
    exercise: str
    day: date
    running: bool
    outcome: str
    is_guided: bool


def rows_of(athlete: Athlete) -> list[TestRowOut]:
    """The newest tests of an athlete."""
    names: dict[str, str] = {k.value: name for k, name in (*NAMES.items(), *trials.NAMES.items())}
    return [
        TestRowOut(
            id=t.pk,
            kind=t.kind,
            name=names[t.kind],
            exercise=exercise(t.exercise_id).name,
            day=day_of(t),
            running=t.ended_at is None,
            outcome=t.outcome,
            is_guided=t.kind in set(TestKind),
        )
        for t in athlete.trials.all()[:MOST_SHOWN]
    ]
