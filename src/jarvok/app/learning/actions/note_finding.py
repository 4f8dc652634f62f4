"""Something was learned of an athlete or a squad, and is written down."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.learning.models import Finding, FindingState, FindingWord
from jarvok.app.facts.people.models import Role
from jarvok.core.errors import CoachError
from jarvok.core.learning.findings import TYPED, asks_again_on, checked
from jarvok.core.library.exercises import exercises

CONFIRMS = (Role.HEAD, Role.COACH)


def run(
    who: Who, of: Athlete | Squad, kind: str, exercise_id: str, sentence: str, test: str = "",
    evidence: tuple[tuple[str, str], ...] = (), day: date | None = None,
) -> Finding:  # fmt: skip
    """Keep a finding. A coach's is at work at once; anybody else's waits for a coach's word."""
    told, words = checked(kind, exercise_id, sentence)
    if told not in TYPED:
        raise CoachError("That is measured, not typed.", where="kind", accepted=", ".join(TYPED))
    if exercise_id and exercise_id not in exercises():
        raise CoachError("This exercise is not in the library.", where="exercise_id", accepted="A lift of the library.")
    athlete, squad = (of, None) if isinstance(of, Athlete) else (None, of)
    on = day or clock.today()
    with acting(who, "note_finding", words, athlete=athlete, squad=squad):
        found = Finding.objects.create(
            athlete=athlete, squad=squad, kind=told, exercise_id=exercise_id, sentence=words, test=test.strip()[:120],
            evidence=[list(e) for e in evidence], day=on,
        )  # fmt: skip
        if who.person is None or who.person.role in CONFIRMS:
            FindingWord.objects.create(finding=found, state=FindingState.ACTS, until=asks_again_on(told, on), at=clock.now())
    return found
