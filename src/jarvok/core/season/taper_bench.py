"""The taper bench: two or three tapers for one competition side by side, as differences on the day with their uncertainty.

The picture behind it always favours more rest, so nothing is compared outside what tapers were studied in.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from jarvok.core.season.fitness_fatigue import USUAL, Constants, form_draws, picture
from jarvok.core.season.taper import PUBLISHED_CUT_PCT, TaperStyle, remarks
from jarvok.core.working import Input, Source, Working

EIGHT_IN_TEN = (10, 90)  # [T] percentiles
AFTER_DAYS = 7  # [J] drawn
MOST_TAPERS = 3  # [J] side by side
LONGEST_DAYS = 21  # [J] longer tapers are not compared
OUTSIDE = (
    "Outside what the picture was made for: it favours more rest without end, so no difference is shown beyond "
    f"{PUBLISHED_CUT_PCT[1]:g} % off or {LONGEST_DAYS} days."
)


@dataclass(frozen=True)
class Tried:
    """A taper with the planned load of strength work it leaves on each day from the season's first on, in AU (RPE × min)."""

    style: TaperStyle
    strength_au: Sequence[float]


@dataclass(frozen=True)
class Bench:
    """One taper tried: daily load in AU, fitness and fatigue from the season's start to a week after the day.

    `against` is readiness less that of the first taper, per day, with its 10-90 % band: athletes' constants differ, but the
    same athlete does both. `on_the_day` is that of the competition day: middle, low, high; None where the picture is outside
    what it was made for, and for the first itself.
    """

    style: TaperStyle
    load: tuple[float, ...]
    fitness: tuple[float, ...]
    fatigue: tuple[float, ...]
    against: tuple[float, ...]
    against_low: tuple[float, ...]
    against_high: tuple[float, ...]
    on_the_day: tuple[float, float, float] | None
    is_outside: bool
    remarks: tuple[str, ...]
    working: Working


def is_outside(style: TaperStyle) -> bool:
    """Return whether a taper lies outside what the picture was made for."""
    return style.depth_pct > PUBLISHED_CUT_PCT[1] or style.days > LONGEST_DAYS


def with_practice(
    tried: Tried, start: date, day: date, practice_au: Sequence[float], practice_left_pct: float | None
) -> list[float]:
    """Return the daily load through a week after the competition `day`: strength work, and practice where it is reckoned.

    `practice_au` is that of each weekday, Monday first. It is the sport coach's: None leaves it out, else so much of it (%)
    is left within the taper. Nothing is done from the day on.
    """
    days = (day - start).days
    first = days - tried.style.days
    found: list[float] = []
    for i in range(days + AFTER_DAYS):
        practice = 0.0
        if practice_left_pct is not None:
            practice = practice_au[(start + timedelta(days=i)).weekday()]
            practice *= practice_left_pct / 100 if i >= first else 1.0
        strength = tried.strength_au[i] if i < len(tried.strength_au) else 0.0
        found.append(strength + practice if i < days else 0.0)
    return found


def bench(
    start: date,
    day: date,
    tried: Sequence[Tried],
    practice_au: Sequence[float],
    practice_left_pct: float | None = None,
    constants: Constants = USUAL,
) -> tuple[Bench, ...]:
    """Return up to three tapers for a competition, each beside the first."""
    rows = list(tried[:MOST_TAPERS])
    loads = [with_practice(t, start, day, practice_au, practice_left_pct) for t in rows]
    draws = [form_draws(load, constants) for load in loads]
    at = (day - start).days
    found: list[Bench] = []
    for i, (t, load, drawn) in enumerate(zip(rows, loads, draws, strict=True)):
        seen, first = picture(load, constants), picture(loads[0], constants)
        apart = drawn - draws[0]
        low, high = np.percentile(apart, EIGHT_IN_TEN, axis=0)
        middle = seen.form - first.form
        outside = is_outside(t.style) or is_outside(rows[0].style)
        on_the_day = None if outside or i == 0 else (float(middle[at]), float(low[at]), float(high[at]))
        said = remarks(t.style)
        found.append(
            Bench(
                style=t.style,
                load=_floats(seen.load),
                fitness=_floats(seen.fitness),
                fatigue=_floats(seen.fatigue),
                against=_floats(middle) if not outside else (),
                against_low=_floats(low) if not outside else (),
                against_high=_floats(high) if not outside else (),
                on_the_day=on_the_day,
                is_outside=outside,
                remarks=(*said, OUTSIDE.removesuffix(".")) if outside else said,
                working=_working(t.style, constants, on_the_day, practice_left_pct),
            )
        )
    return tuple(found)


def _working(
    style: TaperStyle, constants: Constants, on_the_day: tuple[float, float, float] | None, practice_left_pct: float | None
) -> Working:
    practice = "left out: it is the sport coach's" if practice_left_pct is None else f"{practice_left_pct:g} % left in the taper"
    return Working(
        f"{on_the_day[0]:+.0f} AU" if on_the_day is not None else "the one the others stand beside",
        "fitness less fatigue on the day, less that of the first taper; each load fades by its own time constant",
        Source("P", "Morton, Fitz-Clarke & Banister 1990"),
        (
            Input("time constants", f"{constants.tau1_days:.0f} and {constants.tau2_days:.0f} days"),
            Input("gains", f"{constants.k1:.2f} and {constants.k2:.2f}"),
            Input(
                "taper",
                f"{style.days} days, {style.shape}, {style.depth_pct:g} % off in all, {style.at_its_end_pct:.0f} % at its end",
            ),
            Input("sport practice", practice),
        ),
        rounding="AU: RPE × minutes",
        caution="An estimate to support judgement: it compares plans, it does not promise a result.",
    )


def _floats(values: NDArray[np.float64]) -> tuple[float, ...]:
    return tuple(round(float(v), 1) for v in values)
