"""After a competition: what was forecast on the day before it, what became of it, and what the way there was."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Entry, EntryResult
from jarvok.app.learning.weeks import weeks_of
from jarvok.core.learning.after import BEFORE_WEEKS, TAPER_WEEKS, TaperSeen, taper_seen
from jarvok.core.library.exercises import exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.quantities.plates import unit_of
from jarvok.core.rules import Rules
from jarvok.core.season.exposures import Event, EventKind, event_kinds
from jarvok.core.season.model import Rank

ASKED_DAYS = 90  # [J] a result that nobody has written for a season is not asked for any more


@dataclass(frozen=True)
class EventAfter:
    """An event: the lift it is done with, and the max that stood on the day before, where it is contested by load.

    `unit` is what its load is said in: that of the plates.
    """

    name: str
    exercise_id: str
    is_by_load: bool
    forecast: CurrentMax | None
    unit: str = "kg"


@dataclass(frozen=True)
class After:
    """An entry looked back on."""

    entry: Entry
    events: tuple[EventAfter, ...]
    result: EntryResult | None
    taper: TaperSeen | None


def past_entries(people: list[Athlete]) -> list[tuple[Entry, bool]]:
    """Competitions of the last months, newest first, each with whether its result is written."""
    today = clock.today()
    rows = Entry.objects.filter(athlete__in=people, withdrawn_at__isnull=True).select_related("competition", "athlete")
    written = set(EntryResult.objects.filter(entry__in=rows).values_list("entry_id", flat=True))
    past = [e for e in rows if e.rank != Rank.BLOCK and today - timedelta(days=ASKED_DAYS) <= e.day < today]
    return [(e, e.pk in written) for e in sorted(past, key=lambda e: (e.day, e.pk), reverse=True)]


def after_of(athlete: Athlete, entry: Entry, rules: Rules) -> After:
    """Look back on an entry. The forecast is what was known on the day before; its own results are not in it."""
    book = LiftBook([athlete], entry.day - timedelta(days=1), rules=rules)
    kinds, known, kit = event_kinds(), exercises(), kit_of(athlete.kit)
    events: list[EventAfter] = []
    for event in (Event.from_raw(e) for e in entry.events):
        kind = kinds[event.kind]
        is_for_more = event.reps or event.time_s or event.distance_m
        for lift in _lifts_of(event, kind) if kind.amounts else ():  # a bout or a match has a score, and that is the place
            by_load = bool(lift) and known[lift].is_loaded and not is_for_more
            name = event.name or (known[lift].name if lift and len(kind.exercise_ids) > 1 else kind.name)
            unit = unit_of(implement_for(known[lift], kit)) if by_load else "kg"
            events.append(EventAfter(name, lift, by_load, book.max(athlete.pk, lift) if by_load else None, unit))
    return After(entry, tuple(events), entry.results.last(), _taper(athlete, entry.day, rules))


def _lifts_of(event: Event, kind: EventKind) -> tuple[str, ...]:
    """What an event is done with: its own exercise, else each of its kind's; nothing known is one event without a lift."""
    known = exercises()
    return tuple(x for x in ((event.exercise_id,) if event.exercise_id else kind.exercise_ids) if x in known) or ("",)


def _taper(athlete: Athlete, day: date, rules: Rules) -> TaperSeen | None:
    first = day - timedelta(weeks=TAPER_WEEKS + BEFORE_WEEKS)
    weeks = weeks_of([athlete], first, day, rules)[athlete.pk]
    sets = {s.day: s.done.main_sets for w in weeks for s in w.sessions}
    by_week = [
        sum(n for d, n in sets.items() if first + timedelta(weeks=i) <= d < first + timedelta(weeks=i + 1))
        for i in range(TAPER_WEEKS + BEFORE_WEEKS)
    ]
    return taper_seen(by_week)
