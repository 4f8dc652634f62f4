"""The taper bench: two or three tapers for the same competition side by side, with what each leaves on the day."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from jarvok.core.season.fitness_fatigue import USUAL, Constants, form_draws, picture
from jarvok.core.season.model import PhaseKey, SeasonPlan
from jarvok.core.season.taper import TaperStyle, remarks
from jarvok.core.working import Input, Source, Working

BASE_INTENSITY = 0.8  # [J] the intensity of that week
STRENGTH_WEEK_AU = 700.0  # [J] a full base week of strength work: two sessions of 50 min at 7 of 10
WEEKDAYS = (1, 4)  # [J] where the days of the sessions are not known: Tuesday and Friday
EIGHT_IN_TEN = (10, 90)  # [T] percentiles
BEFORE_DAYS = 28  # [J] drawn
AFTER_DAYS = 7  # [J]
MOST_TAPERS = 3  # [J] side by side


@dataclass(frozen=True)
class Bench:
    """One taper tried: daily values from `start` on, form on the day with its 10-90 % band, peak day, remarks, working.

    `still_rises` when form is highest later than a week after the day. `against_first` is form on the day less that of the
    first taper, with its 10-90 % band: athletes' constants differ, but the same athlete does both.
    """

    style: TaperStyle
    start: date
    load: tuple[float, ...]
    fitness: tuple[float, ...]
    fatigue: tuple[float, ...]
    form: tuple[float, ...]
    form_low: tuple[float, ...]
    form_high: tuple[float, ...]
    form_on_the_day: float
    band_on_the_day: tuple[float, float]
    peak_day: date
    still_rises: bool
    against_first: tuple[float, float, float]
    remarks: tuple[str, ...]
    working: Working


def daily_loads(
    plan: SeasonPlan, practice_au: Sequence[float], session_days: Sequence[int] = WEEKDAYS, until: date | None = None
) -> list[float]:
    """Return the planned load of each day of the season in arbitrary units (hardness × minutes), strength and practice.

    `practice_au` is sport practice on each weekday, Monday first; strength work is shared among `session_days`.
    """
    until = until or plan.competition_day
    found: list[float] = []
    for week in plan.weeks:
        share = STRENGTH_WEEK_AU * week.load / BASE_INTENSITY / max(1, len(session_days))
        for d in range(7):
            day = week.start + timedelta(days=d)
            strength = share if d in session_days else 0.0
            found.append(practice_au[d] + strength if day < until else 0.0)
    return found


def before_taper(plan: SeasonPlan, daily: Sequence[float], style: TaperStyle, day: date) -> list[float]:
    """Return daily loads with the plan's own taper taken out and `style` put in its place, through a week after `day`.

    The taper falls from the mean of the last loading week before it; days between are filled with that week.
    """
    end = (day - plan.start).days
    loading = [w for w in plan.weeks if w.start < day and not w.is_light] or list(plan.weeks[:1])
    model = loading[-1]
    week = [daily[(model.start - plan.start).days + d] for d in range(7)]
    start = end - style.days
    tapered = {p.start for p in plan.phases if p.key is PhaseKey.TAPER and p.end >= day >= p.start}
    first_own = min(((s - plan.start).days for s in tapered), default=start)
    found: list[float] = []
    for i in range(end + AFTER_DAYS):
        weekday = (plan.start + timedelta(days=i)).weekday()
        if i >= end:
            found.append(0.0)
        elif i >= start:
            kept = style.frequency_pct / 100
            found.append(week[weekday] * style.volume_share(i - start) * (kept if kept < 1 else 1.0))
        elif i >= first_own:
            found.append(week[weekday])
        else:
            found.append(daily[i])
    return found


def bench(
    plan: SeasonPlan,
    practice_au: Sequence[float],
    styles: Sequence[TaperStyle],
    constants: Constants = USUAL,
    day: date | None = None,
) -> tuple[Bench, ...]:
    """Return up to three tapers for a competition, side by side."""
    day = day or plan.competition_day
    daily = daily_loads(plan, practice_au, until=day)
    at = (day - plan.start).days
    found: list[Bench] = []
    first: NDArray[np.float64] | None = None
    for style in styles[:MOST_TAPERS]:
        loads = before_taper(plan, daily, style, day)
        drawn = form_draws(loads, constants)
        on_the_day = drawn[:, at]
        first = on_the_day if first is None else first
        found.append(_try(plan, loads, style, constants, day, drawn, on_the_day - first))
    return tuple(replace(b, against_first=(b.form_on_the_day - found[0].form_on_the_day, *b.against_first[1:])) for b in found)


def _try(
    plan: SeasonPlan,
    loads: Sequence[float],
    style: TaperStyle,
    constants: Constants,
    day: date,
    drawn: NDArray[np.float64],
    against: NDArray[np.float64],
) -> Bench:
    seen = picture(loads, constants)
    low, high = np.percentile(drawn, EIGHT_IN_TEN, axis=0)
    apart = np.percentile(against, EIGHT_IN_TEN)
    at = (day - plan.start).days
    around = slice(max(0, at - BEFORE_DAYS), at + AFTER_DAYS)
    peak = plan.start + timedelta(days=int(np.argmax(seen.form[around])) + around.start)
    gap = (peak - day).days
    where = (
        "later than a week after it"
        if gap >= AFTER_DAYS - 1
        else "on the day"
        if gap == 0
        else f"{abs(gap)} days {'after' if gap > 0 else 'before'} it"
    )
    working = Working(
        f"{seen.form[at]:.0f}",
        "fitness less fatigue on the day; each load fades by its own time constant",
        Source("P", "Morton, Fitz-Clarke & Banister 1990"),
        (
            Input("time constants", f"{constants.tau1_days:.0f} and {constants.tau2_days:.0f} days"),
            Input("gains", f"{constants.k1:.2f} and {constants.k2:.2f}"),
            Input(
                "taper",
                f"{style.days} days, {style.shape}, {style.depth_pct:g} % off in all, {style.at_its_end_pct:.0f} % at its end",
            ),
            Input("form is highest", where),
        ),
        rounding="arbitrary units: hardness × minutes",
        caution="An estimate to support judgement: it compares plans, it does not promise a result.",
    )
    return Bench(
        style=style,
        start=plan.start,
        load=_floats(seen.load),
        fitness=_floats(seen.fitness),
        fatigue=_floats(seen.fatigue),
        form=_floats(seen.form),
        form_low=_floats(low),
        form_high=_floats(high),
        form_on_the_day=float(seen.form[at]),
        band_on_the_day=(float(low[at]), float(high[at])),
        peak_day=peak,
        still_rises=gap >= AFTER_DAYS - 1,
        against_first=(0.0, float(apart[0]), float(apart[1])),
        remarks=remarks(style),
        working=working,
    )


def _floats(values: NDArray[np.float64]) -> tuple[float, ...]:
    return tuple(round(float(v), 1) for v in values)
