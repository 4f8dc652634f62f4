"""Two of one kind beside each other: two phases of an athlete, or two athletes of a squad."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.learning.progress import said_of
from jarvok.app.api.learning.whose import Whose, whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.learning.beside import (
    LiftBeside,
    MeasureBeside,
    PhaseWork,
    athletes_of,
    measures_of,
    phases_of,
    phases_trained,
    work_of,
)
from jarvok.app.learning.progress import checked_day, oldest_day
from jarvok.app.schema import Schema
from jarvok.core.errors import CoachError
from jarvok.core.learning.beside import Brought, Known
from jarvok.core.learning.measured import WINDOW_DAYS
from jarvok.core.learning.noise import LEAST_ATHLETES
from jarvok.core.learning.reports import change_words
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import in_kg, said_mass
from jarvok.core.rules import Rules

router = Router(tags=["learning"])


class BesideChoiceOut(Schema):
    """A phase or an athlete that may be chosen."""

    key: str
    words: str


class BesideRowOut(Schema):
    """A number of both in words, what lies between, and whether that is more than noise; no words of what has no error."""

    what: str
    first: str
    second: str
    difference: str
    worthwhile: str
    words: str
    is_more_than_noise: bool


class BesideOut(Schema):
    """`first` and `second` are keys of the choices; empty, with no rows, where there are no two to choose from."""

    first: str
    second: str
    day: date | None  # of two athletes
    choices: list[BesideChoiceOut]
    rows: list[BesideRowOut]
    rule: str


@router.get("/learning/{whose}/{int:pk}/beside", response={200: BesideOut, **ERRORS})
def read_beside(
    request: HttpRequest, whose: str, pk: int, first: str = "", second: str = "", day: date | None = None, group: str = ""
) -> BesideOut:
    """What two phases of an athlete brought, or two athletes of a squad on a day, beside the error of their numbers."""
    page, rules = whose_page(whose, pk, group, to_read=True), rules_in_force()
    return _phases(page.people[0], first, second, rules) if whose == "athlete" else _athletes(page, first, second, day, rules)


def _two(keys: Sequence[str], first: str, second: str, words: str) -> tuple[int, int]:
    """Which two are meant: those that are named, else the last two. Raises `CoachError` for one that is not there."""
    wanted = [first or keys[-2], second or keys[-1]]
    if any(k not in keys for k in wanted) or wanted[0] == wanted[1]:
        raise CoachError(f"Choose two {words} that are listed.", where="second")
    return keys.index(wanted[0]), keys.index(wanted[1])


def _phases(athlete: Athlete, first: str, second: str, rules: Rules) -> BesideOut:
    found = phases_trained(athlete, oldest_day(), clock.today())
    choices = [BesideChoiceOut(key=p.key, words=f"{p.name}, {said_day(p.began)} to {said_day(p.until)}") for p in found]
    rule = (
        "What a phase brought is the max at its end less that at the end of the phase before. More than noise is more than the "
        "error of all the days in it: of two short phases few differences are. What was done is a week’s, and has no error."
    )
    if len(found) < 2:
        return BesideOut(first="", second="", day=None, choices=choices, rows=[], rule=rule)
    one, other = _two([p.key for p in found], first, second, "phases")
    phases = found[one], found[other]
    done = [work_of(athlete, p, rules) for p in phases]
    rows = [*_work_rows(*done), *(_lift_row(x) for x in phases_of(athlete, *phases, rules))]
    return BesideOut(first=phases[0].key, second=phases[1].key, day=None, choices=choices, rows=rows, rule=rule)


def _athletes(page: Whose, first: str, second: str, day: date | None, rules: Rules) -> BesideOut:
    choices = [BesideChoiceOut(key=str(a.pk), words=a.name) for a in page.people]
    on = day or clock.today()
    checked_day(on)
    rule = (
        f"More than noise is more than the error of both. What matters is a fifth of the spread between the athletes of the "
        f"squad, known from {LEAST_ATHLETES} on. Jumps, runs and holds are the mean of the days of {WINDOW_DAYS // 7} weeks. Of "
        f"two of different classes a load alone says little."
    )
    if len(page.people) < 2:
        return BesideOut(first="", second="", day=on, choices=choices, rows=[], rule=rule)
    one, other = _two([c.key for c in choices], first, second, "athletes")
    both = page.people[one], page.people[other]
    everybody = page.people if not page.group else whose_page("squad", both[0].squad_id).people
    rows = [
        *(_lift_row(x) for x in athletes_of(everybody, *both, on, rules)),
        *(_measure_row(x, kit_of(both[0].kit).unit) for x in measures_of(*both, on)),
    ]
    return BesideOut(first=choices[one].key, second=choices[other].key, day=on, choices=choices, rows=rows, rule=rule)


def _lift_row(x: LiftBeside) -> BesideRowOut:
    least = x.change.worthwhile
    return BesideRowOut(
        what=exercise(x.exercise_id).name,
        first=_said(x.first, x.unit),
        second=_said(x.second, x.unit),
        difference=change_words(x.change.change / in_kg(1.0, x.unit), x.unit),
        worthwhile=said_mass(least, x.unit, whole=True) if least is not None else "",
        words=x.change.words,
        is_more_than_noise=x.change.is_more_than_noise,
    )


def _said(number: Known | Brought, unit: str) -> str:
    if isinstance(number, Brought):
        return change_words(number.gain / in_kg(1.0, unit), unit)
    return f"{said_mass(number.value, unit, whole=True)} ± {said_mass(number.error, unit, whole=True)}"


def _measure_row(x: MeasureBeside, unit: str) -> BesideRowOut:
    said, found = said_of(x.exercise_id, x.kind, x.at, unit), x.found
    return BesideRowOut(
        what=said.name,
        first=said.around(found.then.value, found.then_error),
        second=said.around(found.now.value, found.now_error),
        difference=said.moved(found.moved),
        worthwhile="",
        words=found.change.words if found.change is not None else "too few days to tell",
        is_more_than_noise=found.change is not None and found.change.is_more_than_noise,
    )


def _work_rows(first: PhaseWork, second: PhaseWork) -> list[BesideRowOut]:
    rows = (
        ("Weeks", first.weeks, second.weeks, 1),
        ("Sessions a week", first.sessions, second.sessions, 1),
        ("Main sets a week", first.main_sets, second.main_sets, 0),
        ("Load a week, AU", first.load_au, second.load_au, 0),
    )
    return [
        BesideRowOut(
            what=what,
            first=f"{one:.{places}f}",
            second=f"{other:.{places}f}",
            difference=change_words(round(other, places) - round(one, places), "", places=places).strip(),
            worthwhile="",
            words="",
            is_more_than_noise=False,
        )
        for what, one, other, places in rows
    ]
