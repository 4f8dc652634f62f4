"""Which rest suits an athlete between the heavy set and the jump, found by trying each on separate rounds.

Common practice; published averages favour 5-7 min and less for the strong (Seitz & Haff 2016), individuals differ widely.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import mean, stdev

from numpy.random import Generator

from jarvok.core.errors import CoachError
from jarvok.core.working import COMMON_PRACTICE, Input, Working

USUAL_RESTS_S = (30, 60, 120, 240, 360, 480)
BASELINE = 0  # a round without the heavy set before it
LEAST_BASELINES = 3


@dataclass(frozen=True)
class Round:
    """One round of the test: the rest after the heavy set in s (0: baseline, no heavy set) and its jumps in cm."""

    rest_s: int
    heights_cm: tuple[float, ...]


@dataclass(frozen=True)
class Window:
    """One rest as it came out: mean and best in cm, the gain over baseline in cm, and whether it beats the error."""

    rest_s: int
    mean_cm: float
    best_cm: float
    gain_cm: float
    beats_error: bool


@dataclass(frozen=True)
class RestResult:
    """The result: baseline and typical error in cm, the windows by rest, the one that is kept (None: none beats it)."""

    baseline_cm: float | None
    error_cm: float | None
    windows: tuple[Window, ...]
    kept_s: int | None
    sentence: str
    working: Working


def checked_rests(rests_s: Sequence[int]) -> tuple[int, ...]:
    """Return the rests, rising and each once. Raises `CoachError` outside 2-10 rests of 10-900 s."""
    found = tuple(sorted(set(rests_s)))
    if not 2 <= len(found) <= 10 or not all(10 <= r <= 900 for r in found):
        raise CoachError("These rests cannot be tested.", where="rests_s", accepted="Two to ten rests of 10 to 900 s.")
    return found


def protocol(rests_s: Sequence[int], rng: Generator) -> tuple[int, ...]:
    """Return the order of rounds: baselines first, in the middle and last, the rests mixed between them."""
    rests = checked_rests(rests_s)
    mixed = [int(r) for r in rng.permutation(rests)]
    half = (len(mixed) + 1) // 2
    return (BASELINE, *mixed[:half], BASELINE, *mixed[half:], BASELINE)


def result(rounds: Sequence[Round], own_error_cm: float | None = None) -> RestResult:
    """Return what the rounds say so far.

    The typical error is the athlete's own where known, else the standard deviation of the baseline jumps' rounds. A rest
    is kept when its mean beats the baseline by more than that error; of several, the one with the highest mean.
    """
    baseline = [r for r in rounds if r.rest_s == BASELINE and r.heights_cm]
    tried = [r for r in rounds if r.rest_s != BASELINE and r.heights_cm]
    means = [mean(r.heights_cm) for r in baseline]
    error = own_error_cm if own_error_cm is not None else (stdev(means) if len(means) >= LEAST_BASELINES else None)
    if not means or not tried:
        return _result(None, error, (), None, "Jump the baseline and at least one rest first.", ("baseline and rests",))
    base = mean(means)
    windows: list[Window] = []
    for rest in sorted({r.rest_s for r in tried}):
        heights = [h for r in tried if r.rest_s == rest for h in r.heights_cm]
        gain = mean(heights) - base
        windows.append(Window(rest, mean(heights), max(heights), gain, error is not None and gain > error))
    if error is None:
        missing = f"{LEAST_BASELINES} baselines are needed for the typical error"
        return _result(base, None, tuple(windows), None, f"No judgement yet: {missing}.", (missing,))
    good = [w for w in windows if w.beats_error]
    if not good:
        words = f"No rest beats the typical error of {error:.1f} cm: the pair gains nothing here yet."
        return _result(base, error, tuple(windows), None, words, ())
    best = max(good, key=lambda w: w.mean_cm)
    words = (
        f"{clock_words(best.rest_s)} rest: {best.gain_cm:+.1f} cm over baseline, more than the typical error of {error:.1f} cm."
    )
    return _result(base, error, tuple(windows), best.rest_s, words, ())


def clock_words(seconds: int) -> str:
    """Return a rest as minutes and seconds, such as `4:00`."""
    return f"{seconds // 60}:{seconds % 60:02d}"


def _result(
    base: float | None, error: float | None, windows: tuple[Window, ...], kept: int | None, words: str, missing: tuple[str, ...]
) -> RestResult:
    inputs = tuple(Input(clock_words(w.rest_s), f"mean {w.mean_cm:.1f} cm, best {w.best_cm:.1f}") for w in windows)
    if base is not None:
        inputs = (Input("baseline", f"{base:.1f} cm"), *inputs)
    if error is not None:
        inputs = (*inputs, Input("typical error", f"{error:.1f} cm"))
    rule = "the highest mean of the rests that beat the baseline by more than the typical error"
    text = clock_words(kept) if kept is not None else "none"
    caution = "Published averages favour 5 to 7 min, less for the strong (Seitz & Haff 2016); people differ widely."
    return RestResult(
        base, error, windows, kept, words, Working(text, rule, COMMON_PRACTICE, inputs, missing=missing, caution=caution)
    )
