"""What was worked out of an athlete's facts, kept in the process while the versions of those facts stand.

Facts stand in the database alone. Each thing that is kept hangs on the day, on the versions of the athlete, the squad and the
centre, and on how often the athlete was measured; where one has moved since, all that is kept of the athlete is thrown away,
but for what is known of the lifts where only the athlete's plan has changed, and for what a plan is laid from where only
sets were done.
Throwing it away changes nothing but time. What is worked out inside a transaction is not kept: it may never have been.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterable, Iterator, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date
from typing import Any, NamedTuple, TypeVar

from django.db import connection
from django.db.models import F, Model, QuerySet, Subquery
from django.db.models.signals import post_delete, post_save

from jarvok.app import clock
from jarvok.app.centre.habits import unit_at_the_desk
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.fact import Fact, going_on
from jarvok.app.facts.floor.models import SessionLine
from jarvok.app.facts.put_together import PutTogether
from jarvok.core.quantities.days import DayOrder, order_of_days

MOST_KEPT = 2000  # [T] athletes with what is small, a few kilobytes each
LIFTS, ATHLETE, PAGES, DAY = "lifts", "athlete", "pages", "day"
# [T] athletes with what is large, let go of before the rest: what is known of lifts is about a quarter of a megabyte each; an
# athlete with the weeks looked at about a megabyte, and serves whoever works on that plan just now; pages as they are sent are
# some twenty kilobytes an athlete, packed
MOST_LARGE_KEPT = {LIFTS: 250, ATHLETE: 40, PAGES: 100}
# what stood before sets were done: whoever asks takes from it what no set can have changed
BEFORE_SETS = {LIFTS: "lifts before sets", ATHLETE: "athlete before sets", DAY: "day before sets"}
COUNTED = (Fact, Squad, SessionLine, Centre)  # what acts write, and versions count
Kept = dict[Hashable, Any]
T = TypeVar("T")


class Stamp(NamedTuple):
    """What moves when anything known of an athlete changes."""

    day: date
    athlete: int
    plans: int
    sets: int
    measured: int
    squad_id: int
    squad: int
    centre: int

    def knows_as(self, other: Stamp) -> bool:
        """Whether nothing has been done since but a change of the athlete's plan, by which nothing new is known of lifts."""
        mine, theirs = (s._replace(athlete=s.athlete - s.plans, plans=0) for s in (self, other))
        return mine == theirs

    def plans_as(self, other: Stamp) -> bool:
        """Whether nothing has been done since but sets, by which nothing has changed that a coach has planned or typed."""
        mine, theirs = (s._replace(athlete=s.athlete - s.sets, sets=0, measured=0) for s in (self, other))
        return mine == theirs


class Of(NamedTuple):
    """Whose it is, and how it says days and masses: readers of two kinds do not throw away each other's."""

    athlete: int
    days: DayOrder
    unit: str


def _of(athlete: int) -> Of:
    return Of(athlete, order_of_days(), unit_at_the_desk())


_lock = threading.Lock()
_kept: OrderedDict[Of, tuple[Stamp, Kept]] = OrderedDict()
_with_large: dict[str, OrderedDict[Of, None]] = {what: OrderedDict() for what in MOST_LARGE_KEPT}
_not_kept: ContextVar[bool] = ContextVar("not_kept", default=False)


_with_the_rest: list[Callable[[], None]] = []


def forget_with_the_rest(forget: Callable[[], None]) -> Callable[[], None]:
    """Call this too where nothing may be kept any more."""
    _with_the_rest.append(forget)
    return forget


def inside_transaction() -> bool:
    """Whether what is read now may yet be taken back."""
    return connection.in_atomic_block


def may_be_taken() -> bool:
    """Whether what is kept may be taken now: while no change is under way, and nothing is tried out."""
    return going_on.get() is None and not _not_kept.get()


def may_be_kept() -> bool:
    """Whether what is worked out now may be kept: it is of the facts as they stand, and none of them may yet be taken back."""
    return may_be_taken() and not inside_transaction()


def _stamps_query(ids: Sequence[int]) -> QuerySet[Athlete, Any]:
    centre = Subquery(Centre.objects.filter(pk=1).values("version")[:1])
    rows = Athlete.objects.filter(pk__in=ids).order_by().annotate(centre_version=centre, squad_version=F("squad__version"))
    return rows.values_list(
        "pk", "version", "plan_version", "set_version", "measured", "squad_id", "squad_version", "centre_version"
    )


_STAMPS = PutTogether(_stamps_query)


def stamps_of(athletes: Iterable[int]) -> dict[int, Stamp]:
    """The stamps as they stand now, in one query."""
    today = clock.today()
    return {
        pk: Stamp(today, own, plans, sets, measured, squad_id, squad, whole or 0)
        for pk, own, plans, sets, measured, squad_id, squad, whole in _STAMPS.rows(list(athletes))
    }


