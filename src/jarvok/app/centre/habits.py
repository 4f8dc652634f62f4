"""Where the centre lies, its unit, and how it writes days: read once by each process, and again when they are changed."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar
from typing import NamedTuple

from django.http import HttpRequest, HttpResponse

from jarvok.app import clock
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.people.models import Person
from jarvok.app.hub import HABITS, hub
from jarvok.core.quantities.days import DayOrder, days_written


class Habits(NamedTuple):
    """What holds for whoever has chosen nothing else."""

    zone: str = ""
    unit: str = "kg"
    day_order: DayOrder = DayOrder.DAY_FIRST


_read: list[tuple[int, Habits]] = []


def habits() -> Habits:
    """The centre's, as they are stored."""
    version = hub.version_of([HABITS])
    if not _read or _read[0][0] != version:
        row = Centre.objects.filter(pk=1).values_list("zone", "unit", "day_order").first()
        found = Habits(row[0], row[1], DayOrder(row[2])) if row is not None else Habits()
        _read[:] = [(version, found)]
        clock.live_in(found.zone)
    return _read[0][1]


def unread() -> None:
    """Nothing of them is known any more."""
    _read.clear()


def read_habits_anew() -> None:
    """They were changed, or the database is another: every process reads them again."""
    hub.changed(HABITS)
    habits()


_at_the_desk: ContextVar[str] = ContextVar("unit at the desk", default="")


def unit_at_the_desk() -> str:
    """In which masses are typed and read where no room is meant, by whoever asks now: kg or lb."""
    return _at_the_desk.get() or habits().unit


def unit_of_person(person: Person | None) -> str:
    """In which somebody types masses at the desk, and reads body mass: kg or lb."""
    return (person.unit if person is not None else "") or habits().unit


def day_order_of(person: Person | None) -> DayOrder:
    """How somebody reads days."""
    return DayOrder(person.day_order) if person is not None and person.day_order else habits().day_order


class CentreHabits:
    """Middleware: what is answered is said in the centre's zone, its days in the order of whoever asks."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        habits()
        person = getattr(request.user, "person", None) if request.path.startswith(("/api/", "/sheets/")) else None
        token = _at_the_desk.set(unit_of_person(person))
        try:
            with days_written(day_order_of(person)):
                return self.get_response(request)
        finally:
            _at_the_desk.reset(token)
