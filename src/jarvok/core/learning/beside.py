"""Two athletes on one day, or what two phases brought, held against the error of their numbers."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from datetime import date
from math import sqrt

from jarvok.core.learning.noise import Change


@dataclass(frozen=True)
class Known:
    """A number as it was known on a day, with one standard error, both in its unit."""

    day: date
    value: float
    error: float


@dataclass(frozen=True)
class Brought:
    """What a phase brought: a number before it and at its end."""

    then: Known
    now: Known

    @property
    def gain(self) -> float:
        """What lies between, in its unit."""
        return self.now.value - self.then.value


def athletes_beside(one: Known, other: Known, worthwhile: float | None = None) -> Change:
    """Return by how much the other is above the one, beside the error of both: the root of the sum of both squared."""
    return Change(other.value - one.value, sqrt((one.error**2 + other.error**2) / 2), worthwhile)


def phases_beside(first: Brought, second: Brought, worthwhile: float | None = None) -> Change:
    """Return by how much more the second phase brought than the first, beside the error of all the numbers in it.

    Where one phase ends on the day from which the other is counted, the number of that day stands in the difference twice, and
    its error with it: twice the error, and not the root of two of them.
    """
    times: dict[date, int] = defaultdict(int)
    errors: dict[date, float] = {}
    for known, sign in ((second.now, 1), (second.then, -1), (first.now, -1), (first.then, 1)):
        times[known.day] += sign
        errors[known.day] = known.error
    squares = sum((n * errors[day]) ** 2 for day, n in times.items())
    return Change(second.gain - first.gain, sqrt(squares / 2), worthwhile)
