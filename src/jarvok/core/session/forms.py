"""What a line is done with where that changes: the implement or form of a round, an easier and a harder form.

Lengths are technical [T].
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from jarvok.core.errors import CoachError

LONGEST, MOST_ROUNDS = 40, 30
SIDES = ("easier", "harder")


@dataclass(frozen=True)
class Forms:
    """Words of some rounds (from 1), and the easier and the harder form of the whole line; empty where it has none."""

    rounds: tuple[tuple[int, str], ...] = ()
    easier: str = ""
    harder: str = ""

    def of_round(self, number: int) -> str:
        """Return what a round is done with, empty where it is as the line says."""
        return dict(self.rounds).get(number, "")

    def with_round(self, number: int, words: str) -> Forms:
        """Return the forms with the words of one round; empty ones take them away. Raises `CoachError` outside 1 to 30."""
        if not 1 <= number <= MOST_ROUNDS:
            raise CoachError(f"There is no round {number}.", where="round", accepted=f"1 to {MOST_ROUNDS}.")
        words = _checked(words, "what the round is done with", "note")
        rounds = {n: w for n, w in self.rounds if n != number} | ({number: words} if words else {})
        return replace(self, rounds=tuple(sorted(rounds.items())))

    def with_levels(self, easier: str, harder: str) -> Forms:
        """Return the forms with an easier and a harder one; empty ones take them away."""
        return replace(
            self,
            easier=_checked(easier, "the easier form", "easier"),
            harder=_checked(harder, "the harder form", "harder"),
        )

    @property
    def words(self) -> str:
        """The rounds as they stand on the board: `stick in round 1, bar in round 2`."""
        return ", ".join(f"{words} in round {n}" for n, words in self.rounds)

    @property
    def levels(self) -> str:
        """The easier and the harder form, as they stand on the board."""
        return " · ".join(f"{side}: {words}" for side in SIDES if (words := getattr(self, side)))

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any], where: str = "") -> Forms:
        """Return the forms of a line as it was kept; raises `CoachError` that names the place of what cannot be read."""
        found = cls()
        rounds = raw.get("rounds") or {}
        if not isinstance(rounds, Mapping):
            raise CoachError("Rounds are words by their number.", where=f"{where}.rounds", accepted='{"1": "stick"}')
        for key, words in rounds.items():
            if not str(key).isdecimal() or not isinstance(words, str):
                raise CoachError(f"“{key}” is no round.", where=f"{where}.rounds", accepted='{"1": "stick"}')
            found = found.with_round(int(key), words)
        return found.with_levels(*(str(raw.get(side) or "") for side in SIDES))

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON, only what is there."""
        found: dict[str, Any] = {"rounds": {str(n): w for n, w in self.rounds}} if self.rounds else {}
        return {**found, **{side: words for side in SIDES if (words := getattr(self, side))}}


AS_IT_IS = Forms()


def _checked(words: str, what: str, where: str) -> str:
    words = words.strip()
    if len(words) > LONGEST:
        raise CoachError(f"{what.capitalize()} is too long.", where=where, accepted=f"Up to {LONGEST} characters.")
    return words
