"""Running sessions as the process has them at hand between two sets: what a set and its advice need, without reading it again.

Facts stand in the database alone. What is at hand carries the counters that stood when it was read; where one of them has
moved since, it is thrown away and read anew. Whoever takes a session has it to themselves until it is given back.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from typing import Any, NamedTuple

from django.db import models
from django.db.models import Exists, OuterRef, QuerySet, Subquery
from django.http import Http404

from jarvok.app.athletes.findings import Learned, learned_by
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.floor.models import FloorEvent, SensorStream, SessionLine, TrainingSession
from jarvok.app.facts.put_together import PutTogether
from jarvok.app.facts.room.models import Attendance
from jarvok.app.floor.bests import sets_before
from jarvok.app.floor.lines import FloorLine, floor_lines, read_session
from jarvok.app.floor.results import last_results
from jarvok.core.learning.new_bests import Sweep, swept
from jarvok.core.quantities.days import order_of_days

MOST_AT_HAND = 64  # [T] sessions of sixteen racks; each is about half a megabyte


class Counters(NamedTuple):
    """What moves when anything of a session, or anything known of its athlete, changes."""

    event: int
    athlete: int
    sets: int  # how many of those that moved the athlete's wrote sets alone
    squad: int
    centre: int

    def differ_by_sets(self, other: Counters) -> bool:
        """Whether nothing has been done since but sets."""
        mine, theirs = (c._replace(event=0, athlete=c.athlete - c.sets, sets=0) for c in (self, other))
        return mine == theirs


class Placed(NamedTuple):
    """Where a session is run: counters, the athlete's rack of that day, whether a sensor has ever streamed into it."""

    counters: Counters
    rack: int | None
    has_streams: bool


@dataclass
class AtHand:
    """A session with its parts, and once it is asked for what was known of its athlete before it."""

    session: TrainingSession
    placed: Placed
    earlier: dict[tuple[str, str], Any] = field(default_factory=dict)  # what earlier sessions say of a lift
    told: list[FloorEvent] = field(default_factory=list)  # since it was taken
    said: dict[int, tuple[Any, Any]] = field(default_factory=dict)  # what a page is told of a line, and of what that was said
    _lines: dict[int, FloorLine] = field(default_factory=dict)  # each line as it stands, until something of it is written
    _book: LiftBook | None = None

    def lines(self) -> list[FloorLine]:
        """The session's lines as they stand."""
        return floor_lines(self.session, self._lines)

    def writes(self, line: SessionLine) -> None:
        """Something of a line is about to be written: how it stood says nothing more."""
        self._lines.pop(line.pk, None)

    @property
    def book(self) -> LiftBook:
        """What was known of the athlete when the session began: its own sets speak for themselves."""
        if self._book is None:
            self._book = LiftBook([self.session.athlete], self.session.day, without_session=self.session.pk)
        return self._book

    def line(self, line_id: int) -> SessionLine | None:
        """A line of the session by its id."""
        return next((x for x in self.session.lines.all() if x.pk == line_id), None)

    @property
    def learned(self) -> Learned:
        """What was found of the athlete's lifts, read once a session."""
        key = ("learned", order_of_days())
        if key not in self.earlier:
            self.earlier[key] = learned_by([self.session.athlete])[self.session.athlete_id]
        found: Learned = self.earlier[key]
        return found

    def beaten_before(self, exercise_id: str, refs: Collection[str]) -> Sweep:
        """What an exercise's sets of other sessions leave to be beaten; all its exercises are read once a session."""
        kept: dict[str, Sweep] = self.earlier.setdefault(("beaten", ""), {})
        if exercise_id not in kept:
            lifts = {exercise_id, *(x.exercise_id for x in self.session.lines.all())}
            kept |= {lift: swept(sets) for lift, sets in sets_before(self.session, lifts).items()}
        return kept[exercise_id]

    def results(self, exercise_ids: Collection[str]) -> dict[str, str]:
        """What was reached last time in some exercises, read once a session."""
        key = ("results", " ".join((order_of_days(), *sorted(exercise_ids))))
        if key not in self.earlier:
            self.earlier[key] = last_results(self.session, exercise_ids)
        found: dict[str, str] = self.earlier[key]
        return found


_lock = threading.Lock()
_kept: OrderedDict[int, AtHand] = OrderedDict()


