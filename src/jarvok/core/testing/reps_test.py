"""How many jumps of a set are worth doing: the athlete's own heights, repetition by repetition. Common practice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import mean, stdev

from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.testing.chance import falls_after
from jarvok.core.working import COMMON_PRACTICE, Input, Working

LEAST_SETS, LEAST_REPS = 2, 4
MOST_REPS = 10  # a set of jumps with a reset between them holds up to ten


@dataclass(frozen=True)
class RepsResult:
    """Mean height in cm at each place of the set, the typical error in cm, and the repetitions that keep the quality."""

    means_cm: tuple[float, ...]
    error_cm: float | None
    kept_reps: int | None
    sentence: str
    working: Working


def result(sets_cm: Sequence[Sequence[float]], rules: Rules = DEFAULT_RULES) -> RepsResult:
    """Return how many repetitions keep the quality: up to the place after which heights fall by more than chance does.

    `sets_cm` are heights in cm of two sets or more of four jumps or more. The typical error is the standard deviation of
    the differences between sets, divided by √2. A place that lies past the drop limit of the settings ends the quality
    in any case.
    """
    rows = [list(s)[:MOST_REPS] for s in sets_cm if len(s) >= LEAST_REPS]
    if len(rows) < LEAST_SETS:
        need = f"{LEAST_SETS} sets of {LEAST_REPS} jumps or more are needed"
        return _result((), None, None, f"{need.capitalize()}; {len(rows)} so far.", (need,))
    length = min(len(r) for r in rows)
    means = tuple(mean(r[i] for r in rows) for i in range(length))
    differences = [b[i] - a[i] for a, b in pairwise(rows) for i in range(length)]
    error = stdev(differences) / 2**0.5
    allowed = max(means) * rules["floor.jump_drop_pct"] / 100
    inside = next((i for i in range(length) if max(means) - means[i] > allowed and i > 0), length)
    falls = falls_after([r[:length] for r in rows])
    kept = min(inside, falls if falls is not None else length)
    if kept < length:
        words = f"Heights fall after {kept}: sets of {kept} keep the quality (typical error {error:.1f} cm)."
    else:
        words = f"No fall found: quality holds over all {length}, and longer sets could be tried. More sets show smaller falls."
    return _result(means, error, kept, words, ())


def _result(means: tuple[float, ...], error: float | None, kept: int | None, words: str, missing: tuple[str, ...]) -> RepsResult:
    inputs = tuple(Input(f"jump {i}", f"{m:.1f} cm") for i, m in enumerate(means, start=1))
    if error is not None:
        inputs = (*inputs, Input("typical error", f"{error:.1f} cm"))
    rule = "the place after which heights fall by more than chance does, and never past the drop limit"
    working = Working(f"{kept} jumps" if kept else "nothing yet", rule, COMMON_PRACTICE, inputs, missing=missing)
    return RepsResult(means, error, kept, words, working)
