"""Rests that athletes' own tests have found: between the heavy set of a primer pair and its jump."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise

from jarvok.app.facts.room.models import OwnDefault
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.planned import PlannedSession

OwnRests = Mapping[str, int]  # s, by the id of the line after whose sets the rest is


def primed(session: PlannedSession) -> dict[str, str]:
    """Return the exercise that each line of a primer pair prepares, by the id of the line."""
    return {
        heavy.line_id: jump.exercise_id
        for heavy, jump in pairwise(session.lines)
        if heavy.style.grouping is Grouping.PAPE and heavy.block == jump.block
    }


def own_rests(sessions: Mapping[int, Sequence[PlannedSession]]) -> dict[int, dict[str, int]]:
    """Return the athletes' own rests in s by exercise that follows the rest; nothing is read where no session has such a pair."""
    asked = {who: {x for s in rows for x in primed(s).values()} for who, rows in sessions.items()}
    asked = {who: wanted for who, wanted in asked.items() if wanted}
    found: dict[int, dict[str, int]] = {}
    if asked:
        every = set().union(*asked.values())
        for kept in OwnDefault.objects.filter(athlete_id__in=asked, kind="rest", exercise_id__in=every).order_by("id"):
            found.setdefault(kept.athlete_id, {})[kept.exercise_id] = int(kept.value)
    return found
