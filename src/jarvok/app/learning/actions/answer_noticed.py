"""A coach's word on what the application noticed: kept, in other words too, or dropped; either way it is asked once."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.learning.models import Finding, FindingState, FindingWord
from jarvok.app.problems import Conflict
from jarvok.core.learning.findings import Noticed, asks_again_on, checked


def run(who: Who, athlete: Athlete, noticed: Noticed | None, *, keep: bool, sentence: str = "") -> None:
    """Keep or drop what was noticed; `sentence` words it otherwise."""
    if noticed is None:
        raise Conflict("This was answered already, or does not hold any more.")
    kind, words = checked(noticed.kind, noticed.exercise_id, sentence or noticed.sentence)
    with acting(who, "answer_noticed", f"{'kept' if keep else 'dropped'}: {words}", athlete=athlete):
        if Finding.objects.filter(athlete=athlete, ref=noticed.ref).exists():
            raise Conflict("This was answered already.")
        found = Finding.objects.create(
            athlete=athlete, kind=kind, exercise_id=noticed.exercise_id, sentence=words, day=noticed.day, ref=noticed.ref,
            evidence=[list(e) for e in noticed.evidence], value=noticed.value,
        )  # fmt: skip
        state = FindingState.ACTS if keep else FindingState.DROPPED
        until = asks_again_on(kind, clock.today()) if keep else None
        FindingWord.objects.create(finding=found, state=state, until=until, at=clock.now())
