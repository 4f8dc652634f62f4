"""What jumps, runs, holds and body mass were around two days, and whether they moved by more than their own scatter.

Common practice: the best of each day counts, the days of four weeks are averaged, and the scatter of those days is the error,
widened where few days are known.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import sqrt
from statistics import fmean

from jarvok.core.learning.new_bests import BestKind, DoneSet
from jarvok.core.learning.noise import Change
from jarvok.core.quantities.student import t_quantile

WINDOW_DAYS = 28  # [J] days that end on the one asked for: several sessions, and little training between them
LEAST_DAYS = 4  # [J] over both windows: of fewer a scatter says nothing
ONE_ERROR = 0.8413  # published: the share below one standard error above the mean, from the normal distribution
MASS_SHARE = 0.01  # [J] body mass comes and goes by so much of itself from day to day

# name, unit, decimals, whether less is better
MEASURES: Mapping[BestKind, tuple[str, str, int, bool]] = {
    BestKind.JUMP: ("height", "cm", 1, False),
    BestKind.REACTIVE: ("reactive strength", "", 2, False),
    BestKind.RUN: ("time", "s", 2, True),
    BestKind.HOLD: ("hold", "s", 0, False),
    BestKind.HEIGHT: ("height", "cm", 1, False),
    BestKind.DISTANCE: ("distance", "m", 2, False),
}


@dataclass(frozen=True)
class Around:
    """The mean of the days of a window, in the measure's unit, and how many they are."""

    value: float
    days: int


@dataclass(frozen=True)
class MeasuredProgress:
    """A measure around two days, and what lies between; `error` is that of each mean. No change where too few days are known."""

    then: Around
    now: Around
    then_error: float | None
    now_error: float | None
    change: Change | None

    @property
    def moved(self) -> float:
        """What lies between the means, known or not whether it is more than noise."""
        return self.now.value - self.then.value


def best_of_days(sets: Iterable[DoneSet]) -> dict[tuple[BestKind, float], dict[date, float]]:
    """Return the best of each day by measure and what it was done with: a load in kg, or the metres of a run."""
    found: dict[tuple[BestKind, float], dict[date, float]] = defaultdict(dict)
    for item in sets:
        load = item.load_kg or 0.0
        for kind, value, at in (
            (BestKind.JUMP, item.jump_cm, load), (BestKind.REACTIVE, item.reactive, load),
            (BestKind.RUN, item.run_s, item.run_m or 0.0), (BestKind.HOLD, item.hold_s, load),
            (BestKind.HEIGHT, item.height_cm, 0.0), (BestKind.DISTANCE, item.distance_m, load),
        ):  # fmt: skip
            if value is not None:
                days, pick = found[kind, at], min if MEASURES[kind][3] else max
                days[item.day] = pick(value, days[item.day]) if item.day in days else value
    return dict(found)


def between_days(by_day: Mapping[date, float], first: date, last: date, *, least_spread: float = 0.0) -> MeasuredProgress | None:
    """Return a measure around two days; None where one of them has no day in its window.

    A window is four weeks, or the time between the days where that is less: no day is in both. The standard deviation of single
    days is that within both together, not less than `least_spread` (the measure's unit), widened as Student's t asks for so few
    days; the error of a mean is it over √n, and the change is held against the error of both means, as two tests are against √2
    typical errors. Raises ValueError where the first day is not before the last.
    """
    if first >= last:
        raise ValueError("the first day is before the last")
    length = min(WINDOW_DAYS, (last - first).days)
    return _compared([_window(by_day, day, length) for day in (first, last)], least_spread)


def between_athletes(one: Mapping[date, float], other: Mapping[date, float], day: date) -> MeasuredProgress | None:
    """Return a measure of two athletes around one day, `then` of the one and `now` of the other; None where one has no day of it.

    The errors are found as those of two windows of one athlete are.
    """
    return _compared([_window(by_day, day, WINDOW_DAYS) for by_day in (one, other)], 0.0)


def _compared(windows: Sequence[Sequence[tuple[date, float]]], least_spread: float) -> MeasuredProgress | None:
    if not windows[0] or not windows[1]:
        return None
    then, now = (Around(fmean(v for _, v in w), len(w)) for w in windows)
    scatter = _spread(windows)
    if scatter is None:
        return MeasuredProgress(then, now, None, None, None)
    spread = max(scatter, least_spread) * t_quantile(ONE_ERROR, then.days + now.days - 2)
    errors = [spread / sqrt(w.days) for w in (then, now)]
    change = Change(now.value - then.value, sqrt((errors[0] ** 2 + errors[1] ** 2) / 2))
    return MeasuredProgress(then, now, errors[0], errors[1], change)


def _window(by_day: Mapping[date, float], until: date, length: int) -> list[tuple[date, float]]:
    begins = until - timedelta(days=length - 1)
    return sorted((d, v) for d, v in by_day.items() if begins <= d <= until)


def _spread(windows: Sequence[Sequence[tuple[date, float]]]) -> float | None:
    """The standard deviation of single days around the mean of their window, over both."""
    count = sum(len(w) for w in windows)
    if count < LEAST_DAYS:
        return None
    squares = sum((v - fmean(x for _, x in w)) ** 2 for w in windows for _, v in w)
    return sqrt(squares / (count - len(windows)))
