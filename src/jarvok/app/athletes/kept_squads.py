"""What was worked out of a squad, kept in the process while nothing of it, of anybody in it or of the centre has changed."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Sequence
from datetime import date
from typing import Any, NamedTuple

from django.db.models import QuerySet, Subquery

from jarvok.app import clock
from jarvok.app.athletes.kept_known import Kept, forget_with_the_rest, may_be_kept
from jarvok.app.centre.habits import unit_at_the_desk
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.put_together import PutTogether
from jarvok.core.quantities.days import DayOrder, order_of_days

MOST_SQUADS_KEPT = 48  # [T] each with some pages of a few kilobytes, packed


class Of(NamedTuple):
    """Which squad, and how it is said."""

    squad: int
    days: DayOrder
    unit: str


class Stamp(NamedTuple):
    """What moves when anything known of a squad or of anybody in it changes."""

    day: date
    squad: int
    centre: int
    people: tuple[tuple[int, int, int], ...]  # number, version, how often measured


def _squad_query(ids: Sequence[int]) -> QuerySet[Squad, Any]:
    centre = Subquery(Centre.objects.filter(pk=1).values("version")[:1])
    return Squad.objects.filter(pk__in=ids).order_by().annotate(centre=centre).values_list("version", "centre")


def _people_query(ids: Sequence[int]) -> QuerySet[Athlete, Any]:
    return Athlete.objects.filter(squad__in=ids).order_by("pk").values_list("pk", "version", "measured")


_SQUAD, _PEOPLE = PutTogether(_squad_query), PutTogether(_people_query)
_SQUAD_OF = PutTogether(lambda ids: Athlete.objects.filter(pk__in=ids).order_by().values_list("squad"))
_lock = threading.Lock()
_kept: OrderedDict[Of, tuple[Stamp, Kept]] = OrderedDict()


def squad_of(athlete_id: int) -> int | None:
    """The squad an athlete is in; None where there is no such athlete."""
    return next((squad for (squad,) in _SQUAD_OF.rows([athlete_id])), None)


def _stamp_of(squad_id: int) -> Stamp | None:
    row = next(iter(_SQUAD.rows([squad_id])), None)
    if row is None:
        return None
    return Stamp(clock.today(), row[0], row[1] or 0, tuple(_PEOPLE.rows([squad_id])))


def kept_of_squad(squad_id: int) -> Kept:
    """What is kept of a squad, to be read and added to; something empty where nothing is, or nothing may be."""
    now = _stamp_of(squad_id) if may_be_kept() else None
    if now is None:
        return {}
    of = Of(squad_id, order_of_days(), unit_at_the_desk())
    with _lock:
        then = _kept.get(of)
        if then is None or then[0] != now:
            then = _kept[of] = (now, {})
        _kept.move_to_end(of)
        while len(_kept) > MOST_SQUADS_KEPT:
            _kept.popitem(last=False)
    return then[1]


@forget_with_the_rest
def _forget() -> None:
    with _lock:
        _kept.clear()
