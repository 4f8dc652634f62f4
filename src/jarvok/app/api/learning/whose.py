"""Whose learning a page shows: an athlete's, a squad's or that of a group in it."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from pydantic import BaseModel

from jarvok.app.api.kept_page import kept_page, kept_squad_page
from jarvok.app.athletes.reading import athlete_of, read_for_a_week
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.training.kept_athlete import reader_of
from jarvok.core.errors import CoachError


@dataclass(frozen=True)
class Whose:
    """An athlete, or a squad with its athletes and its groups; `group` where only that is shown."""

    whose: str
    of: Athlete | Squad
    people: list[Athlete]
    groups: tuple[str, ...] = ()
    group: str = ""

    @property
    def name(self) -> str:
        """The name that is shown."""
        return f"{self.of.name}, {self.group}" if self.group else self.of.name


def whose_page(whose: str, pk: int, group: str = "", *, to_read: bool = False) -> Whose:
    """Find whose it is; raises `CoachError` for another kind or a group that nobody is in, and 404 for nobody.

    With `to_read` an athlete is the one that all readers share, of whom nothing may be changed.
    """
    if whose == "athlete" and to_read:
        athlete = reader_of(pk)
        if athlete.archived_on is not None:
            raise Http404("No such athlete.")
        return Whose(whose, athlete, [athlete])
    if whose == "athlete":
        athlete = athlete_of(pk)
        if athlete.archived_on is not None:
            raise Http404("No such athlete.")
        return Whose(whose, athlete, [athlete])
    if whose == "squad":
        squad = get_object_or_404(Squad, pk=pk)
        people = read_for_a_week(Athlete.here.filter(squad=squad).order_by("name"))
        groups = tuple(sorted({a.group for a in people if a.group}))
        if group and group not in groups:
            raise CoachError(f"Nobody is in {group}.", where="group", accepted=", ".join(groups) or "This squad has no groups.")
        return Whose(whose, squad, [a for a in people if group in ("", a.group)], groups, group)
    raise CoachError("This is of an athlete or of a squad.", where="whose", accepted="athlete or squad")


def page_of(request: HttpRequest, whose: str, pk: int, page: Hashable, work_out: Callable[[], BaseModel]) -> HttpResponse:
    """Answer with a page of an athlete or a squad as it is kept."""
    return kept_page(request, pk, page, work_out) if whose == "athlete" else kept_squad_page(request, pk, (whose, page), work_out)