def _placed_query(ids: Sequence[int]) -> QuerySet[TrainingSession, Any]:
    athlete_day = {"athlete_id": OuterRef("athlete_id"), "gathering__day": OuterRef("day"), "rack__isnull": False}
    return (
        TrainingSession.objects.filter(pk__in=ids)
        .order_by()
        .annotate(
            event=Subquery(FloorEvent.objects.filter(session_id=OuterRef("pk")).order_by("-id").values("id")[:1]),
            centre=Subquery(Centre.objects.filter(pk=1).values("version")[:1]),
            rack=Subquery(Attendance.objects.filter(**athlete_day).values("rack")[:1]),
            has_streams=Exists(SensorStream.objects.filter(line__session_id=OuterRef("pk"))),
        )
        .values_list(
            "event", "athlete__version", "athlete__set_version", "athlete__squad__version", "centre", "rack", "has_streams"
        )
    )


_PLACED = PutTogether(_placed_query)


def placed_now(session_id: int) -> Placed:
    """Return the counters as they stand, in one query; raise `Http404` where there is no such session."""
    row = next(iter(_PLACED.rows([session_id])), None)
    if row is None:
        raise Http404("No such session.")
    event, athlete, sets, squad, centre, rack, streams = row
    return Placed(Counters(event or 0, athlete, sets, squad, centre or 0), rack, bool(streams))


def taken(session_id: int) -> AtHand:
    """Return a session as it stands now: what is at hand of it where nothing has changed, else read anew.

    Its own sets, stored by another process, leave what is known of the athlete beside it as it is.
    """
    now = placed_now(session_id)
    with _lock:
        kept = _kept.pop(session_id, None)
    if kept is not None and kept.placed.counters == now.counters:
        kept.placed = now
        return kept
    found = AtHand(read_session(session_id), now)
    if kept is not None and kept.placed.counters.differ_by_sets(now.counters) and not _told_elsewhere(kept):
        found._book, found.earlier = kept._book, kept.earlier
    return found


def _told_elsewhere(held: AtHand) -> bool:
    """Whether anything was told of another session of the athlete since."""
    rows = FloorEvent.objects.filter(pk__gt=held.placed.counters.event, session__athlete_id=held.session.athlete_id)
    return rows.exclude(session_id=held.session.pk).exists()


def lent(session_id: int) -> AtHand | None:
    """Lend a session to a reader, who gives it back: where it is at hand and nothing has changed since. None: read it."""
    now = placed_now(session_id)
    with _lock:
        kept = _kept.get(session_id)
        if kept is None or kept.placed.counters != now.counters:
            return None
        del _kept[session_id]
    kept.placed = now
    return kept


def give_back(held: AtHand) -> None:
    """Have a session that was lent at hand again, unless somebody has logged a set meanwhile, or it is over."""
    if held.session.finished_at is not None:
        return
    with _lock:
        _kept.setdefault(held.session.pk, held)


def read_anew(session_id: int) -> AtHand:
    """Return a session in whose parts something was just changed: nothing of it is at hand."""
    with _lock:
        _kept.pop(session_id, None)
    return AtHand(read_session(session_id), placed_now(session_id))


def make_ready(session_id: int) -> int:
    """Read a session and what is known of its athlete before a transaction begins, where that has changed: whose it is."""
    now = placed_now(session_id)
    with _lock:
        found = _kept.get(session_id)
    if found is None or found.placed.counters != now.counters:
        found = taken(session_id)
        assert found.book is not None
        keep(found)
    return found.session.athlete_id


def has_written(held: AtHand) -> None:
    """Follow the counters that a set has just moved: its athlete's, and the events it told."""
    now = held.placed.counters
    event = held.told[-1].pk if held.told else now.event
    held.placed = held.placed._replace(counters=now._replace(event=event, athlete=now.athlete + 1, sets=now.sets + 1))
    held.told.clear()


def keep(held: AtHand) -> None:
    """Give a session that goes on back for the next set, once what was done with it is stored."""
    if held.session.finished_at is not None:
        return
    with _lock:
        _kept[held.session.pk] = held
        _kept.move_to_end(held.session.pk)
        while len(_kept) > MOST_AT_HAND:
            _kept.popitem(last=False)


def forget(session_id: int) -> None:
    """A session is over: nothing of it is kept."""
    with _lock:
        _kept.pop(session_id, None)


def forget_all() -> None:
    """Nothing is at hand any more: the database itself was put in place of another."""
    with _lock:
        _kept.clear()


def put(of: SessionLine | TrainingSession, part: str, row: models.Model) -> None:
    """A row that was just stored belongs to a part of its line or session from now on, without reading that again."""
    rows = of._prefetched_objects_cache[part]  # type: ignore[union-attr]
    rows._result_cache.append(row)
