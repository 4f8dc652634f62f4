"""Whether a change is more than noise: typical error, smallest worthwhile change, and what both say of a change."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean, stdev

from jarvok.core.quantities.student import t_quantile

LEAST_ATHLETES = 3  # [J] of fewer a spread says nothing
CHANCE = 0.02  # [J] asked for anew every week, in one phase about one in twelve then
WORTHWHILE_SHARE = 0.2  # published: of the standard deviation between athletes, Hopkins 2000, quoted from memory


def typical_error(first: Sequence[float], second: Sequence[float]) -> float:
    """Return the typical error of a test done twice by the same athletes, in its unit: SD of the differences over √2.

    Hopkins 2000, quoted from memory. Raises ValueError for fewer than three athletes or lists that differ in length.
    """
    if len(first) != len(second) or len(first) < LEAST_ATHLETES:
        raise ValueError("three athletes or more, each tested twice, are wanted")
    return stdev(b - a for a, b in zip(first, second, strict=True)) / sqrt(2)


def smallest_worthwhile(of_athletes: Sequence[float]) -> float:
    """Return the smallest change that matters, in the unit of the test: a fifth of the SD between athletes."""
    return WORTHWHILE_SHARE * stdev(of_athletes)


def differ(first: Sequence[float], second: Sequence[float], chance: float = CHANCE) -> bool:
    """Return whether two groups differ by more than chance does in so many of all cases, by Student's t of a common spread.

    Raises ValueError where there are fewer than three values altogether or one group is empty.
    """
    n, m = len(first), len(second)
    if not n or not m or n + m <= 2:
        raise ValueError("three values or more in two groups are wanted")
    means = fmean(first), fmean(second)
    squares = sum((x - mean) ** 2 for rows, mean in zip((first, second), means, strict=True) for x in rows)
    error = sqrt(squares / (n + m - 2) * (1 / n + 1 / m))
    return abs(means[1] - means[0]) > t_quantile(1 - chance / 2, n + m - 2) * error


@dataclass(frozen=True)
class Change:
    """A change in its unit, beside the error of the test and, where it is known, the smallest that matters."""

    change: float
    typical_error: float
    worthwhile: float | None = None

    @property
    def is_more_than_noise(self) -> bool:
        """Whether it is larger than the error of a difference, which is √2 typical errors."""
        return abs(self.change) > sqrt(2) * self.typical_error

    @property
    def words(self) -> str:
        """It in words."""
        if not self.is_more_than_noise:
            return "not more than noise"
        if self.worthwhile is not None and abs(self.change) < self.worthwhile:
            return "more than noise, too small to matter"
        return "more than noise"
