"""What is known of a lift that may be limited: one reading for the page that asks and the week that answers."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import faults_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.core.chooser.known import StrengthLimit
from jarvok.core.experience import is_novice
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.limiter import LiftFacts, LimitedLift, limited_lifts, relative_of, strength
from jarvok.core.marks.mark import MarkKind
from jarvok.core.marks.working_max import CurrentMax

Maxes = Mapping[str, CurrentMax]


def maxes_of(book: LiftBook, athlete_id: int) -> dict[str, CurrentMax]:
    """The maxes of every lift with evidence of its own."""
    own = (lift.id for lift in book.lifts_of(athlete_id) if lift.same_lift == lift.id)
    return {lift: current for lift in own if (current := book.max(athlete_id, lift)) is not None}


def limited_here(maxes: Maxes) -> Iterator[LimitedLift]:
    """The lifts that have questions of their own and a max."""
    return (lift for lift in limited_lifts().values() if set(lift.measured_by) & set(maxes))


def facts_for(book: LiftBook, athlete: Athlete, lift: LimitedLift, maxes: Maxes, with_history: bool = True) -> LiftFacts:
    """What is known of a limited lift."""
    measured = next(e for e in lift.measured_by if e in maxes)
    relative, is_known = relative_of(lift, maxes)
    singles = (m for m in book.marks_of(athlete.pk, measured) if m.kind in (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX))
    return LiftFacts(
        lift=lift,
        max_kg=maxes[measured].value_kg,
        relative=relative,
        relative_name=exercise(relative.exercise_id).name.lower(),
        relative_kg=maxes[relative.exercise_id].value_kg if is_known else None,
        faults=tuple(dict.fromkeys(f for e in lift.measured_by for f in faults_of(athlete, book.day, e))),
        history=book.history(athlete.pk, measured) if with_history else (),
        new_to_position=is_novice(athlete.years_of_lifting_on(book.day), book.rules),
        singles_on=tuple(m.day for m in singles),
        rules=book.rules,
    )


def strength_limits(book: LiftBook, athlete: Athlete, maxes: Maxes) -> tuple[StrengthLimit, ...]:
    """The lifts that strength limits beyond what the maxes are unsure of."""
    found: list[StrengthLimit] = []
    for lift in limited_here(maxes):
        facts = facts_for(book, athlete, lift, maxes, with_history=False)
        answer = strength(facts)
        if answer.verdict == "likely" and _is_sure(facts, maxes):
            found.append(StrengthLimit(lift.id, answer.evidence))
    return tuple(found)


def _is_sure(facts: LiftFacts, maxes: Maxes) -> bool:
    """Whether the share lies over the band by more than the errors of both maxes."""
    own = maxes[next(e for e in facts.lift.measured_by if e in maxes)]
    other = maxes[facts.relative.exercise_id]
    error: float = ((own.error_kg / own.value_kg) ** 2 + (other.error_kg / other.value_kg) ** 2) ** 0.5
    return own.value_kg / other.value_kg * (1 - error) > facts.relative.high
