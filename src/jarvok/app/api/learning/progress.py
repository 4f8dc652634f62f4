"""Progress between two days: of an athlete's lifts, or of everybody in a squad lift by lift."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.learning.weeks import SHOWN, first_shown
from jarvok.app.api.learning.whose import whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.learning.progress import LiftProgress, Measured, between, checked_days, measured_between, with_error
from jarvok.app.schema import Schema
from jarvok.core.learning.measured import MEASURES, WINDOW_DAYS
from jarvok.core.learning.new_bests import BestKind
from jarvok.core.learning.noise import LEAST_ATHLETES, smallest_worthwhile
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
        f"athletes of the squad, known from {LEAST_ATHLETES} on (Hopkins 2000, quoted from memory). Jumps, runs, holds and body "
        f"mass are the mean of the days of up to {WINDOW_DAYS // 7} weeks before each, beside their scatter.",
        lifts=[
            *(_lift_out(lift, rows, mine) for lift, rows in found.items()),
            *_measures_out(measured_between(squad.people, began, ended), page.people, mine),
        ],
    )  # fmt: skip


def _measures_out(found: Sequence[Measured], people: Sequence[Athlete], names: Mapping[int, str]) -> list[LiftProgressOut]:
    """Jumps, runs, holds and body mass, each beside what matters among the athletes of the squad."""
    unit_kg = "lb" if people and all(kit_of(a.kit).unit == "lb" for a in people) else "kg"
    groups: dict[tuple[str | None, BestKind | None, float], list[Measured]] = {}
    for m in found:
        groups.setdefault((m.exercise_id, m.kind, m.at), []).append(m)
    rows = []
    for (lift, kind, at), those in groups.items():
        mine = [m for m in those if m.athlete_id in names]
        if mine:
            rows.append(_measure_out(lift, kind, at, those, mine, names, unit_kg))
    return rows


def _measure_out(
    lift: str | None, kind: BestKind | None, at: float, those: Sequence[Measured], mine: Sequence[Measured],
    names: Mapping[int, str], unit_kg: str,
) -> LiftProgressOut:  # fmt: skip
    name, unit, places, less_is_better = ("Body mass", unit_kg, 1, False) if kind is None else MEASURES[kind]
    factor = 1 / in_kg(1.0, unit_kg) if kind is None else 1.0
    what = f", {at:g} m" if kind is BestKind.RUN and at else f" with {said_mass(at, unit_kg)}" if at else ""
    said = name if lift is None else f"{exercise(lift).name}, {name}{what}"
    least = smallest_worthwhile([m.found.then.value for m in those]) if len(those) >= LEAST_ATHLETES and lift else None
    best_first = sorted(mine, key=lambda m: m.found.now.value - m.found.then.value, reverse=not less_is_better)
    return LiftProgressOut(
        exercise_id=f"{lift or 'mass'}:{kind or ''}:{at:g}",
        exercise=said,
        worthwhile=f"{least * factor:.{places}f} {unit}".strip() if least is not None else "",
        rows=[_measured_row(m, names[m.athlete_id], unit, places, factor, least) for m in best_first],
    )


def _measured_row(m: Measured, name: str, unit: str, places: int, factor: float, least: float | None) -> ProgressOut:
    moved, found = m.found.now.value - m.found.then.value, m.found

    def around(value: float, error: float | None) -> str:
        said = f"{value * factor:.{places}f}" if error is None else f"{value * factor:.{places}f} ± {error * factor:.{places}f}"
        return f"{said} {unit}".strip()

    change = replace(found.change, worthwhile=least) if found.change is not None else None
    sign = "" if round(moved * factor, places) == 0 else "+" if moved > 0 else "−"
    return ProgressOut(
        athlete_id=m.athlete_id,
        athlete=name,
        then=around(found.then.value, found.then_error),
        now=around(found.now.value, found.now_error),
        change=f"{sign}{abs(moved) * factor:.{places}f} {unit}".strip(),
        share=change_words(100 * moved / found.then.value, "%") if found.then.value else "",
        words=change.words if change is not None else "too few days to tell",
        is_more_than_noise=change is not None and change.is_more_than_noise,
    )


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
