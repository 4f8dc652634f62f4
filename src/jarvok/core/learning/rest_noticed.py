"""A rest between a heavy set and its jump that suits better than others, from the rounds of ordinary sessions.

A test with baselines says more (`testing.rest_test`); where the rests of a phase have differed by themselves, its rounds say
it as well. Common practice with Jarvok's own rule for chance.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np
from numpy.typing import NDArray

from jarvok.core.learning.findings import FRESH_DAYS, Kind, Noticed
from jarvok.core.quantities.days import said_day
from jarvok.core.testing.chance import PERMUTATIONS, SEED
from jarvok.core.testing.rest_test import clock_words

BAND_S = 30  # [J] a rest on the floor is kept to about half of this
SHORTEST_S, LONGEST_S = 15, 900  # [T] what lies outside was no rest of the pair
LEAST_ROUNDS, LEAST_DAYS = 3, 2  # [C] three rounds of a rest, on more days than one
BY_CHANCE = 0.05  # [J] half of what a test allows itself: sessions are looked at anew after each of them


@dataclass(frozen=True)
class PairRound:
    """One round of a pair: the rest as it was kept in s, the mean height of its jumps in cm, the set of the jumps."""

    day: date
    rest_s: float
    height_cm: float
    ref: str = ""


def rest_that_suits(jump_name: str, exercise_id: str, rounds: Sequence[PairRound], today: date) -> Noticed | None:
    """Return the rest after which a jump was higher than after the others by more than chance does, or None.

    Rests are read in bands of 30 s; a band needs three rounds, its rounds two days, the newest one four weeks at most. Heights
    are held against the mean of their day. Of rounds without any true difference at most one in twenty shows one as large: the
    bands of each day are mixed, and the largest difference looked for anew.
    """
    near = [(r, round(r.rest_s / BAND_S) * BAND_S) for r in rounds if SHORTEST_S <= r.rest_s <= LONGEST_S]
    counts = {band: sum(1 for _, b in near if b == band) for band in {b for _, b in near}}
    used = [(r, band) for r, band in near if counts[band] >= LEAST_ROUNDS]
    bands = sorted({band for _, band in used})
    days = sorted({r.day for r, _ in used})
    if len(bands) < 2 or len(days) < LEAST_DAYS or (today - days[-1]).days > FRESH_DAYS:
        return None
    heights = np.array([r.height_cm for r, _ in used])
    day_at = np.array([days.index(r.day) for r, _ in used])
    band_at = np.array([bands.index(band) for _, band in used])
    off = heights - np.array([heights[day_at == d].mean() for d in range(len(days))])[day_at]
    seen = _above_others(off, band_at[None, :], len(bands))[0]
    best = int(seen.argmax())
    if _as_large(off, day_at, band_at, len(bands), float(seen[best])) > BY_CHANCE:
        return None
    mine = band_at == best
    if len({int(d) for d in day_at[mine]}) < LEAST_DAYS:
        return None
    gain_pct = 100 * float(off[mine].mean() - off[~mine].mean()) / float(heights.mean())
    rest_s = bands[best]
    return Noticed(
        f"rest:{exercise_id}:{rest_s}",
        Kind.REST,
        exercise_id,
        f"{clock_words(rest_s)} before {jump_name.lower()} suits: {gain_pct:+.1f} % over the other rests, more than chance.",
        tuple(_band_words(used, heights, band) for band in bands),
        days[-1],
        float(rest_s),
    )


def _above_others(off: NDArray[np.float64], bands: NDArray[np.int64], count: int) -> NDArray[np.float64]:
    """How far the mean of each band lies over that of all others, in standard errors up to a factor; a row an arrangement."""
    found = np.empty((len(bands), count))
    for band in range(count):
        mine = bands == band
        n = mine.sum(axis=1)
        m = len(off) - n
        total = (mine * off).sum(axis=1)
        found[:, band] = (total / n - (off.sum() - total) / m) / np.sqrt(1 / n + 1 / m)
    return found


def _as_large(off: NDArray[np.float64], day_at: NDArray[np.int64], band_at: NDArray[np.int64], count: int, seen: float) -> float:
    """The share of arrangements, the bands of each day mixed, that show a difference as large."""
    rng = np.random.default_rng(SEED)
    mixed = np.tile(band_at, (PERMUTATIONS, 1))
    for day in np.unique(day_at):
        mine = day_at == day
        mixed[:, mine] = rng.permuted(mixed[:, mine], axis=1)
    return float((_above_others(off, mixed, count).max(axis=1) >= seen - 1e-12).mean())  # [T]


def _band_words(used: Sequence[tuple[PairRound, int]], heights: NDArray[np.float64], band: int) -> tuple[str, str]:
    rows = [(r, h) for (r, b), h in zip(used, heights, strict=True) if b == band]
    days = sorted({r.day for r, _ in rows})
    when = said_day(days[0]) + (f" to {said_day(days[-1])}" if len(days) > 1 else "")
    mean = float(np.mean([h for _, h in rows]))
    return f"{clock_words(band)}: {len(rows)} rounds, {mean:.1f} cm on average, {when}", rows[-1][0].ref
