"""Progress between two days: of an athlete's lifts, or of everybody in a squad lift by lift."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import may, person_of
from jarvok.app.api.learning.progress_beside import (
    LiftProgressOut,
    LineMovedOut,
    ProgressOut,
    SeasonDayOut,
    line_out,
    ratios_out,
    season_days_out,
)
from jarvok.app.api.learning.weeks import SHOWN, first_shown
from jarvok.app.api.learning.whose import whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.learning.progress import (
    LiftProgress,
    Measured,
    between,
    checked_days,
    measured_between,
    oldest_day,
    with_error,
)
from jarvok.app.learning.progress_beside import ends_of_phases, lines_moved, ratios_between
from jarvok.app.schema import Schema
from jarvok.core.learning.measured import MEASURES, WINDOW_DAYS, MeasuredProgress
from jarvok.core.learning.new_bests import BestKind
from jarvok.core.learning.noise import LEAST_ATHLETES
from jarvok.core.learning.reports import change_words
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.mass import in_kg, said_mass

router = Router(tags=["learning"])


class ProgressPageOut(Schema):
    first: date
    last: date
    rule: str
    lifts: list[LiftProgressOut]
    lines: list[LineMovedOut]  # of an athlete alone
    days: list[SeasonDayOut]  # days of the season worth comparing, of an athlete alone


@router.get("/learning/{whose}/{int:pk}/progress", response={200: ProgressPageOut, **ERRORS})
def read_progress(
    request: HttpRequest, whose: str, pk: int, first: date | None = None, last: date | None = None, group: str = ""
) -> ProgressPageOut:
    """Maxes on two days, beside their error and what matters among the athletes of the squad."""
    page = whose_page(whose, pk, group, to_read=True)
    began, ended = first or first_shown(SHOWN), last or clock.today()
    checked_days(began, ended)
    squad = page if whose == "squad" and not group else whose_page("squad", page.people[0].squad_id)
    mine = {a.pk: a.name for a in page.people}
    found: dict[str, list[LiftProgress]] = {}
    rules = rules_in_force()
    maxes = [p for p in between(squad.people, began, ended, rules) if p.athlete_id in mine]
    for p in maxes:
        found.setdefault(p.exercise_id, []).append(p)
    alone = page.people[0] if whose == "athlete" else None
    measured = measured_between(squad.people, began, ended)
    if alone is None or not may(person_of(request), Need.HEALTH):  # a body mass is not held against those of others
        measured = [m for m in measured if m.exercise_id is not None]
    return ProgressPageOut(
        first=began,
        last=ended,
        rule=f"More than noise is more than the error of both days together. What matters is a fifth of the spread between the "
        f"athletes of the squad, known from {LEAST_ATHLETES} on (Hopkins 2000, quoted from memory). Jumps, runs, holds and body "
        f"mass are the mean of the days of up to {WINDOW_DAYS // 7} weeks before each, beside their scatter.",
        lifts=[
            *(_lift_out(lift, rows, mine) for lift, rows in found.items()),
            *ratios_out(ratios_between(maxes, rules), mine),
            *_measures_out(measured, page.people, mine),
        ],
        lines=[line_out(x) for x in lines_moved(alone, began, ended, rules)] if alone is not None else [],
        days=season_days_out(ends_of_phases(alone, oldest_day(), clock.today())) if alone is not None else [],
    )  # fmt: skip


@dataclass(frozen=True)
class Said:
    """How a measure is said: its name, its unit, the decimals, and by what its values are multiplied for that unit."""

    name: str
    unit: str
    places: int
    factor: float = 1.0

    def of(self, value: float) -> str:
        """A value without its unit."""
        return f"{value * self.factor:.{self.places}f}"

    def moved(self, change: float) -> str:
        """A difference with its sign."""
        sign = "" if round(change * self.factor, self.places) == 0 else "+" if change > 0 else "−"
        return f"{sign}{self.of(abs(change))} {self.unit}".strip()

    def around(self, value: float, error: float | None) -> str:
        """A mean with its error, where that is known."""
        return f"{self.of(value)}{'' if error is None else f' ± {self.of(error)}'} {self.unit}".strip()


def said_of(lift: str | None, kind: BestKind | None, at: float, unit_kg: str) -> Said:
    if lift is None or kind is None:
        return Said("Body mass", unit_kg, 1, 1 / in_kg(1.0, unit_kg))
    name, unit, places, _ = MEASURES[kind]
    what = f", {at:g} m" if kind is BestKind.RUN and at else f" with {said_mass(at, unit_kg)}" if at else ""
    return Said(f"{exercise(lift).name}, {name}{what}", unit, places)


def _measures_out(found: Sequence[Measured], people: Sequence[Athlete], names: Mapping[int, str]) -> list[LiftProgressOut]:
    """Jumps, runs, holds and body mass, each with the most gained first."""
    unit_kg = "lb" if people and all(kit_of(a.kit).unit == "lb" for a in people) else "kg"
    groups: dict[tuple[str | None, BestKind | None, float], list[Measured]] = {}
    for m in found:
        if m.athlete_id in names:
            groups.setdefault((m.exercise_id, m.kind, m.at), []).append(m)
    rows = []
    for (lift, kind, at), those in groups.items():
        said, least = said_of(lift, kind, at, unit_kg), those[0].worthwhile
        those.sort(key=lambda m: m.found.moved, reverse=kind is None or not MEASURES[kind][3])
        rows.append(
            LiftProgressOut(
                exercise_id=f"{lift or 'mass'}:{kind or ''}:{at:g}",
                exercise=said.name,
                worthwhile=f"{said.of(least)} {said.unit}".strip() if least is not None else "",
                rows=[_measured_row(m.found, said, m.athlete_id, names[m.athlete_id]) for m in those],
            )
        )
    return rows


def _measured_row(found: MeasuredProgress, said: Said, athlete_id: int, name: str) -> ProgressOut:
    return ProgressOut(
        athlete_id=athlete_id,
        athlete=name,
        then=said.around(found.then.value, found.then_error),
        now=said.around(found.now.value, found.now_error),
        change=said.moved(found.moved),
        share=change_words(100 * found.moved / found.then.value, "%") if found.then.value else "",
        words=found.change.words if found.change is not None else "too few days to tell",
        is_more_than_noise=found.change is not None and found.change.is_more_than_noise,
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
