"""Rests that suit athletes, from their own tests or from what their sessions showed: between a heavy set and its jump."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from itertools import pairwise
from typing import NamedTuple

from jarvok.app import clock
from jarvok.app.athletes.findings import standing
from jarvok.app.facts.learning.models import Finding
from jarvok.app.facts.room.models import OwnDefault
from jarvok.core.learning.findings import RETEST_WEEKS, Kind, rest_words
from jarvok.core.quantities.days import said_day
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.planned import PlannedSession


class OwnRest(NamedTuple):
    """A rest in s that a coach has kept for one athlete, and why, as it is said beside the line."""

    rest_s: int
    words: str


def primed(session: PlannedSession) -> dict[str, str]:
    """Return the exercise that each line of a primer pair prepares, by the id of the line."""
    return {
        heavy.line_id: jump.exercise_id
        for heavy, jump in pairwise(session.lines)
        if heavy.style.grouping is Grouping.PAPE and heavy.block == jump.block
    }


def own_rests(sessions: Mapping[int, Sequence[PlannedSession]]) -> dict[int, dict[str, OwnRest]]:
    """Return the athletes' own rests by exercise that follows the rest, the one kept last; nothing is read where no session
    has such a pair."""
    asked = {who: {x for s in rows for x in primed(s).values()} for who, rows in sessions.items()}
    return own_rests_before({who: wanted for who, wanted in asked.items() if wanted})


def own_rests_before(asked: Mapping[int, set[str]]) -> dict[int, dict[str, OwnRest]]:
    """Return the athletes' own rests before some exercises."""
    if not asked:
        return {}
    every, today = set().union(*asked.values()), clock.today()
    kept: list[tuple[datetime, int, str, OwnRest]] = []
    for row in OwnDefault.objects.filter(athlete_id__in=asked, kind="rest", exercise_id__in=every):
        weeks = (today - clock.day_of(row.at)).days / 7
        rest_s = int(row.value)
        words = rest_words(rest_s, f"own test of {said_day(clock.day_of(row.at))}", asks_again=weeks >= RETEST_WEEKS)
        kept.append((row.at, row.athlete_id, row.exercise_id, OwnRest(rest_s, words)))
    findings = Finding.objects.filter(athlete_id__in=asked, kind=Kind.REST, exercise_id__in=every, value__isnull=False)
    for item in standing(findings):
        found, word = item.finding, item.word
        if item.acts and word is not None and found.value is not None and found.athlete_id is not None:
            words = rest_words(int(found.value), f"finding of {said_day(found.day)}", asks_again=item.asks_again(today))
            kept.append((word.at, found.athlete_id, found.exercise_id, OwnRest(int(found.value), words)))
    rests: dict[int, dict[str, OwnRest]] = {}
    for _, who, exercise_id, rest in sorted(kept, key=lambda row: row[0]):
        rests.setdefault(who, {})[exercise_id] = rest
    return rests
