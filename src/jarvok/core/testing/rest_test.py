"""Which rest suits an athlete between the heavy set and the jump, found by trying each on separate rounds.

Common practice; published averages favour 5-7 min and less for the strong (Seitz & Haff 2016), individuals differ widely.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from statistics import mean

from numpy.random import Generator

from jarvok.core.errors import CoachError
from jarvok.core.testing.chance import critical_t
from jarvok.core.working import COMMON_PRACTICE, Input, Working

USUAL_RESTS_S = (30, 60, 120, 240, 360, 480)
BASELINE = 0  # a round without the heavy set before it
LEAST_BASELINES = 3
MOST_ROUNDS, MORE = 6, 3  # [T]
KNOWN_DF = 30  # [J] a typical error known from other days counts as well known


@dataclass(frozen=True)
class Round:
    """One round of the test: the rest after the heavy set in s (0: baseline, no heavy set) and its jumps in cm.

    A test may run over several days: each `day` has baselines of its own.
    """

    rest_s: int
    heights_cm: tuple[float, ...]
    day: date | None = None


@dataclass(frozen=True)
class Window:
    """One rest as it came out: mean and best in cm, the gain over baseline in cm, and whether it beats chance."""

    rest_s: int
    mean_cm: float
    best_cm: float
    gain_cm: float
    beats_error: bool


@dataclass(frozen=True)
class RestResult:
    """The result: baseline and typical error in cm, the windows by rest, the one that is kept (None: none beats chance),
    and the one that leads without being more than that."""

    baseline_cm: float | None
    error_cm: float | None
    windows: tuple[Window, ...]
    kept_s: int | None
    sentence: str
    working: Working
    leading_s: int | None = None


def checked_rests(rests_s: Sequence[int]) -> tuple[int, ...]:
    """Return the rests, rising and each once. Raises `CoachError` outside 2-10 rests of 10-900 s."""
    found = tuple(sorted(set(rests_s)))
    if not 2 <= len(found) <= 10 or not all(10 <= r <= 900 for r in found):
        raise CoachError("These rests cannot be tested.", where="rests_s", accepted="Two to ten rests of 10 to 900 s.")
    return found


def protocol(rests_s: Sequence[int], rng: Generator, rounds: int = 1) -> tuple[int, ...]:
    """Return the order of rounds: baselines first, in the middle and last, the rests mixed between them, so many times.

    Raises `CoachError` outside 1-6 times.
    """
    rests = checked_rests(rests_s)
    if not 1 <= rounds <= MOST_ROUNDS:
        raise CoachError("So many rounds cannot be tested.", where="rounds", accepted=f"1 to {MOST_ROUNDS} of each rest.")
    order: list[int] = []
    for _ in range(rounds):
        mixed = [int(r) for r in rng.permutation(rests)]
        half = (len(mixed) + 1) // 2
        order += [BASELINE, *mixed[:half], BASELINE, *mixed[half:], BASELINE]
    return tuple(order)


def result(rounds: Sequence[Round], own_error_cm: float | None = None) -> RestResult:
    """Return what the rounds say so far.

    Heights are held against the baseline of their day. The typical error is the athlete's own where known, else the spread
    of rounds alike. The rest with the highest mean is kept when its gain beats chance, all rests together (`testing.chance`).
    """
    rounds = _by_their_days(rounds)
    baseline = [mean(r.heights_cm) for r in rounds if r.rest_s == BASELINE]
    tried: dict[int, list[float]] = {}
    for r in sorted(rounds, key=lambda r: r.rest_s):
        if r.rest_s != BASELINE:
            tried.setdefault(r.rest_s, []).append(mean(r.heights_cm))
    groups = [baseline, *tried.values()]
    df = sum(len(g) - 1 for g in groups if g)
    spread = (sum((x - mean(g)) ** 2 for g in groups if g for x in g) / df) ** 0.5 if df else None
    error = own_error_cm if own_error_cm is not None else spread if len(baseline) >= LEAST_BASELINES else None
    if not baseline or not tried:
        return _result(None, error, (), None, "Jump the baseline and at least one rest first.", ("baseline and rests",))
    base = mean(baseline)
    counts = tuple(len(g) for g in tried.values())
    needed = critical_t(counts, len(baseline), KNOWN_DF if own_error_cm is not None else df) if error is not None else 0.0
    windows: list[Window] = []
    for rest, means in tried.items():
        best = max(h for r in rounds if r.rest_s == rest for h in r.heights_cm)
        gain = mean(means) - base
        least = needed * (error or 0.0) * (1 / len(means) + 1 / len(baseline)) ** 0.5
        windows.append(Window(rest, mean(means), best, gain, error is not None and gain > least))
    if error is None:
        missing = f"{LEAST_BASELINES} baselines are needed for the typical error"
        return _result(base, None, tuple(windows), None, f"No judgement yet: {missing}.", (missing,))
    top = max(windows, key=lambda w: w.mean_cm)
    if not top.beats_error:
        return _nothing_found(base, error, tuple(windows), top, needed, min(counts), len(baseline))
    said = f"{clock_words(top.rest_s)} rest: {top.gain_cm:+.1f} cm over baseline"
    words = f"{said}, more than chance does (typical error {error:.1f} cm)."
    return _result(base, error, tuple(windows), top.rest_s, words, ())


def _by_their_days(rounds: Sequence[Round]) -> list[Round]:
    """Rounds with jumps, moved by how far the baseline of their day lies off the baseline of all days."""
    done = [r for r in rounds if r.heights_cm]
    bases = {d: [mean(r.heights_cm) for r in done if r.day == d and r.rest_s == BASELINE] for d in {r.day for r in done}}
    known = [mean(b) for b in bases.values() if b]
    overall = mean(known) if known else 0.0
    off = {d: mean(b) - overall if b else 0.0 for d, b in bases.items()}
    return [replace(r, heights_cm=tuple(h - off[r.day] for h in r.heights_cm)) for r in done]


def _nothing_found(
    base: float, error: float, windows: tuple[Window, ...], top: Window, needed: float, rounds: int, baselines: int
) -> RestResult:
    """No difference, what these rounds could have shown, and what more of them would."""
    now, more = (needed * error * (1 / n + 1 / m) ** 0.5 for n, m in ((rounds, baselines), (rounds + MORE, baselines + MORE)))
    words = (
        f"No difference found: the pair gains nothing here yet. These rounds show gains from {now:.1f} cm on; "
        f"{MORE} more of each rest and the baseline would show {more:.1f} cm."
    )
    leading = top.rest_s if top.gain_cm > 0 else None
    if leading is not None:
        words += f" {clock_words(leading)} leads with {top.gain_cm:+.1f} cm: provisional, until it is tested again."
    return replace(_result(base, error, windows, None, words, ()), leading_s=leading)


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
    rule = "the highest mean, kept when it beats the baseline by more than chance does with so many rests"
    text = clock_words(kept) if kept is not None else "none"
    caution = "Published averages favour 5 to 7 min, less for the strong (Seitz & Haff 2016); people differ widely."
    return RestResult(
        base, error, windows, kept, words, Working(text, rule, COMMON_PRACTICE, inputs, missing=missing, caution=caution)
    )
