"""Facts of a week as a key: two weeks planned from the same facts are the same week, whoever asks and however often."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import fields

from jarvok.core.library.exercises import own_in_use
from jarvok.core.week.plan import WeekFacts

AS_A_KEY = frozenset({"season", "practices", "moved", "contest", "placed"})  # [T] fields that are told apart in their own way


class Asked:
    """A week model and its facts, with the exercises of the coach's own that count, hashable."""

    __slots__ = ("facts", "key", "model")

    def __init__(self, model: str, facts: WeekFacts) -> None:
        self.model, self.facts = model, facts
        contest = facts.contest
        self.key: tuple[Hashable, ...] = (
            model,
            facts.window_weeks,
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
