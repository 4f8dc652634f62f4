"""Findings of athletes and their squads as they stand: what acts, what waits for a word, what asks for a test again."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import NamedTuple

from django.db.models import Q

from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.learning.models import Finding, FindingState, FindingWord
from jarvok.app.facts.put_together import Objects
from jarvok.core.learning.findings import BESIDE_A_LIFT, Kind, line_words
from jarvok.core.library.exercises import exercises

_WORDS = Objects(lambda ids: FindingWord.objects.filter(finding_id__in=ids).order_by("id"))


_OWN = Objects(lambda ids: Finding.objects.filter(athlete_id__in=ids))
_WITH_SQUADS = Objects(
    lambda ids: Finding.objects.filter(
        Q(athlete_id__in=ids) | Q(squad_id__in=Athlete.objects.filter(pk__in=ids).values("squad_id"))
    )
)


@dataclass(frozen=True)
class Standing:
    """A finding with the newest word on it; None before anybody has said one."""

    finding: Finding
    word: FindingWord | None

    @property
    def acts(self) -> bool:
        """Whether it is at work."""
        return self.word is not None and self.word.state == FindingState.ACTS

    @property
    def waits(self) -> bool:
        """Whether it waits for a coach's word."""
        return self.word is None

    def asks_again(self, today: date) -> bool:
        """Whether it is at work and a test is due."""
        return self.acts and self.word is not None and self.word.until is not None and self.word.until <= today


def standing(findings: Iterable[Finding]) -> list[Standing]:
    """Findings with the newest word on each."""
    rows = list(findings)
    words = {w.finding_id: w for w in _WORDS.of([f.pk for f in rows])}
    return [Standing(f, words.get(f.pk)) for f in rows]


def acting(findings: Iterable[Finding]) -> list[Finding]:
    """Those of some findings that are at work."""
    return [s.finding for s in standing(findings) if s.acts]


def findings_of(people: Sequence[Athlete], *, of_squads: bool = True) -> list[Standing]:
    """Findings of some athletes, and of their squads."""
    ids = [a.pk for a in people]
    return standing((_WITH_SQUADS if of_squads else _OWN).of(ids))


class Beside(NamedTuple):
    """A finding as it is said beside a lift, and whether it is the squad's: what is one athlete's stands on no wall."""

    kind: Kind
    words: str
    is_squads: bool


ON_PAPER = (Kind.CUE, Kind.SETUP)  # what an athlete reads; a question is the coach's


@dataclass(frozen=True)
class Learned:
    """What was learned and is said beside the lifts of one athlete, by the lift whose results they share."""

    by_lift: dict[str, tuple[Beside, ...]]
    always: tuple[str, ...]  # said with every lift: how the athlete counts

    def of(self, exercise_id: str) -> tuple[Beside, ...]:
        """What is said beside an exercise."""
        lift = exercises().get(exercise_id)
        return self.by_lift.get(lift.same_lift if lift is not None else exercise_id, ())


def learned_by(people: Sequence[Athlete]) -> dict[int, Learned]:
    """What acts beside the lifts of each athlete, read together."""
    if len(people) == 1:
        (athlete,) = people
        return {athlete.pk: while_kept(athlete, lambda: _learned_by(people)[athlete.pk], "learned")}
    return _learned_by(people)


def _learned_by(people: Sequence[Athlete]) -> dict[int, Learned]:
    known = exercises()
    acting = [s.finding for s in findings_of(people) if s.acts]
    found: dict[int, Learned] = {}
    for athlete in people:
        by_lift: dict[str, tuple[Beside, ...]] = {}
        always: list[str] = []
        for finding in acting:
            is_squads = finding.squad_id is not None
            if finding.athlete_id != athlete.pk and not (is_squads and finding.squad_id == athlete.squad_id):
                continue
            kind = Kind(finding.kind)
            words = line_words(kind, finding.sentence, finding.test)
            lift = known.get(finding.exercise_id)
            if kind in BESIDE_A_LIFT and lift is not None:
                by_lift[lift.same_lift] = (*by_lift.get(lift.same_lift, ()), Beside(kind, words, is_squads))
            elif kind is Kind.RESERVE:
                always.append(words)
        found[athlete.pk] = Learned(by_lift, tuple(always))
    return found
