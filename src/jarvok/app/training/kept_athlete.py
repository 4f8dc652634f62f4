"""An athlete with all that a week is laid from, and what was worked out of it, kept for the pages that only read."""

from __future__ import annotations

import copy
from datetime import date

from django.shortcuts import get_object_or_404

from jarvok.app import clock
from jarvok.app.athletes.kept_known import ATHLETE, begin_to_keep, keep_large, keep_over_a_change, kept_of
from jarvok.app.athletes.reading import FOR_A_WEEK
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.training.planned_weeks import read_moves_again, read_season_again
from jarvok.core.season.model import monday_of

_READER = "reader_it_was_taken_from"


def athlete_of(athlete_id: int) -> Athlete:
    """The athlete as the facts say now, for an action that changes something; 404 where there is none."""
    return get_object_or_404(
        Athlete.objects.select_related("squad", "kit").prefetch_related(*FOR_A_WEEK, "masses"), pk=athlete_id
    )


def reader_of(athlete_id: int) -> Athlete:
    """The same for a page that changes nothing of it: shared by all who read while nothing changes; 404 where there is none."""
    kept = kept_of([athlete_id])[athlete_id]
    found: Athlete | None = kept.get(ATHLETE)
    if found is None:
        found = athlete_of(athlete_id)
        begin_to_keep(found)
    keep_large(athlete_id, kept, ATHLETE, found)
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
