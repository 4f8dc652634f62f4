"""A measured set in one look: zone, fastest and last, propulsive mean, time to peak, and how even it was."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import mean, stdev

from jarvok.core.velocity.definition import DEFINITION_WORDS, Definition, short_phase_words
from jarvok.core.velocity.zones import velocity_loss_pct, zone_for

EVEN_PCT, UNEVEN_PCT = 4.0, 10.0  # [J] spread of the repetitions' velocities over their mean
SLOW_FIRST_PCT = 5.0  # [J] so much under the second: the first was not grooved yet
LONG_S = 60.0  # [T]
LEAST_REPS = 3  # [J] fewer say nothing of evenness


@dataclass(frozen=True)
class MeasuredRep:
    """One repetition as measured: velocities in m/s, times in s, range in m."""

    mean_mps: float
    propulsive_mps: float
    peak_mps: float
    time_to_peak_s: float
    range_m: float
    definition: Definition = Definition.CROSSING

    @property
    def duration_s(self) -> float:
        """Length of the phase in s."""
        return self.range_m / self.mean_mps if self.mean_mps > 0 else 0.0


@dataclass(frozen=True)
class SetSummary:
    """What a coach looks at after a set; `counts` is mean or peak, the number that counts for the lift. Velocities in m/s.

    `spread_pct` is the standard deviation of that number over its mean in per cent (None under three repetitions),
    `time_to_peak_spread_s` that of the time to peak; `words` say what the evenness means, `definition` from where to where
    the mean is taken, `caution` what a short phase is worth.
    """

    counts: str
    fastest_mps: float
    last_mps: float
    mean_mps: float
    propulsive_mps: float
    peak_mps: float
    time_to_peak_s: float
    zone: str
    loss_pct: float
    spread_pct: float | None
    time_to_peak_spread_s: float | None
    words: str
    definition: str
    caution: str


def summary(reps: Sequence[MeasuredRep], counts: str) -> SetSummary | None:
    """Return a set of repetitions in one look; None without any. `counts` is "mean" or "peak"."""
    if not reps:
        return None
    counting = [r.peak_mps if counts == "peak" else r.mean_mps for r in reps]
    times = [r.time_to_peak_s for r in reps]
    many = len(reps) >= LEAST_REPS
    spread_pct = 100 * stdev(counting) / mean(counting) if many else None
    kinds = dict.fromkeys(r.definition for r in reps)
    filtered = [r for r in reps if r.definition is Definition.CROSSING]
    return SetSummary(
        counts=counts,
        fastest_mps=max(counting),
        last_mps=counting[-1],
        mean_mps=mean(r.mean_mps for r in reps),
        propulsive_mps=mean(r.propulsive_mps for r in reps),
        peak_mps=max(r.peak_mps for r in reps),
        time_to_peak_s=mean(times),
        zone=zone_for(mean(r.mean_mps for r in reps)).name,
        loss_pct=velocity_loss_pct(counting),
        spread_pct=spread_pct,
        time_to_peak_spread_s=stdev(times) if many else None,
        words=_evenness(counting, spread_pct),
        definition="mean " + " and ".join(DEFINITION_WORDS[k] for k in kinds),
        caution=short_phase_words(min((r.duration_s for r in filtered), default=LONG_S)) if counts == "mean" else "",
    )


def _evenness(counting: Sequence[float], spread_pct: float | None) -> str:
    """What the spread means. A set that only slows down is tired, not uneven."""
    if spread_pct is None:
        return ""
    if counting[0] < counting[1] * (1 - SLOW_FIRST_PCT / 100):
        return "the first repetition was slow: timing not grooved yet"
    falls = all(b <= a for a, b in pairwise(counting))
    if spread_pct <= EVEN_PCT:
        return "even"
    if falls:
        return "slowing from repetition to repetition"
    return "uneven: timing not grooved yet" if spread_pct > UNEVEN_PCT else "somewhat uneven"
