"""Measured with `make bench`. Each figure stands beside what the bare loop or bare NumPy takes for the same amount."""

from __future__ import annotations

import time
from datetime import date, timedelta

import numpy as np
import pytest

from jarvok.core.checks.plan_views import session_view
from jarvok.core.checks.season import SeasonView, season_flags
from jarvok.core.checks.session import session_flags
from jarvok.core.exercises import LiftMotion, Pattern, Start
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.library.substitutes import Limits
from jarvok.core.loading.compare import compare
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.past import PastSession, PastSet
from jarvok.core.marks.working_max import current_max, max_trend
from jarvok.core.plan.season_spending import spend_season
from jarvok.core.plan.taper_sets import taper_notes
from jarvok.core.season.arrangements import ARRANGEMENTS
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import Target
from jarvok.core.season.planner import plan_season, plan_year
from jarvok.core.season.taper import Shape, TaperStyle
from jarvok.core.season.taper_bench import Tried, bench
from jarvok.core.sensors.trace import simulate_set
from jarvok.core.velocity.detect import detect_reps
from jarvok.core.velocity.profile import LoadVelocity, fit_profile
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS
from jarvok.core.week.generate import arranged_week, plan_week
from jarvok.core.week.plan import Level, WeekFacts

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


def test_a_year_of_forty_athletes_with_its_checks(benchmark) -> None:
    """52 weeks by every arrangement in turn, two competitions and a league each, every week's sessions not included."""
    matches = tuple(DAY + timedelta(days=200 + 7 * n) for n in range(20))

    def squad() -> int:
        weeks = 0
        for i in range(40):
            first, second = DAY + timedelta(days=100 + i), DAY + timedelta(days=355)
            facts = SeasonFacts(DAY, (Target("One", first), Target("Two", second)), ARRANGEMENTS[i % 7], matches)
            plan = plan_year(facts)
            season_flags(SeasonView(plan, DAY))
            weeks += len(plan.weeks)
        return weeks

    weeks = benchmark(squad)
    began = time.perf_counter()
    _ = [(i, "base", 0.75 + i / 1000, 0.9) for i in range(weeks)]
    beside(f"{weeks} weeks with checks", benchmark.stats["median"], time.perf_counter() - began, "as many tuples, plain loop")


