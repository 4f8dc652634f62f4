"""Facts of a week as a key: two weeks planned from the same facts are the same week, whoever asks and however often."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import fields

from jarvok.core.library.exercises import own_in_use
from jarvok.core.week.plan import WeekFacts

AS_A_KEY = frozenset({"season", "practices", "moved", "contest", "placed"})  # [T] fields that are told apart in their own way


class _TheVery:
    """Something told apart by being the very same one: a season is planned once for all whose facts are alike."""

    __slots__ = ("thing",)

    def __init__(self, thing: object) -> None:
        self.thing = thing

    def __hash__(self) -> int:
        return id(self.thing)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _TheVery) and self.thing is other.thing


class Asked:
    """A week model and its facts, with the exercises of the coach's own that count, hashable."""

    __slots__ = ("facts", "key", "model")

    def __init__(self, model: str, facts: WeekFacts) -> None:
        self.model, self.facts = model, facts
        contest = facts.contest
        self.key: tuple[Hashable, ...] = (
            model,
            _TheVery(facts.season),
            tuple(facts.practices),
            frozenset(facts.moved.items()),
            frozenset(facts.placed.items()),
            (contest.exposures, frozenset(contest.moves.items()), contest.limits),
            own_in_use(),
            *(getattr(facts, name) for name in _PLAIN),
        )

    def __hash__(self) -> int:
        """By all facts."""
        return hash(self.key)

    def __eq__(self, other: object) -> bool:
        """Whether the same week is asked for."""
        return isinstance(other, Asked) and self.key == other.key


_PLAIN = tuple(f.name for f in fields(WeekFacts) if f.name not in AS_A_KEY)
