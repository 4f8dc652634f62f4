"""A competition is moved, renamed or ranked otherwise."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.problems import Conflict
from jarvok.app.seasons.typed_season import TypedCompetition, changed, checked, not_past, own_name, write
from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import RANK_NAMES, Rank


def run(who: Who, competition: Entry, typed: TypedCompetition) -> Entry:
    """A competition is moved, renamed or ranked otherwise."""
    with acting(who, "change_competition", f"{competition.name} changed", athlete=competition.athlete) as act:
        if competition.block is not None:
            raise Conflict("A block of weeks is taken out and added anew.")
        typed = checked(typed)
        words: list[str] = []
        if typed.name != competition.name:
            own_name(competition.athlete, typed, competition)
        if typed.day != competition.day:
            not_past(typed.day)
            words.append(f"{competition.name} moved from {said_day(competition.day)} to {said_day(typed.day)}")
        if typed.name != competition.name:
            words.append(f"{competition.name} renamed to {typed.name}")
        if typed.rank != competition.rank:
            words.append(f"{typed.name} is {RANK_NAMES[Rank(typed.rank)]} now")
        act.words = "; ".join(words) or f"{typed.name} changed"
        with changed(competition.athlete, words or [f"{typed.name} changed"]):
            write(competition, typed)
        return competition
