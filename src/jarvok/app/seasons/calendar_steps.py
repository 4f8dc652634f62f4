"""The steps of a calendar: what undo would take back and redo bring again, competitions and all else in one order."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

from django.db.models import Q, QuerySet

from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.people.models import Act
from jarvok.app.facts.seasons.models import CalendarEntry, Change, EntryChange
from jarvok.app.seasons.steps import made_with, steps_of


@dataclass(frozen=True)
class Whose:
    """The page of a calendar: one athlete's, or a squad's with what its athletes have of their own."""

    squad: Squad
    athlete: Athlete | None
    people: tuple[Athlete, ...]

    @property
    def seen(self) -> Q:
        """The entries on the page."""
        if self.athlete is None:
            return Q(squad=self.squad) | Q(athlete__in=self.people)
        return Q(athlete=self.athlete) | Q(squad=self.squad, group__in=("", self.athlete.group))


@dataclass(frozen=True)
class CalendarStep:
    """One press of a button: what it changed in the calendar, and whose seasons."""

    act: Act
    entries: tuple[EntryChange, ...]
    seasons: tuple[Change, ...]

    @property
    def words(self) -> str:
        """What was done."""
        return self.act.words or (self.seasons[0].words if self.seasons else "changed")


@contextmanager
def entry_changed(entry: CalendarEntry) -> Iterator[None]:
    """Store a change of an entry, and keep it with what the entry was before; a new one was out before."""
    is_new = entry._state.adding
    before = entry.to_raw() | ({"is_out": True} if is_new else {})
    yield
    if entry.to_raw() != before:
        entry.sequence += 0 if is_new else 1
        entry.save()
        EntryChange.objects.create(entry=entry, before=before, after=entry.to_raw())


def last_step(whose: Whose) -> CalendarStep | None:
    """The newest step that stands."""
    stands = _changes(whose).filter(undone_at__isnull=True).order_by("-act_id").first()
    seasons, _ = steps_of(whose.people)
    acts = [c.act_id for c in (stands, *seasons) if c is not None and c.act_id is not None]
    return _step(max(acts), whose, undone=False) if acts else None


def next_step(whose: Whose) -> CalendarStep | None:
    """What redo would bring again: the first step taken back after the newest that stands."""
    last = last_step(whose)
    after = last.act.pk if last is not None else 0
    gone = _changes(whose).filter(undone_at__isnull=False, act_id__gt=after).order_by("act_id").first()
    _, undone = steps_of(whose.people)
    acts = [c.act_id for c in (gone, *undone) if c is not None and c.act_id is not None and c.act_id > after]
    return _step(min(acts), whose, undone=True) if acts else None


def _changes(whose: Whose) -> QuerySet[EntryChange]:
    on_page = CalendarEntry.objects.filter(whose.seen).values("pk")
    return EntryChange.objects.filter(entry__in=on_page, act__isnull=False)


def _step(act_id: int, whose: Whose, *, undone: bool) -> CalendarStep:
    act = Act.objects.select_related("person").get(pk=act_id)
    entries = EntryChange.objects.select_related("entry").filter(act=act, undone_at__isnull=not undone)
    mine = Change.objects.filter(act=act, athlete__in=whose.people, undone_at__isnull=not undone).order_by("pk").first()
    seasons: Sequence[Change] = [c for c in made_with(mine) if (c.undone_at is not None) == undone] if mine is not None else ()
    return CalendarStep(act, tuple(entries), tuple(seasons))
