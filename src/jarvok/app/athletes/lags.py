"""What an athlete's maxes say of the week: the lift of a weightlifter that lags, and lifts that strength limits."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date
from typing import NamedTuple

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.limiting import Maxes, maxes_of, strength_limits
from jarvok.app.facts.athletes.models import Athlete
from jarvok.core.chooser.known import StrengthLimit, family_of
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.mark import MarkKind
from jarvok.core.marks.ratios import ratios


class Lag(NamedTuple):
    """The exercise that works on a lift that lags, and why in words."""

    exercise_id: str
    words: str


class Read(NamedTuple):
    """What the maxes say."""

    lag: Lag | None
    limits: tuple[StrengthLimit, ...]
    shown_on: Mapping[str, date]


_READ, _BESIDE, _BOOK = "_maxes_say", "_read_beside", "_book_of_maxes"


def read_together(athletes: Iterable[Athlete]) -> None:
    """Have the maxes of some athletes read at once, when the first of them is asked for."""
    rows = list(athletes)
    for athlete in rows:
        athlete.__dict__.setdefault(_BESIDE, rows)


def share_book(book: LiftBook, athletes: Iterable[Athlete] | None = None) -> None:
    """Use a book that is read in any case, for all whose it is or for some."""
    if book.day == clock.today():
        for athlete in book.athletes.values() if athletes is None else athletes:
            athlete.__dict__.setdefault(_BOOK, book)


def lag_of(athlete: Athlete) -> Lag | None:
    """The lift of a weightlifter that lags most, by the gap to the guide's target over its max; None where none does."""
    family = family_of(athlete.squad.sport)
    return _read(athlete).lag if family is not None and family.id == "weightlifting" else None


def limits_of_strength(athlete: Athlete) -> tuple[StrengthLimit, ...]:
    """The lifts that strength limits."""
    return _read(athlete).limits


def shown_since(athlete: Athlete, day: date) -> frozenset[str]:
    """The lifts whose max something has shown since a day: a test, a set with a reserve or to the limit, a day's velocities."""
    return frozenset(lift for lift, shown in _read(athlete).shown_on.items() if shown >= day)


def _read(athlete: Athlete) -> Read:
    if _READ not in athlete.__dict__:
        book: LiftBook | None = athlete.__dict__.get(_BOOK)
        rows: list[Athlete] = [athlete] if book is not None else athlete.__dict__.get(_BESIDE, [athlete])
        if not any(row is athlete for row in rows):
            rows = [athlete]  # it was copied since, to be changed
        book = book or LiftBook(rows, clock.today())
        for row in rows:
            say_by(book, row)
    found: Read = athlete.__dict__[_READ]
    return found


def said_before_sets(athlete: Athlete) -> Read | None:
    """Take away what the maxes of an athlete said before sets were done, and return it; None where nobody had asked."""
    found: Read | None = athlete.__dict__.pop(_READ, None)
    for name in (_BOOK, _BESIDE):
        athlete.__dict__.pop(name, None)
    return found


def say_by(book: LiftBook, athlete: Athlete) -> Read:
    """What the maxes of a book say of an athlete, from now on."""
    maxes = maxes_of(book, athlete.pk)
    found = Read(_worst(book, maxes), strength_limits(book, athlete, maxes), _shown(book, athlete.pk, maxes))
    athlete.__dict__[_READ] = found
    return found


def _shown(book: LiftBook, athlete_id: int, maxes: Maxes) -> dict[str, date]:
    found = {lift: [m.day for m in book.evidence(athlete_id, lift) if m.kind is not MarkKind.SET_DONE] for lift in maxes}
    return {lift: max(days) for lift, days in found.items() if days}


def _worst(book: LiftBook, maxes: Maxes) -> Lag | None:
    found = [r for r in ratios(maxes, book.rules.equation) if r.lagging]
    if not found:
        return None
    worst = max(found, key=lambda r: r.gap_kg / maxes[r.lagging].value_kg)
    works_on = worst.rule.works_on if worst.lagging == worst.rule.upper and worst.rule.works_on else worst.lagging
    words = f"the {exercise(worst.lagging).name.lower()} lags by {worst.gap_kg:.0f} kg ({worst.rule.name} {worst.pct:.0f} %)"
    return Lag(works_on, words)
