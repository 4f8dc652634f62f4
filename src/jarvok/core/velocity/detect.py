"""From a stream of bar positions to repetitions, the same live and after the fact.

A detector is fed samples one by one. A small state machine on a lightly smoothed signal finds the turning points;
each finished repetition is then filtered and measured in a window of its own with a fixed look-ahead. Nothing depends
on how the samples were batched, so a recorded file pushed through in one piece gives the numbers the floor saw.

Thresholds of the detector are technical [T], set so that it finds what the tests hold it against.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from jarvok.core.exercises import LiftMotion, Start
from jarvok.core.velocity.metrics import RepMetrics, measure_rep

LOOK_AHEAD_S = 0.08  # [J] a repetition is measured with samples to at least this long after its top
LARGEST_BRIDGED_GAP_S = 0.12  # [J] shorter gaps are bridged by a straight line, longer ones break the repetition
QUIET_MPS = 0.06  # [J] the bar counts as still below this speed
QUIET_TOP_S = 0.04  # [J] stillness that ends a repetition whose range is already complete
STILL_WITHIN_M = 0.010  # [J] a bar that stays within this of where it was is at a standstill
QUIET_ANYWHERE_S = 0.45  # [J] stillness that ends a repetition of unknown range (a grind pauses for less)
FULL_RANGE_SHARE = 0.85  # [J] of the expected range, to believe that a stop is the top
DESCENT_SHARE = 0.6  # [J] of the least range that a lift lowered first must have come down
DROP_AT_TOP_M = 0.010  # [J] fall from the highest point that ends a complete repetition
DROP_ANYWHERE_M = 0.035  # [J] fall that ends any upward movement; smaller dips are sticking points
HISTORY_S = 12.0


@dataclass(frozen=True)
class Rep:
    """One repetition: its number in the stream (from 1), when it began and ended, and its measures."""

    number: int
    start_s: float
    end_s: float
    metrics: RepMetrics


@dataclass(frozen=True)
class StreamFault:
    """Something in the stream that was left out, in words for the coach."""

    at_s: float
    message: str


class RepDetector:
    """Finds repetitions in position samples of one bar.

    `rate_hz` is the nominal sample rate (20-1000). Feed `(time_s, position_m)` pairs to `push`; it returns the
    repetitions finished by them. `flush` ends the stream. `faults` lists what was left out and why.
    """

    def __init__(self, motion: LiftMotion, rate_hz: float) -> None:
        if not 20 <= rate_hz <= 1000:
            raise ValueError(f"a bar sensor sends 20 to 1000 samples a second, not {rate_hz:g}")
        self.motion = motion
        self.rate_hz = rate_hz
        self.faults: list[StreamFault] = []
        self._step_s = 1.0 / rate_hz
        self._smooth_n = max(3, round(0.04 * rate_hz))
        self._lag = (self._smooth_n - 1) // 2
        self._speed_n = max(2, round(0.05 * rate_hz))
        self._look_ahead_n = max(2, round(LOOK_AHEAD_S * rate_hz))
        self._quiet_top_n = max(2, round(QUIET_TOP_S * rate_hz))
        self._quiet_any_n = max(4, round(QUIET_ANYWHERE_S * rate_hz))
        self._count = 0
        self._expected_range_m: float | None = None
        self._last_raw: tuple[float, float] | None = None
        self._reset_grid()

    # -- stream cleaning -------------------------------------------------------------------------------------------

    def _reset_grid(self) -> None:
        size = int(HISTORY_S * self.rate_hz)
        self._grid: deque[float] = deque(maxlen=size)
        self._first_index = 0  # index of self._grid[0] since the grid began
        self._next_s: float | None = None
        self._origin_s = 0.0
        self._window: deque[float] = deque(maxlen=self._smooth_n)
        self._window_sum = 0.0
        self._recent: deque[float] = deque(maxlen=self._speed_n + 1)
        self._seen = 0
        self._rising = False
        self._low = self._high = 0.0
        self._low_at = self._high_at = 0
        self._top_before = 0.0
        self._quiet_n = 0
        self._anchor = 0.0
        self._anchor_at = 0
        self._due_at: int | None = None

    def push(self, samples: Iterable[tuple[float, float]]) -> list[Rep]:
        """Take samples in order and return the repetitions that they complete."""
        found: list[Rep] = []
        for time_s, position_m in samples:
            last = self._last_raw
            if last is None:
                self._begin(time_s)
            elif time_s <= last[0]:
                if time_s < last[0] - 1.0:
                    self._fault(time_s, "The sensor's clock jumped back. Counting starts again from there.")
                    self._begin(time_s)
                else:  # a repeated or late sample adds nothing that is not already there
                    self._fault(time_s, "Repeated or late samples were left out.")
                    continue
            elif time_s - last[0] > LARGEST_BRIDGED_GAP_S:
                self._fault(time_s, f"{time_s - last[0]:.1f} s without samples: a repetition cut by it does not count.")
                self._begin(time_s)
            else:
                rep = self._fill(last, (time_s, position_m))
                found.extend(rep)
                self._last_raw = (time_s, position_m)
                continue
            self._last_raw = (time_s, position_m)
            found.extend(self._fill((time_s, position_m), (time_s, position_m)))
        return found

    def flush(self) -> list[Rep]:
        """End the stream: a repetition at its top that only waited for the look-ahead is measured with what is there."""
        if self._rising and self._due_at is None and self._complete():
            self._due_at = self._seen - 1
        if self._due_at is None:
            return []
        self._due_at = self._seen - 1
        return self._measure()

    def _begin(self, time_s: float) -> None:
        self._reset_grid()
        self._origin_s = self._next_s = time_s

    def _fault(self, at_s: float, message: str) -> None:
        if not self.faults or self.faults[-1].message != message:
            self.faults.append(StreamFault(at_s, message))

    def _fill(self, before: tuple[float, float], now: tuple[float, float]) -> list[Rep]:
        """Put the even grid points up to `now` on the straight line between two samples."""
        found: list[Rep] = []
        (t0, x0), (t1, x1) = before, now
        next_s = self._next_s
        assert next_s is not None
        limit = t1 + 1e-6
        while next_s <= limit:
            x = x1 if t1 <= t0 else x0 + (x1 - x0) * (next_s - t0) / (t1 - t0)
            if self._step(x):
                found.extend(self._measure())
            next_s = self._origin_s + self._seen * self._step_s
        self._next_s = next_s
        return found

    # -- turning points --------------------------------------------------------------------------------------------

    def _step(self, x: float) -> bool:
        """Advance the state machine by one grid sample; true when a repetition is ready to be measured."""
        if len(self._grid) == self._grid.maxlen:
            self._first_index += 1
        self._grid.append(x)
        if len(self._window) == self._smooth_n:
            self._window_sum -= self._window[0]
        self._window.append(x)
        self._window_sum += x
        smooth = self._window_sum / len(self._window)
        self._seen += 1
        index = self._seen - 1 - self._lag
        if self._due_at is not None:
            return self._seen - 1 >= self._due_at
        if self._seen <= self._smooth_n:
            self._low = self._high = self._top_before = smooth
            self._low_at = self._high_at = max(index, 0)
            return False
        self._recent.append(smooth)
        speed = (smooth - self._recent[0]) * self.rate_hz / self._speed_n
        if self._rising:
            if smooth > self._high:
                self._high, self._high_at = smooth, index
            self._quiet_n = self._quiet_n + 1 if -QUIET_MPS < speed < QUIET_MPS else 0
            if abs(smooth - self._anchor) > STILL_WITHIN_M:
                self._anchor, self._anchor_at = smooth, index
            if self._ended(smooth, index):
                if self._counts():
                    self._due_at = max(self._seen - 1, self._high_at + self._look_ahead_n)
                    return self._seen - 1 >= self._due_at
                self._fall(smooth, index)
        else:
            if smooth < self._low:
                self._low, self._low_at = smooth, index
            elif smooth - self._low > 0.02:
                self._rising, self._high, self._high_at, self._quiet_n = True, smooth, index, 0
                self._anchor, self._anchor_at = smooth, index
            if smooth > self._top_before:
                self._top_before = smooth
        return False

    def _ended(self, smooth: float, index: int) -> bool:
        drop = self._high - smooth
        if drop > DROP_ANYWHERE_M:
            return True
        if self._complete() and (drop > DROP_AT_TOP_M or self._quiet_n >= self._quiet_top_n):
            return True
        return index - self._anchor_at >= self._quiet_any_n

    def _complete(self) -> bool:
        """Whether the rise so far is most of the range this repetition should have."""
        rise = self._high - self._low
        if rise < self.motion.least_range_m:
            return False
        expected = self._expected_range_m
        if self.motion.start is Start.LOWERED_FIRST:
            expected = max(expected or 0.0, self._top_before - self._low)
        return expected is not None and rise >= FULL_RANGE_SHARE * expected

    def _counts(self) -> bool:
        if self._high - self._low < self.motion.least_range_m:
            return False
        if self.motion.start is Start.LOWERED_FIRST:
            return self._top_before - self._low >= DESCENT_SHARE * self.motion.least_range_m
        return True

    def _fall(self, smooth: float, index: int) -> None:
        """Leave the upward movement: the highest point becomes the height to come down from."""
        self._rising, self._due_at, self._quiet_n = False, None, 0
        self._top_before = max(self._high, smooth)
        self._low, self._low_at = smooth, index

    def _measure(self) -> list[Rep]:
        bottom, top = self._low_at, self._high_at
        end = self._seen  # one past the last grid sample of the window
        begin = max(self._first_index, bottom - round(0.5 * self.rate_hz))
        offset = self._first_index
        grid = list(self._grid)
        window = np.array(grid[begin - offset : end - offset])
        previous_high, self._due_at = self._high, None
        smooth = self._window_sum / len(self._window)
        rise_m = self._high - self._low
        self._fall(smooth, self._seen - 1 - self._lag)
        self._top_before = previous_high
        metrics = measure_rep(window, self.rate_hz, bottom - begin, top - begin)
        if metrics is None:
            return []
        self._count += 1
        known = self._expected_range_m
        self._expected_range_m = rise_m if known is None else 0.7 * known + 0.3 * rise_m
        start_s = self._origin_s + begin * self._step_s + metrics.onset_s
        return [Rep(self._count, start_s, start_s + metrics.duration_s, metrics)]


def detect_reps(samples: Iterable[tuple[float, float]], motion: LiftMotion, rate_hz: float) -> list[Rep]:
    """Return the repetitions of a whole recording; the same numbers as pushing it piece by piece."""
    detector = RepDetector(motion, rate_hz)
    return [*detector.push(samples), *detector.flush()]
