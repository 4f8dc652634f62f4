"""Whose learning a page shows: an athlete's or a squad's."""

from __future__ import annotations

from dataclasses import dataclass

from django.shortcuts import get_object_or_404

from jarvok.app.athletes.reading import FOR_A_WEEK
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.core.errors import CoachError


@dataclass(frozen=True)
class Whose:
    """An athlete, or a squad with its athletes."""

    whose: str
    of: Athlete | Squad
    people: list[Athlete]

    @property
    def name(self) -> str:
        """The name that is shown."""
        return self.of.name


def whose_page(whose: str, pk: int) -> Whose:
    """Find whose it is; raises `CoachError` for another kind and 404 for nobody."""
    rows = Athlete.here.select_related("squad", "kit").prefetch_related(*FOR_A_WEEK)
    if whose == "athlete":
        athlete = get_object_or_404(rows, pk=pk)
        return Whose(whose, athlete, [athlete])
    if whose == "squad":
        squad = get_object_or_404(Squad, pk=pk)
        return Whose(whose, squad, list(rows.filter(squad=squad).order_by("name")))
    raise CoachError("This is of an athlete or of a squad.", where="whose", accepted="athlete or squad")