def kept_of(athletes: Iterable[int]) -> dict[int, Kept]:
    """What is kept of each athlete, to be read and added to; something empty where nothing is, or nothing may be."""
    ids = list(athletes)
    if not may_be_taken():
        return {pk: {} for pk in ids}
    stamps, found = stamps_of(ids), dict[int, Kept]()
    may_add = not inside_transaction()
    with _lock:
        for pk in ids:
            of = _of(pk)
            now, before = stamps.get(pk), _kept.get(of)
            if now is not None and before is not None and before[0] == now:
                _kept.move_to_end(of)
                found[pk] = before[1] if may_add else dict(before[1])
                continue
            found[pk] = {}
            if now is not None and before is not None:
                found[pk] = _what_stays(*before, now)
            if now is not None and may_add:
                _kept[of] = (now, found[pk])
                _kept.move_to_end(of)
        while len(_kept) > MOST_KEPT:
            _kept.popitem(last=False)
    return found


def _what_stays(then: Stamp, kept: Kept, now: Stamp) -> Kept:
    """What stays of all that was kept, now that something has changed."""
    if then.knows_as(now):
        return {LIFTS: kept[LIFTS]} if LIFTS in kept else {}
    if not then.plans_as(now):
        return {}
    known = ((name, kept.get(what, kept.get(name))) for what, name in BEFORE_SETS.items())
    return {name: found for name, found in known if found is not None}


def keep_large(athlete: int, kept: Kept, what: str, found: Any) -> None:
    """Keep something large of an athlete, and let go of that of those who were not asked about for longest."""
    kept[what] = found
    kept.pop(BEFORE_SETS.get(what), None)
    with _lock:
        asked = _with_large[what]
        asked[_of(athlete)] = None
        asked.move_to_end(_of(athlete))
        while len(asked) > MOST_LARGE_KEPT[what]:
            oldest, _ = asked.popitem(last=False)
            if oldest in _kept:
                _kept[oldest][1].pop(what, None)
                _kept[oldest][1].pop(BEFORE_SETS.get(what), None)


def keep_over_a_change(athlete: int, what: str, before: Any, after: Any) -> None:
    """Keep `after`, read anew after one change of the plan alone, in the place of `before`, where there was no other change."""
    if not may_be_kept():
        return
    of, now = _of(athlete), stamps_of([athlete]).get(athlete)
    with _lock:
        then = _kept.get(of)
        if then is None or now is None or then[1].get(what) is not before:
            return
        if now == then[0]._replace(athlete=then[0].athlete + 1, plans=then[0].plans + 1):
            _kept[of] = (now, {key: then[1][key] for key in (LIFTS,) if key in then[1]} | {what: after})


_WHILE_KEPT = "worked_out_while_kept"


def begin_to_keep(athlete: Athlete, of: Athlete | None = None) -> None:
    """From now on what is worked out of this athlete stays with it; what was of another copy of it, `of`, is there already."""
    athlete.__dict__[_WHILE_KEPT] = dict(of.__dict__.get(_WHILE_KEPT, {})) if of is not None else {}


def while_kept(athlete: Athlete, work_out: Callable[[], T], what: str, monday: date | None = None) -> T:
    """What is worked out of an athlete, or of one of its weeks: once for as long as the athlete is kept, else each time."""
    kept: dict[tuple[str, date | None], Any] | None = athlete.__dict__.get(_WHILE_KEPT)
    if kept is None:
        return work_out()
    if (what, monday) not in kept:
        kept[what, monday] = work_out()
    found: T = kept[what, monday]
    return found


def forget_weeks_from(athlete: Athlete, monday: date, *what: str) -> None:
    """Nothing worked out of the weeks from a Monday on is kept any more, nor what else is named."""
    kept: dict[tuple[str, date | None], Any] | None = athlete.__dict__.get(_WHILE_KEPT)
    if kept is not None:
        stays = {key: found for key, found in kept.items() if key[0] not in what and (key[1] is None or key[1] < monday)}
        athlete.__dict__[_WHILE_KEPT] = stays


def keep_only(athlete: Athlete, *what: str) -> None:
    """Nothing worked out of the athlete is kept any more but what is named."""
    kept: dict[tuple[str, date | None], Any] = athlete.__dict__.get(_WHILE_KEPT, {})
    athlete.__dict__[_WHILE_KEPT] = {key: found for key, found in kept.items() if key[0] in what}


def forget_while_kept(athlete: Athlete) -> None:
    """Nothing stays with this athlete any more."""
    athlete.__dict__.pop(_WHILE_KEPT, None)


@contextmanager
def nothing_kept() -> Iterator[None]:
    """Read everything anew meanwhile, and keep nothing of it: what is tried out and taken back was never so."""
    token = _not_kept.set(True)
    try:
        yield
    finally:
        _not_kept.reset(token)


def forget_all_kept() -> None:
    """Keep nothing any more."""
    with _lock:
        _kept.clear()
        for asked in _with_large.values():
            asked.clear()
    for forget in _with_the_rest:
        forget()


def _written_outside(sender: type[Model], **_: Any) -> None:
    """A fact that no act wrote moves no version: nothing of before it is kept."""
    if going_on.get() is None and issubclass(sender, COUNTED):
        forget_all_kept()


post_save.connect(_written_outside, dispatch_uid="kept_known")
post_delete.connect(_written_outside, dispatch_uid="kept_known")
