"""All readings of one kind together: newer ones weigh more, and their rise over the weeks is the athlete's trend."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from jarvok.core.marks.readings import Reading

HALF_LIFE_DAYS = 14  # [J] a reading weighs half as much beside one two weeks newer
TREND_HALF_LIFE_DAYS = 28  # [J] a trend is asked of about eight weeks
OF_THE_KIND = 0.55  # [J] of a kind's variance: how far off it is for this athlete, which more readings do not mend
LEAST_POINTS = 2.0  # [T]
TREND_PRIOR_DAYS2 = 1000.0  # [J] spread of days, in days squared, at which a trend is half believed


@dataclass
class Pool:
    """The readings of one kind since they last began anew. Times are days since `START`."""

    newest: Reading | None = None
    count: int = 0
    _w: float = 0.0
    _ww: float = 0.0
    _wx: float = 0.0
    _wt: float = 0.0
    _error: float = 0.0

    def add(self, reading: Reading) -> None:
        """Take a reading in, no older than the newest."""
        t = (reading.mark.day - START).days
        if self.newest is not None:
            fade = 0.5 ** ((t - (self.newest.mark.day - START).days) / HALF_LIFE_DAYS)
            self._w, self._wx, self._wt = self._w * fade, self._wx * fade, self._wt * fade
            self._ww, self._error = self._ww * fade * fade, self._error * fade
        weight = (3.0 / reading.error_pct) ** 2  # [T] of one usual error: a reading with its own, larger error weighs less
        self._w += weight
        self._ww += weight * weight
        self._wx += weight * reading.max_kg
        self._wt += weight * t
        self._error += weight * reading.error_pct
        self.newest, self.count = reading, self.count + 1

    def begin_anew(self) -> None:
        """Forget the readings: a test has said where the max stands."""
        self.newest, self.count = None, 0
        self._w = self._ww = self._wx = self._wt = self._error = 0.0

    @property
    def mean_kg(self) -> float:
        """What they say together, on the day they are of in the mean."""
        return self._wx / self._w

    @property
    def mean_day(self) -> float:
        """The day they are of in the mean."""
        return self._wt / self._w

    @property
    def error_pct(self) -> float:
        """One standard error of what they say together, in per cent."""
        error = self._error / self._w
        return float(error * (OF_THE_KIND + (1 - OF_THE_KIND) * self._ww / self._w**2) ** 0.5)


@dataclass
class Rise:
    """How readings of all kinds together rose: sums of a line through them, older ones fading."""

    last: float = 0.0
    w: float = 0.0
    wt: float = 0.0
    wx: float = 0.0
    wtt: float = 0.0
    wtx: float = 0.0

    def add(self, reading: Reading) -> None:
        """Take a reading in, no older than the last."""
        t, x = float((reading.mark.day - START).days), reading.max_kg
        if self.w:
            fade = 0.5 ** ((t - self.last) / TREND_HALF_LIFE_DAYS)
            self.w, self.wt, self.wx, self.wtt, self.wtx = (
                self.w * fade, self.wt * fade, self.wx * fade, self.wtt * fade, self.wtx * fade
            )  # fmt: skip
        self.last = t
        self.w += 1
        self.wt += t
        self.wx += x
        self.wtt += t * t
        self.wtx += t * x

    def kg_a_day(self, most_kg_a_day: float) -> float:
        """Return the rise in kg a day: never a fall, never over the most, and less the shorter the time they span."""
        if self.w < LEAST_POINTS:
            return 0.0
        days2 = self.wtt - self.wt**2 / self.w
        together = self.wtx - self.wt * self.wx / self.w
        return min(max(0.0, together / (days2 + TREND_PRIOR_DAYS2)), most_kg_a_day)


START = date(2000, 1, 1)  # [T]
