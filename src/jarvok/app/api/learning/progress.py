"""Progress between two days: of an athlete's lifts, or of everybody in a squad lift by lift."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.learning.weeks import SHOWN, first_shown
from jarvok.app.api.learning.whose import whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.learning.progress import LiftProgress, between, checked_days, with_error
from jarvok.app.schema import Schema
from jarvok.core.learning.noise import LEAST_ATHLETES
from jarvok.core.learning.reports import change_words
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.mass import in_kg, said_mass

router = Router(tags=["learning"])


class ProgressOut(Schema):
    """A lift's max on two days in words, and whether what lies between is more than noise."""

    athlete_id: int
    athlete: str
    then: str
    now: str
    change: str
    share: str
    words: str
    is_more_than_noise: bool


class LiftProgressOut(Schema):
    """A lift, the smallest change of it that matters in the squad, and who moved by how much."""

    exercise_id: str
    exercise: str
    worthwhile: str
    rows: list[ProgressOut]


class ProgressPageOut(Schema):
    first: date
    last: date
    rule: str
    lifts: list[LiftProgressOut]


@router.get("/learning/{whose}/{int:pk}/progress", response={200: ProgressPageOut, **ERRORS})
def read_progress(
    request: HttpRequest, whose: str, pk: int, first: date | None = None, last: date | None = None
) -> ProgressPageOut:
    """Maxes on two days, beside their error and what matters among the athletes of the squad."""
    page = whose_page(whose, pk)
    began, ended = first or first_shown(SHOWN), last or clock.today()
    checked_days(began, ended)
    squad = page if whose == "squad" else whose_page("squad", page.people[0].squad_id)
    mine = {a.pk: a.name for a in page.people}
    found: dict[str, list[LiftProgress]] = {}
    for p in between(squad.people, began, ended, rules_in_force()):
        if p.athlete_id in mine:
            found.setdefault(p.exercise_id, []).append(p)
    return ProgressPageOut(
        first=began,
        last=ended,
        rule=f"More than noise is more than the error of both days together. What matters is a fifth of the spread between the "
        f"athletes of the squad, known from {LEAST_ATHLETES} on (Hopkins 2000, quoted from memory).",
        lifts=[_lift_out(lift, rows, mine) for lift, rows in found.items()],
    )  # fmt: skip


def _lift_out(lift: str, rows: list[LiftProgress], names: dict[int, str]) -> LiftProgressOut:
    least, unit = rows[0].change.worthwhile, rows[0].unit
    rows = sorted(rows, key=lambda p: p.change.change / p.then.value_kg, reverse=True)
    return LiftProgressOut(
        exercise_id=lift,
        exercise=exercise(lift).name,
        worthwhile=said_mass(least, unit, whole=True) if least is not None else "",
        rows=[_row_out(p, names[p.athlete_id]) for p in rows],
    )


def _row_out(p: LiftProgress, name: str) -> ProgressOut:
    share = 100 * p.change.change / p.then.value_kg
    return ProgressOut(
        athlete_id=p.athlete_id,
        athlete=name,
        then=with_error(p.then, p.unit),
        now=with_error(p.now, p.unit),
        change=change_words(p.change.change / in_kg(1.0, p.unit), p.unit),
        share=change_words(share, "%"),
        words=p.change.words,
        is_more_than_noise=p.change.is_more_than_noise,
    )
