"""A rise of a max that waits for the coach, as every page that asks about it shows it."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import unit_for
from jarvok.app.schema import Schema
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.readings import words_of
from jarvok.core.marks.working_max import ASKED_DAYS, why_it_rises
from jarvok.core.quantities.mass import in_kg, said_mass
from jarvok.core.quantities.sentence import first_upper

ASK_AGAIN = timedelta(days=7)  # where the coach names no day


class RiseOut(Schema):
    """From what stood to what would stand, what the evidence says by itself, and the three things it may be."""

    athlete_id: int
    exercise_id: str
    exercise: str
    from_kg: float
    to_kg: float
    says_kg: float
    question: str  # in the unit of the plates, as everything that is said of it
    would_be: str
    day: date
    evidence: str
    words: str
    why_asked: str
    readings: list[str]
    put_off_to: date | None
    ask_again_on: date  # if nobody says otherwise
    ask_again_last: date


def rise_out(book: LiftBook, athlete_id: int, lift_id: str) -> RiseOut | None:
    """The rise of a lift that waits, also one that is put off."""
    current = book.max(athlete_id, lift_id)
    waiting = current.proposal if current is not None else None
    if waiting is None:
        return None
    put_off = book.put_off_until(athlete_id, lift_id, waiting.mark.ref)
    last = waiting.day + timedelta(days=ASKED_DAYS)
    lift = exercise(lift_id)
    unit = unit_for(lift, book.athletes[athlete_id].kit)
    stood, to = (said_mass(kg, unit, whole=True) for kg in (waiting.from_kg, waiting.to_kg))
    over = f"More than {waiting.limit_pct:.0f} % over the {stood} that stood."
    return RiseOut(
        athlete_id=athlete_id,
        exercise_id=lift_id,
        exercise=lift.name,
        from_kg=round(waiting.from_kg, 1),
        to_kg=round(waiting.to_kg, 1),
        says_kg=round(waiting.says_kg, 1),
        question=f"{stood.removesuffix(unit).strip()} to {to}?",
        would_be=f"{waiting.to_kg / in_kg(1.0, unit):.1f} {unit}",
        day=waiting.day,
        evidence=waiting.mark.ref,
        words=f"{first_upper(words_of(waiting.mark, book.day, unit))} says {said_mass(waiting.says_kg, unit, whole=True)}.",
        why_asked=over if waiting.limit_pct else "Eleven repetitions and more are a rough guide.",
        readings=list(why_it_rises(waiting, unit)),
        put_off_to=put_off if put_off is not None and put_off > book.day else None,
        ask_again_on=min(book.day + ASK_AGAIN, last),
        ask_again_last=last,
    )
