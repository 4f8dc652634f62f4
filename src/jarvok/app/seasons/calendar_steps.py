"""The steps of a calendar: what undo would take back and redo bring again, competitions and all else in one order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db.models import Q, QuerySet

from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.people.models import Act
from jarvok.app.facts.seasons.models import CalendarChange, CalendarEntry, Change, Competition
from jarvok.app.seasons.steps import made_with, steps_of


@dataclass(frozen=True)
class Whose:
    """The page of a calendar: one athlete's, or a squad's with what its athletes have of their own."""

    squad: Squad
    athlete: Athlete | None
    people: tuple[Athlete, ...]

    @property
    def seen(self) -> Q:
        """The entries and competitions on the page."""
        if self.athlete is None:
            return Q(squad=self.squad) | Q(athlete__in=self.people)
        return Q(athlete=self.athlete) | Q(squad=self.squad, group__in=("", self.athlete.group))


@dataclass(frozen=True)
class CalendarStep:
    """One press of a button: what it changed in the calendar, and whose seasons."""

    act: Act
    changes: tuple[CalendarChange, ...]
    seasons: tuple[Change, ...]

    @property
    def words(self) -> str:
        """What was done."""
        return self.act.words or (self.seasons[0].words if self.seasons else "changed")


def last_step(whose: Whose) -> CalendarStep | None:
    """The newest step that stands."""
    stands = _changes(whose).filter(undone_at__isnull=True).order_by("-act_id").first()
    seasons, _ = steps_of(whose.people)
    acts = [c.act_id for c in (stands, *seasons) if c is not None and c.act_id is not None]
    return _step(max(acts), whose, undone=False) if acts else None


def next_step(whose: Whose) -> CalendarStep | None:
    """What redo would bring again: the first step taken back since anything new was made."""
    last = last_step(whose)
    after = last.act.pk if last is not None else 0
    made = [row.at for row in (_newest_made(_changes(whose)), _newest_made(_season_changes(whose))) if row is not None]
    since = max(made, default=None)
    gone = _changes(whose).filter(undone_at__isnull=False, undone_at__gte=since, act_id__gt=after) if since else None
    first = gone.order_by("act_id").first() if gone is not None else None
    _, undone = steps_of(whose.people)
    live = [c for c in undone if since is not None and c.undone_at is not None and c.undone_at >= since]
    acts = [c.act_id for c in (first, *live) if c is not None and c.act_id is not None and c.act_id > after]
    return _step(min(acts), whose, undone=True) if acts else None


def _newest_made(rows: QuerySet[Any]) -> Act | None:
    pk = rows.order_by("-act_id").values_list("act_id", flat=True).first()
    return Act.objects.get(pk=pk) if pk is not None else None


def _season_changes(whose: Whose) -> QuerySet[Change]:
    return Change.objects.filter(athlete__in=whose.people, act__isnull=False)


def _changes(whose: Whose) -> QuerySet[CalendarChange]:
    entries = CalendarEntry.objects.filter(whose.seen).values("pk")
    practices = Practice.objects.filter(squad=whose.squad)
    if whose.athlete is not None:
        practices = practices.filter(Q(athlete=None) | Q(athlete=whose.athlete))
    shared = Competition.objects.filter(whose.seen).values("pk")
    on_page = Q(entry__in=entries) | Q(practice__in=practices.values("pk")) | Q(competition__in=shared)
    return CalendarChange.objects.filter(on_page, act__isnull=False)


def _step(act_id: int, whose: Whose, *, undone: bool) -> CalendarStep:
    act = Act.objects.select_related("person").get(pk=act_id)
    changes = CalendarChange.objects.select_related("entry", "practice", "competition").filter(
        act=act, undone_at__isnull=not undone
    )
    mine = Change.objects.filter(act=act, athlete__in=whose.people, undone_at__isnull=not undone).order_by("pk").first()
    seasons: Sequence[Change] = [c for c in made_with(mine) if (c.undone_at is not None) == undone] if mine is not None else ()
    return CalendarStep(act, tuple(changes), tuple(seasons))
