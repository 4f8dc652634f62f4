"""Runs on the floor: the best of the day, and how far the last one is off it."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil

from jarvok.core.floor.jumps import JumpWord
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import Input, Source, Working


def run_off(times_s: Sequence[float], rules: Rules = DEFAULT_RULES) -> JumpWord:
    """Return whether the last run is so much slower than the best that the runs end. At least one time is needed."""
    if not times_s:
        raise ValueError("a drop-off needs at least one run")
    best, last, limit = min(times_s), times_s[-1], rules["floor.run_drop_pct"]
    off = 100 * (last / best - 1)
    inputs = (Input("best", f"{best:.2f} s"), Input("last", f"{last:.2f} s"))
    working = Working(
        f"{off:.1f} %", f"slower than the best, {limit:g} % ends it", Source("J", "limit is Jarvok's default"), inputs
    )
    if off >= limit:
        return JumpWord(True, f"Run {last:.2f} s, {off:.0f} % over the best: end the runs.", working)
    return JumpWord(False, f"Run {last:.2f} s, best {best:.2f}.", working)


START_S = 8.0  # [J] to step up, be ready and go
USUAL_MPS = 6.0  # [J] over short distances from a stand: what a run is taken to last until it is timed


def run_takes_s(metres: float | None, seconds: float | None) -> float:
    """Return how long one run takes in s, with the start, from its distance or its time."""
    return START_S + (seconds or (metres or 0.0) / USUAL_MPS)


def line_word(people: int, metres: float | None, seconds: float | None, wanted_s: float) -> tuple[str, bool]:
    """Return what is said of people who run one after another, and whether the rest that results is right for the wanted one."""
    each_s = run_takes_s(metres, seconds)
    rest_s = max(0, people - 1) * each_s
    depth = 1 + ceil(wanted_s / each_s)
    if people == 0:
        return "nobody here", True
    said = f"{people} in this line rest {_minutes(rest_s)}, wanted {_minutes(wanted_s)}"
    if rest_s < wanted_s:
        return f"{said}: wait, or {depth} in a line", False
    if people > depth:
        return f"{said}: {depth} in a line would do", False
    return f"{said}: right", True


def _minutes(seconds: float) -> str:
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"
