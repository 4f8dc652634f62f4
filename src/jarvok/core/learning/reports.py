"""What goes into a report for whom: an athlete, the coach of their sport, whoever looks after their health; a squad's month.

Each reads what their part of the work needs. Common practice; what is of health goes to health staff and the athlete alone.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum


class Reader(StrEnum):
    """Whom a report is for."""

    ATHLETE = "athlete"
    SPORT = "sport"
    MEDICAL = "medical"


class Part(StrEnum):
    """A part of a report, in the order they stand."""

    AHEAD = "ahead"
    AVAILABLE = "available"
    OFF = "off"
    RESTRICTIONS = "restrictions"
    PAINS = "pains"
    DONE = "done"
    LOAD = "load"
    MAXES = "maxes"
    BESTS = "bests"
    CUES = "cues"


READER_NAMES: Mapping[Reader, str] = {
    Reader.ATHLETE: "for the athlete",
    Reader.SPORT: "for the sport coach",
    Reader.MEDICAL: "for medical staff",
}
PARTS: Mapping[Reader, tuple[Part, ...]] = {
    Reader.ATHLETE: (Part.AHEAD, Part.DONE, Part.MAXES, Part.BESTS, Part.CUES),
    Reader.SPORT: (Part.AHEAD, Part.AVAILABLE, Part.OFF, Part.DONE, Part.LOAD, Part.MAXES),
    Reader.MEDICAL: (Part.RESTRICTIONS, Part.PAINS, Part.AVAILABLE, Part.LOAD, Part.DONE),
}
OF_HEALTH = ("ill", "hurt")  # reasons that a sport coach reads as one
NOT_AVAILABLE = "not available"
MOST_POINTS = 60  # [T] of a chart: more are not told apart on paper


def reason_for(reader: Reader, reason: str) -> str:
    """Return why a session was missed as a reader may see it: what is of health stays with health staff and the athlete."""
    if reader is Reader.SPORT and reason.split(", ")[0] in OF_HEALTH:
        return NOT_AVAILABLE
    return reason or "no reason said"


@dataclass(frozen=True)
class Point:
    """A value of a chart on a day, with its band where it has one."""

    day: date
    value: float
    low: float | None = None
    high: float | None = None


@dataclass(frozen=True)
class Series:
    """One line or row of bars of a chart; `is_bars` stands for amounts of a week."""

    name: str
    points: tuple[Point, ...]
    is_bars: bool = False


@dataclass(frozen=True)
class Chart:
    """Series over days with the unit of their axis, and what they say in a sentence."""

    title: str
    unit: str
    series: tuple[Series, ...]
    sentence: str


@dataclass(frozen=True)
class Section:
    """A part of a report: a heading, sentences, a table, charts. Whatever has nothing to say is empty."""

    key: str
    title: str
    sentences: tuple[str, ...] = ()
    columns: tuple[str, ...] = ()
    rows: tuple[tuple[str, ...], ...] = ()
    charts: tuple[Chart, ...] = ()


@dataclass(frozen=True)
class Report:
    """A report: whose, for whom, of which days, and its parts."""

    name: str
    subtitle: str
    first: date
    last: date
    sections: tuple[Section, ...]


def thinned(points: Sequence[Point], most: int = MOST_POINTS) -> tuple[Point, ...]:
    """Return at most so many of the points, evenly spread, the first and the last among them."""
    if len(points) <= most:
        return tuple(points)
    step = (len(points) - 1) / (most - 1)
    return tuple(points[round(i * step)] for i in range(most))


def change_words(change: float, unit: str, places: int = 0) -> str:
    """Return a change with its sign, to whole units or so many places, half a one away from nought: `+3 kg`, `−2 kg`, `0 kg`."""
    said = int(abs(change) * 10**places + 0.5) / 10**places
    return f"{'' if said == 0 else '+' if change > 0 else '−'}{said:.{places}f} {unit}"


def trend_words(name: str, points: Sequence[Point], unit: str, verdict: str) -> str:
    """Return what a line says: from where to where, and whether that is more than noise."""
    if len(points) < 2:
        return f"{name}: too few days for a line."
    first, last = (int(p.value + 0.5) for p in (points[0], points[-1]))
    return f"{name}: {first} to {last} {unit}, {verdict}."


def out_of(done: float, planned: float) -> str:
    """Return how much of what was planned is done: `9 of 12`, and what was done alone where nothing was planned."""
    return f"{done:g} of {planned:g}" if planned else f"{done:g}"
