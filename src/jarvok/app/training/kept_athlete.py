"""An athlete with all that a week is laid from, and what was worked out of it, kept for the pages that only read."""

from __future__ import annotations

import copy
from collections.abc import Iterable
from datetime import date

from jarvok.app import clock
from jarvok.app.athletes.kept_known import ATHLETE, BEFORE_SETS, begin_to_keep, keep_large, keep_over_a_change, kept_of
from jarvok.app.athletes.lags import said_before_sets, say_by
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.planned_weeks import leave_out_sets, leave_out_weeks, read_moves_again, read_season_again
from jarvok.core.season.model import monday_of

_READER = "reader_it_was_taken_from"


def reader_of(athlete_id: int) -> Athlete:
    """The same for a page that changes nothing of it: shared by all who read while nothing changes; 404 where there is none."""
    kept = kept_of([athlete_id])[athlete_id]
    found: Athlete | None = kept.get(ATHLETE)
    before: Athlete | None = kept.get(BEFORE_SETS[ATHLETE])
    if found is None and before is not None:
        found = after_sets(before, LiftBook([before], clock.today()))
    elif found is None:
        found = athlete_of(athlete_id)
        begin_to_keep(found)
    keep_large(athlete_id, kept, ATHLETE, found)
    return found


def readers_at_hand(athletes: Iterable[int]) -> dict[int, Athlete]:
    """Those of some athletes that are kept, with what was worked out of them; after sets alone as they stand now."""
    kept = kept_of(athletes)
    found: dict[int, Athlete] = {pk: rows[ATHLETE] for pk, rows in kept.items() if ATHLETE in rows}
    before: dict[int, Athlete] = {pk: rows[BEFORE_SETS[ATHLETE]] for pk, rows in kept.items() if BEFORE_SETS[ATHLETE] in rows}
    book = LiftBook(before.values(), clock.today())
    for pk, athlete in before.items():
        found[pk] = after_sets(athlete, book)
        keep_large(pk, kept[pk], ATHLETE, found[pk])
    return found


def after_sets(before: Athlete, book: LiftBook) -> Athlete:
    """The athlete after sets alone were done: as read, and with the weeks laid before where the maxes say the same of them."""
    found = copy.copy(before)
    found.__dict__["_prefetched_objects_cache"] = dict(before.__dict__["_prefetched_objects_cache"])
    begin_to_keep(found, before)
    said = said_before_sets(found)
    if said is not None and say_by(book, found) == said:
        leave_out_sets(found)
    else:
        leave_out_weeks(found)
    return found


def changer_of(athlete_id: int) -> Athlete:
    """The same, apart from those who read, for an action that changes its plan alone and no row of what was read."""
    reader = reader_of(athlete_id)
    found = copy.copy(reader)
    found.__dict__["_prefetched_objects_cache"] = dict(reader.__dict__["_prefetched_objects_cache"])
    begin_to_keep(found, reader)
    found.__dict__[_READER] = reader
    return found


def moved(changer: Athlete, monday: date) -> Athlete:
    """The athlete after one session was moved in the week of a Monday, kept for readers where nothing else has changed."""
    reader = changer.__dict__.pop(_READER)
    read_moves_again(changer, monday)
    keep_over_a_change(changer.pk, ATHLETE, reader, changer)
    return changer


def replanned(changer: Athlete) -> Athlete:
    """The athlete after one change of its season alone, kept for readers where nothing else has changed."""
    reader = changer.__dict__.pop(_READER)
    read_season_again(changer, monday_of(clock.today()))
    keep_over_a_change(changer.pk, ATHLETE, reader, changer)
    return changer
