"""Runs on the floor: the best of the day, and how far the last one is off it."""

from __future__ import annotations

from collections.abc import Sequence

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
