"""What chance alone does when the best of several is looked for: so that a difference is named only when it beats it."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

NAMED_BY_CHANCE = 0.10  # [J] of tests without any true difference, at most so many may name one
DRAWS = 20_000  # [T]
PERMUTATIONS = 2_000  # [T]
SEED = 8128  # [T]: the same rounds always give the same answer


@lru_cache(maxsize=256)
def critical_t(counts: tuple[int, ...], baselines: int, df: int) -> float:
    """Return how many standard errors the best of several means has to lie over a common baseline to beat chance.

    `counts` are the rounds behind each mean, `baselines` those of the baseline, `df` the degrees of freedom of their common
    spread. One-sided, for the whole family: Dunnett's many-to-one comparison (Dunnett 1955, from memory), by drawing.
    """
    rng = np.random.default_rng(SEED)
    base = rng.normal(0, baselines**-0.5, (DRAWS, 1))
    means = rng.normal(0, 1, (DRAWS, len(counts))) * np.array(counts) ** -0.5
    spread = np.sqrt(rng.chisquare(df, (DRAWS, 1)) / df)
    errors = np.sqrt(1 / np.array(counts) + 1 / baselines)
    return float(np.quantile(((means - base) / errors / spread).max(axis=1), 1 - NAMED_BY_CHANCE))


def falls_after(sets: Sequence[Sequence[float]]) -> int | None:
    """Return after which place the values of equally long rows fall, or None where chance would do as much.

    Of every place the mean up to it is held against the mean behind it, in standard errors; the largest difference is named
    when no more than one in ten of the rows with their places mixed shows one as large.
    """
    rows = np.array(sets, dtype=float)
    rows = rows - rows.mean(axis=1, keepdims=True)
    places = rows.shape[1]
    at = np.arange(1, places)
    scale = np.sqrt(1 / at + 1 / (places - at))

    def differences(table: np.ndarray) -> np.ndarray:
        up_to = np.cumsum(table, axis=-1)[..., :-1]
        behind = table.sum(axis=-1, keepdims=True) - up_to
        found: np.ndarray = (up_to / at - behind / (places - at)) / scale
        return found

    seen = differences(rows.mean(axis=0))
    rng = np.random.default_rng(SEED)
    mixed = rng.permuted(np.tile(rows, (PERMUTATIONS, 1, 1)), axis=2).mean(axis=1)
    as_large = (differences(mixed).max(axis=1) >= seen.max() - 1e-12).mean()  # [T]
    return int(seen.argmax()) + 1 if as_large <= NAMED_BY_CHANCE else None
