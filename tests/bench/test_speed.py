"""Measured with `make bench`. Each figure stands beside what the bare loop or bare NumPy takes for the same amount."""

from __future__ import annotations

import time
from datetime import date

import numpy as np

from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import current_max
from jarvok.core.season.force_velocity import plan_season
from jarvok.core.sensors.trace import Pattern, simulate_set
from jarvok.core.velocity.detect import LiftMotion, Start, detect_reps
from jarvok.core.week.two_days import plan_week

DAY = date(2026, 11, 24)


def beside(name: str, figure_s: float, bound_s: float, note: str) -> None:
    print(f"\n{name}: {1000 * figure_s:.1f} ms · lower bound {1000 * bound_s:.2f} ms ({note})")


def test_a_week_for_forty_athletes(benchmark) -> None:
    season = plan_season(DAY, date(2027, 4, 17))
    lines = [line for week in season.weeks[:2] for s in plan_week(season, week, []) for line in s.lines]

    lifts = {line.exercise_id for line in lines}

    def week() -> int:
        """Every athlete's maxes from marks, then every set of the week."""
        sets = 0
        for i in range(40):
            marks = [Mark(f"m{i}", DAY, MarkKind.ONE_RM, 90.0 + i), Mark(f"s{i}", DAY, MarkKind.SET_RIR, 80.0 + i, 3, 2)]
            states = {lift: state(lift, marks) for lift in lifts}
            sets += sum(len(resolve(line.prescription, states[line.exercise_id])) for line in lines)
        return sets

    sets = benchmark(week)
    loads = [(0.8, 90.0 + i % 40) for i in range(sets)]
    began = time.perf_counter()
    _ = [round(share * kg / 2.5) * 2.5 for share, kg in loads]
    bound = time.perf_counter() - began
    beside(f"{sets} sets resolved", benchmark.stats["median"], bound, "percent times max, rounded, plain loop")


def state(exercise_id: str, marks: list[Mark]) -> LiftState:
    lift = exercise(exercise_id)
    return LiftState(lift, implement_for(lift), current_max(marks, DAY) if lift.is_loaded else None)


def test_a_season_of_24_weeks_with_its_weeks(benchmark) -> None:
    def season() -> int:
        plan = plan_season(DAY, date(2027, 5, 8))
        return sum(len(s.lines) for week in plan.weeks for s in plan_week(plan, week, []))

    lines = benchmark(season)
    began = time.perf_counter()
    _ = [(i, "base", 0.75 + i / 1000) for i in range(lines)]
    beside(f"24 weeks, {lines} lines", benchmark.stats["median"], time.perf_counter() - began, "as many tuples, plain loop")


def test_rep_detection(benchmark) -> None:
    sets = [
        simulate_set(Pattern.SQUAT, [0.6, 0.57, 0.55, 0.5], 0.55, 100, 0.0015, np.random.default_rng(i)).samples()
        for i in range(20)
    ]
    motion, signal_s = LiftMotion(0.25, Start.LOWERED_FIRST), sum(s[-1][0] for s in sets)
    benchmark(lambda: [detect_reps(s, motion, 100) for s in sets])
    arrays = [np.array(s)[:, 1] for s in sets]
    began = time.perf_counter()
    for x in arrays:
        np.convolve(np.gradient(x, 0.01), np.ones(5) / 5)
    bound = time.perf_counter() - began
    median = benchmark.stats["median"]
    name = f"{signal_s:.0f} s of signal, {signal_s / median:.0f} times real time"
    beside(name, median, bound, "NumPy differentiate and smooth")
