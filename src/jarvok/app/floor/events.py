"""What happens on the floor is told to every page that is open, and to one that was away from where it left.

Events of a session are numbered in the order in which they went through: they are stored while its athlete's writes wait for
one another. Those of different sessions are not; how far a page has heard is therefore said of each session apart.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from contextlib import nullcontext
from typing import Any

from django.db import connection, transaction
from django.db.models import Max

from jarvok.app.facts.floor.models import FloorEvent, TrainingSession
from jarvok.app.facts.put_together import StoreTogether
from jarvok.app.facts.writing import is_writing, writing
from jarvok.app.hub import hub
from jarvok.app.problems import Conflict

LIVE = ("rep", "jump", "split", "heart", "velocity", "sensor")  # what comes with a set and changes nothing of who is up
MOST_AT_ONCE = 500  # [T] events sent before it is looked again
Heard = Mapping[int, int]  # the newest event heard of each session; of one that is not there, none
_EVENTS = StoreTogether(FloorEvent)
_HEARD = re.compile(r"[0-9]{1,15}:[0-9]{1,15}(,[0-9]{1,15}:[0-9]{1,15}){0,499}")


def tell(session: TrainingSession, kind: str, payload: dict[str, Any]) -> FloorEvent:
    """Store an event and wake the pages once the transaction is through; returns it."""
    wake = hub.wake if kind in LIVE else hub.changed
    here = nullcontext() if is_writing(session.athlete_id) else writing(of=session.athlete_id)
    with here:  # one row, which is there with all that was written before it, or not at all
        event = _EVENTS.store(session=session, kind=kind, payload=payload)
        transaction.on_commit(lambda: wake(session.pk))
    return event


def newest_events(session_ids: Collection[int], without: Collection[str] = ()) -> dict[int, int]:
    """Return the newest event of each session that has any, of some kinds left out."""
    rows = FloorEvent.objects.filter(session_id__in=session_ids).exclude(kind__in=without).order_by()
    return dict(rows.values_list("session_id").annotate(newest=Max("id")))


def events_after(session_ids: Collection[int], heard: Heard) -> list[FloorEvent]:
    """Return what was told of some sessions since it was heard, in order of their numbers, some hundreds at most."""
    if not session_ids:
        return []
    wanted = " OR ".join(["(session_id = %s AND id > %s)"] * len(session_ids))
    sql = f"SELECT id FROM {FloorEvent._meta.db_table} WHERE {wanted} ORDER BY id LIMIT {MOST_AT_ONCE}"
    with connection.cursor() as cursor:
        cursor.execute(sql, [n for s in session_ids for n in (s, heard.get(s, 0))])
        found = [pk for (pk,) in cursor.fetchall()]
    return list(FloorEvent.objects.filter(pk__in=found)) if found else []


def said_heard(heard: Heard) -> str:
    """How far a page has heard, in words that its stream is asked with again: `session:event`, comma between."""
    return ",".join(f"{session}:{event}" for session, event in heard.items())


def read_heard(said: str) -> dict[int, int]:
    """Read what `said_heard` wrote; what cannot be read has heard nothing."""
    if _HEARD.fullmatch(said) is None:
        return {}
    return {int(session): int(event) for session, event in (pair.split(":") for pair in said.split(","))}


def check_open(session: TrainingSession) -> None:
    """Raise `Conflict` when the session is over."""
    if session.finished_at is not None:
        raise Conflict("This session is finished; what was done stays as it is.")
