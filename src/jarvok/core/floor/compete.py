"""One chosen number to compete with on a day: the best jump, reactive strength, contact or velocity of each, in order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from jarvok.core.exercises import Exercise
from jarvok.core.floor.measurable import ON_CONTACT, measured_of


class Metric(StrEnum):
    """What is compared."""

    HEIGHT = "height"
    RSI = "rsi"
    CONTACT = "contact"
    VELOCITY = "velocity"
    TIME = "time"


@dataclass(frozen=True)
class Shown:
    """How a number is called and written, and whether less is better."""

    name: str
    unit: str
    decimals: int
    less_is_better: bool = False


SHOWN = {
    Metric.HEIGHT: Shown("height", "cm", 1),
    Metric.RSI: Shown("reactive strength", "m/s", 2),
    Metric.CONTACT: Shown("contact", "s", 2, less_is_better=True),
    Metric.VELOCITY: Shown("velocity", "m/s", 2),
    Metric.TIME: Shown("time", "s", 2, less_is_better=True),
}


@dataclass(frozen=True)
class Tried:
    """What somebody has done of it today, each value in the metric's unit; `is_shown` is theirs to say."""

    athlete_id: int
    name: str
    values: tuple[float, ...]
    is_shown: bool = True


@dataclass(frozen=True)
class Row:
    """A line of the board: place from 1 (equals share one), the best of the day."""

    place: int
    athlete_id: int
    name: str
    best: float


def metrics_of(lift: Exercise) -> tuple[Metric, ...]:
    """Return what may be compared of an exercise; nothing of what is not measured."""
    measured = measured_of(lift)
    if "heights" in measured:
        reactive = (Metric.RSI, Metric.CONTACT) if ON_CONTACT & set(lift.roles) else ()
        return (Metric.HEIGHT, *reactive)
    if "time_s" in measured:
        return (Metric.TIME,)
    return (Metric.VELOCITY,) if "velocity_mps" in measured else ()


def best_of(metric: Metric, values: Sequence[float]) -> float | None:
    """Return the best of some values, None of none."""
    if not values:
        return None
    return min(values) if SHOWN[metric].less_is_better else max(values)


def board(metric: Metric, tried: Sequence[Tried]) -> tuple[Row, ...]:
    """Return the rows of the board, the best first. Who asks not to be shown, or has not tried, is not on it."""
    shown = SHOWN[metric]
    best = [(round(b, shown.decimals), t) for t in tried if t.is_shown and (b := best_of(metric, t.values)) is not None]
    order = sorted(best, key=lambda x: (x[0] if shown.less_is_better else -x[0], x[1].name))
    values = [b for b, _ in order]
    return tuple(Row(values.index(b) + 1, t.athlete_id, t.name, b) for b, t in order)
