"""A second simulator of lifters, sharing no code with the application's own: what the max is held against.

Its numbers are `tests/references/second_lifters.json`, set before the estimator they judge. Nothing outside was found for real
lifters' true maxes over weeks; this one is made to differ from the first where it can: the share of the max that allows so many
repetitions falls as exp(−a·(n−1)^b) with a and b of each lifter, form of the day carries over to the next, growth wobbles and
stops in some, a count in reserve is worse the further from failure it is made.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from math import exp, log
from pathlib import Path
from typing import Any

import numpy as np

from jarvok.core.library.exercises import exercise
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.velocity.daily_max import velocity_mark
from jarvok.core.velocity.profile import LoadVelocity

SPEC: dict[str, Any] = json.loads((Path(__file__).parents[1] / "references" / "second_lifters.json").read_text())
START = date(2026, 1, 5)
END = START + timedelta(weeks=SPEC["weeks"])
KINDS = ("tests and reserve", "without a sensor", "everything")


@dataclass(frozen=True)
class Life:
    """One lifter: the true max in kg on the last day, and the marks of the weeks before by what is known."""

    true_kg: float
    marks: dict[str, list[Mark]]


def _normal(rng: np.random.Generator, spec: dict[str, float]) -> float:
    return float(rng.normal(spec["mean"], spec["sd"]))


def _down(kg: float) -> float:
    return float(np.floor(kg / SPEC["step_kg"]) * SPEC["step_kg"])


def lived(seed: int, noise: float = 1.0, counted_low: float = 0.0) -> Life:
    """Return one lifter's weeks. `noise` scales form, counting and sensor; `counted_low` is how many repetitions too few
    are said to be in reserve."""
    rng = np.random.default_rng(seed)
    maxes = _maxes(rng)
    a = SPEC["fraction_for_reps"]["a"] * float(rng.normal(1, SPEC["fraction_for_reps"]["a_sd_share"]))
    b = float(rng.normal(SPEC["fraction_for_reps"]["b"], SPEC["fraction_for_reps"]["b_sd"]))

    def to_failure(share: float) -> float:
        """The count of repetitions to failure to be expected at a share of the day's max; what is done is it rounded."""
        return 1 + (-log(share) / a) ** (1 / b) if share < 1 else 0.0

    has_sensor = rng.random() < SPEC["sensor_share"]
    speed = _speed(rng, noise)
    form, tests, sets, others, fast = 0.0, [], [], [], []
    is_tested_again = rng.random() < SPEC["test"]["second_test_share"]
    sessions = SPEC["weeks"] * SPEC["sessions_a_week"]
    for n in range(sessions):
        day = START + timedelta(days=int(n * 7 / SPEC["sessions_a_week"]))
        week = (day - START).days // 7
        spec = SPEC["day_form"]
        form = spec["keeps"] * form + (1 - spec["keeps"] ** 2) ** 0.5 * float(rng.normal(0, spec["sd_pct"] / 100 * noise))
        today_kg = maxes[week] * (1 + form)
        if n == 0 or (is_tested_again and n == SPEC["test"]["second_test_week"] * SPEC["sessions_a_week"]):
            short = float(rng.uniform(*SPEC["test"]["short_of_max_pct"])) / 100
            tests.append(Mark(f"t{n}", day, MarkKind.ONE_RM, max(20.0, _down(today_kg * (1 - short)))))
            continue
        sets += _working_sets(rng, n, day, maxes[week], today_kg, to_failure, noise, counted_low)
        others += _to_failure(rng, n, day, today_kg, to_failure)
        if has_sensor:
            points = [
                LoadVelocity(day, kg, speed(kg / today_kg), f"v{n}")
                for kg in sorted({_down(s * maxes[week]) for s in SPEC["velocity"]["shares"]})
                if kg > 0
            ]
            mark = velocity_mark(points, exercise(SPEC["lift"]), tests[0].load_kg)
            fast += [mark] if mark is not None else []
    marks = {KINDS[0]: [*tests, *sets], KINDS[1]: [*tests, *sets, *others], KINDS[2]: [*tests, *sets, *others, *fast]}
    return Life(maxes[-1], marks)


def _maxes(rng: np.random.Generator) -> list[float]:
    """The true max of each week, and of the day after the last."""
    kg = float(rng.uniform(*SPEC["max_kg"]))
    pace, stops = _normal(rng, SPEC["growth_pct_a_week"]), rng.random() < SPEC["plateau_share"]
    found = [kg]
    for week in range(SPEC["weeks"]):
        now = 0.0 if stops and week >= SPEC["weeks"] // 2 else pace
        found.append(found[-1] * (1 + (now + float(rng.normal(0, SPEC["growth_wobble_pct"]))) / 100))
    return found


def _speed(rng: np.random.Generator, noise: float) -> Callable[[float], float]:
    spec = SPEC["velocity"]
    at_max, fall = _normal(rng, spec["at_max_mps"]), _normal(rng, spec["fall_mps"])
    lacks = float(rng.uniform(*spec["intent_pct"])) / 100

    def mps(share: float) -> float:
        return (at_max + fall * max(0.0, 1 - share) ** spec["bend"]) * (1 - lacks) + float(
            rng.normal(0, spec["noise_mps"] * noise)
        )

    return mps


def _working_sets(
    rng: np.random.Generator, n: int, day: date, max_kg: float, today_kg: float, to_failure: Callable[[float], float],
    noise: float, counted_low: float,
) -> list[Mark]:  # fmt: skip
    spec, counted = SPEC["working_sets"], SPEC["reserve_counted"]
    reps, asked = int(rng.choice(spec["reps"])), int(rng.choice(spec["reserve_asked"]))
    usual = exp(-SPEC["fraction_for_reps"]["a"] * (reps + asked - 1) ** SPEC["fraction_for_reps"]["b"])
    kg = _down(max_kg * usual * (1 + float(rng.normal(0, spec["load_off_pct_sd"])) / 100) + SPEC["step_kg"] / 2)
    found: list[Mark] = []
    for k in range(2):
        left = to_failure(kg / today_kg) - reps
        if left < 0:
            break
        said = left + float(rng.normal(0, noise * (counted["sd_reps"] + counted["sd_a_rep_left"] * left))) - counted_low
        found.append(Mark(f"s{n}.{k}", day, MarkKind.SET_RIR, kg, reps, float(np.clip(round(said), 0, 6))))
    return found


def _to_failure(rng: np.random.Generator, n: int, day: date, today_kg: float, to_failure: Callable[[float], float]) -> list[Mark]:
    found: list[Mark] = []
    if n % SPEC["open_set"]["every_sessions"] == 0:
        kg = _down(today_kg * float(rng.uniform(*SPEC["open_set"]["share_of_max"])))
        reps = round(to_failure(kg / today_kg))
        if 1 <= reps <= 15:
            found.append(Mark(f"o{n}", day, MarkKind.AMRAP, kg, reps))
    if n % SPEC["rep_max"]["every_sessions"] == SPEC["rep_max"]["every_sessions"] - 1:
        wanted = int(rng.choice(SPEC["rep_max"]["reps"]))
        kg = _down(today_kg * exp(-SPEC["fraction_for_reps"]["a"] * (wanted - 1) ** SPEC["fraction_for_reps"]["b"]))
        reps = round(to_failure(kg / today_kg))
        if 1 <= reps <= 15:
            found.append(Mark(f"r{n}", day, MarkKind.REP_MAX, kg, reps))
    return found