@pytest.mark.parametrize("variants", [4, 40])
def test_a_year_of_forty_athletes_in_main_sets(benchmark, variants: int) -> None:
    """Dose, spending, taper sentences and the season's guards; those who share a variant share its working out."""
    kinds = [(a, w, d) for a in ARRANGEMENTS for w in WEEK_ARRANGEMENTS if not w.is_test for d in w.days]

    def year() -> int:
        total = 0
        for i in range(variants):
            model, week, days = kinds[i * 7 % len(kinds)]
            cup = Target("Cup", DAY + timedelta(days=7 * 51 - DAY.weekday() + i % 7))
            plan = plan_year(SeasonFacts(DAY, (cup,), model))
            spending = spend_season(plan, lambda w, plan=plan, week=week, days=days: (week.key, WeekFacts(plan, w, days=days)))
            total += sum(w.sets for w in spending.weeks) + len(taper_notes(plan, spending))
            total += len(season_flags(SeasonView(plan, DAY)))
        return total

    sets = benchmark(year)
    began = time.perf_counter()
    _ = [(i, i * 0.01, i // 7) for i in range(52 * variants * 12)]
    bound = time.perf_counter() - began
    beside(f"{variants} variants of 52 weeks, {sets} sets", benchmark.stats["median"], bound, "as many tuples, plain loop")


def test_three_tapers(benchmark) -> None:
    plan = plan_season(DAY, DAY + timedelta(days=180))
    styles = [TaperStyle(), TaperStyle(8), TaperStyle(14, Shape.SLOW, 70)]
    tried = [Tried(style, [300.0] * (7 * len(plan.weeks))) for style in styles]
    benchmark(lambda: bench(plan.start, plan.competition_day, tried, [0.0, 450, 0, 450, 0, 300, 0]))
    began = time.perf_counter()
    loads = np.ones(190)
    for _ in range(3 * 61 * 2):
        np.convolve(loads, loads)
    bound = time.perf_counter() - began
    beside("three tapers with their bands", benchmark.stats["median"], bound, "as many NumPy convolutions")


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


def test_forty_athletes_times_sixty_sets_by_all_methods(benchmark) -> None:
    lines = [parse(text) for text in ("4 × 5 @ 75 %", "4 × 3 @ 82 %", "3 × 8, 2 in reserve", "5 × 2 @ 0.55 m/s") * 4]  # 64 sets
    lift = exercise("back_squat")
    points = [LoadVelocity(DAY, x, 1.5 - 0.0098 * x) for x in (40.0, 60.0, 80.0, 100.0)]
    past = tuple(PastSession(DAY - timedelta(days=7 * w), "", (PastSet(80 + w, 5, planned_reps=5),) * 4) for w in range(8, 0, -1))

    def athlete(i: int) -> LiftState:
        current = current_max([Mark(f"m{i}", DAY, MarkKind.ONE_RM, 110.0 + i)], DAY)
        return LiftState(lift, implement_for(lift), current, profile=fit_profile(points, 110.0 + i), history=past)

    states = [athlete(i) for i in range(40)]

    def every_method() -> int:
        return sum(len(c.sets) for state in states for line in lines for c in compare(line, state))

    sets = benchmark(every_method)
    began = time.perf_counter()
    _ = [round(share * kg / 2.5) * 2.5 for share, kg in [(0.8, 110.0 + i % 40) for i in range(sets)]]
    beside(f"{sets} sets by all methods", benchmark.stats["median"], time.perf_counter() - began, "percent times max, plain loop")


def test_the_trend_of_five_thousand_marks(benchmark) -> None:
    rng = np.random.default_rng(3)
    kinds = (MarkKind.REP_MAX, MarkKind.SET_RIR, MarkKind.AMRAP)
    marks = [
        Mark(str(i), DAY - timedelta(days=int(rng.integers(0, 1095))), kinds[i % 3], float(rng.integers(80, 100)), 5, 1.0)
        for i in range(5000)
    ]
    days = [DAY - timedelta(days=d) for d in range(196, -1, -1)]
    benchmark(lambda: (current_max(marks, DAY), max_trend(marks, days)))
    began = time.perf_counter()
    sorted(marks, key=lambda m: m.day)
    beside("max and half a year's trend, 5,000 marks", benchmark.stats["median"], time.perf_counter() - began, "sorting them")


def test_a_block_of_four_weeks_for_forty_athletes(benchmark) -> None:
    """Weeks of four arrangements with the checks of their sessions, before any load is set."""
    plan = plan_season(DAY, date(2027, 5, 8))
    keys = [("weightlifting", 4), ("concurrent", 4), ("high_low", 5), ("two_days", 2)]

    def block() -> int:
        lines = 0
        for i in range(40):
            key, days = keys[i % 4]
            limits = Limits(frozenset({"overhead"}) if i % 7 == 0 else frozenset(), skill=2 + i % 2)
            for week in plan.weeks[:4]:
                for session in arranged_week(key, WeekFacts(plan, week, (), limits, days, Level.INTERMEDIATE)):
                    session_flags(session_view(session, limits, Level.INTERMEDIATE))
                    lines += len(session.lines)
        return lines

    lines = benchmark(block)
    began = time.perf_counter()
    _ = [(i, "A1", "back_squat", 0.75 + i / 10000) for i in range(lines)]
    beside(
        f"4 weeks for 40 athletes, {lines} lines, checked",
        benchmark.stats["median"],
        time.perf_counter() - began,
        "as many tuples",
    )
