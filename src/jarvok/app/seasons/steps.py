"""The steps of a season: what undo would take back and redo bring again, for one athlete or for all it was made for."""

from __future__ import annotations

import itertools
from collections import defaultdict
from collections.abc import Sequence

from django.db.models import QuerySet

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.seasons.models import CalendarChange, Change
from jarvok.app.problems import Conflict


def _steps(ids: Sequence[int]) -> QuerySet[Change]:
    """Changes with the whole season in them, the newest first: those from before cannot be taken back."""
    rows = Change.objects.select_related("act__person", "athlete").defer("before", "after")
    return rows.filter(athlete_id__in=ids, before__has_key="style")


_STEPS = Objects(_steps)
_NEWEST = Objects(lambda ids: _steps(ids)[:1])
_LAST = Objects(lambda ids: _steps(ids).filter(undone_at__isnull=True)[:1])


def last_step(athlete: Athlete) -> Change | None:
    """The newest change that stands, its facts read when they are asked for."""
    return next(iter(_LAST.of([athlete.pk])), None)


def next_step(athlete: Athlete) -> Change | None:
    """The change that redo would bring again: the first one taken back since anything new was made."""
    return _undone(_STEPS.of([athlete.pk]))


def last_and_next(athlete: Athlete) -> tuple[Change | None, Change | None]:
    """The newest change that stands, and what redo would bring again: where the newest of all stands, nothing."""
    newest = next(iter(_NEWEST.of([athlete.pk])), None)
    if newest is None or newest.undone_at is None:
        return newest, None
    return last_step(athlete), next_step(athlete)


def steps_of(people: Sequence[Athlete]) -> tuple[list[Change], list[Change]]:
    """The newest change of each that stands, and what redo would bring again of each, read at once."""
    rows: dict[int, list[Change]] = defaultdict(list)
    for change in _STEPS.of([a.pk for a in people]):
        rows[change.athlete_id or 0].append(change)
    last = [c for mine in rows.values() if (c := next((x for x in mine if x.undone_at is None), None)) is not None]
    undone = [u for mine in rows.values() if (u := _undone(mine)) is not None]
    return last, undone


def _undone(mine: Sequence[Change]) -> Change | None:
    """The first of those, the newest first, that were taken back since the newest was made: a new one ends older ones."""
    made = mine[0].at if mine else None
    after = list(itertools.takewhile(lambda c: c.undone_at is not None and made is not None and c.undone_at >= made, mine))
    return after[-1] if after else None


def made_with(step: Change) -> list[Change]:
    """All changes of the same press of a button, the athlete's own first."""
    if step.act_id is None:
        return [step]
    rows = Change.objects.select_related("athlete").filter(act_id=step.act_id, athlete__isnull=False).order_by("pk")
    return sorted(rows, key=lambda c: c.pk != step.pk)


def people_of(step: Change) -> int:
    """For how many athletes it was made at once."""
    return 1 if step.act_id is None else Change.objects.filter(act_id=step.act_id, athlete__isnull=False).count()


def wanted(step: Change, scope: str) -> list[Change]:
    """The changes of a scope: this athlete's, or all that were made with it."""
    if scope not in ("athlete", "all"):
        raise Conflict("Undo is for this athlete, or for all it was made for.")
    return made_with(step) if scope == "all" else [step]


def shared_of(changes: Sequence[Change]) -> list[CalendarChange]:
    """What of whole squads was changed with some seasons; nothing where these are not all it was made for."""
    first = changes[0] if changes else None
    if first is None or first.act_id is None or len(changes) < len(made_with(first)):
        return []
    return list(CalendarChange.objects.filter(act_id=first.act_id, competition__isnull=False))


def refuse_what_lies_below(changes: list[Change], *, redo: bool) -> None:
    """Refuse with words where another change has been made on top of one of them."""
    for change in changes:
        if change.athlete is None:
            continue
        top = next_step(change.athlete) if redo else last_step(change.athlete)
        if top is None or top.pk != change.pk:
            on_top = last_step(change.athlete)
            words = f"“{on_top.words}” came after it" if on_top is not None and on_top.pk != change.pk else "it stands no more"
            raise Conflict(f"{change.athlete.name}: {words}. Undo it for one athlete at a time.")
