"""The lift of a weightlifter that lags most by the ratios: it has a place of its own in the week."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.core.chooser.known import family_of
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.ratios import ratios


class Lag(NamedTuple):
    """The exercise that works on it, and why in words."""

    exercise_id: str
    words: str


_LAG, _BESIDE = "_lag", "_read_beside"


def read_together(athletes: Iterable[Athlete]) -> None:
    """Have the lags of some athletes read at once, when the first of them is asked for."""
    rows = [a for a in athletes if _has_place(a)]
    for athlete in rows:
        athlete.__dict__[_BESIDE] = rows


def _has_place(athlete: Athlete) -> bool:
    family = family_of(athlete.squad.sport)
    return family is not None and family.id == "weightlifting"


def lag_of(athlete: Athlete) -> Lag | None:
    """The lift that lags most, by the gap to the guide's target over its max; None where none does or nothing is sure."""
    if not _has_place(athlete):
        return None
    if _LAG not in athlete.__dict__:
        rows: list[Athlete] = athlete.__dict__.get(_BESIDE, [athlete])
        book = LiftBook(rows, clock.today())
        for row in rows:
            row.__dict__[_LAG] = _worst(book, row)
    found: Lag | None = athlete.__dict__[_LAG]
    return found


def _worst(book: LiftBook, athlete: Athlete) -> Lag | None:
    own = [lift.id for lift in book.lifts_of(athlete.pk) if lift.same_lift == lift.id]
    maxes = {lift: current for lift in own if (current := book.max(athlete.pk, lift)) is not None}
    found = [r for r in ratios(maxes, book.rules.equation) if r.lagging]
    if not found:
        return None
    worst = max(found, key=lambda r: r.gap_kg / maxes[r.lagging].value_kg)
    works_on = worst.rule.works_on if worst.lagging == worst.rule.upper and worst.rule.works_on else worst.lagging
    words = f"the {exercise(worst.lagging).name.lower()} lags by {worst.gap_kg:.0f} kg ({worst.rule.name} {worst.pct:.0f} %)"
    return Lag(works_on, words)
