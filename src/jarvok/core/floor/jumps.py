"""Jumps on the floor: when a set has gone off, and whether an assisted jump is assisted enough."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Input, Source, Working

NEAR_PCT = 4.0  # [J] points around the wanted help that are near enough


@dataclass(frozen=True)
class JumpWord:
    """A word after jumps: whether to stop (or to change the band), the sentence and its working."""

    act: bool
    sentence: str
    working: Working


def drop_off(heights_cm: Sequence[float], best_today_cm: float | None = None, rules: Rules = DEFAULT_RULES) -> JumpWord:
    """Return whether the last jump has dropped so far from the best that the set ends. At least one height is needed."""
    if not heights_cm:
        raise ValueError("a drop-off needs at least one jump")
    best = max([*heights_cm, *([best_today_cm] if best_today_cm else [])])
    last, limit = heights_cm[-1], rules["floor.jump_drop_pct"]
    drop = 100 * (best - last) / best
    inputs = (Input("best", f"{best:.1f} cm"), Input("last", f"{last:.1f} cm"))
    working = Working(
        f"{drop:.0f} %", f"drop from the best, {limit:g} % ends it", Source("J", "limit is Jarvok's default"), inputs
    )
    if drop >= limit:
        return JumpWord(True, f"Jump {last:.0f} cm, {drop:.0f} % under the best: end the set.", working)
    return JumpWord(False, f"Jump {last:.0f} cm, best {best:.0f}.", working)


def assistance(free_cm: Sequence[float], assisted_cm: Sequence[float], rules: Rules = DEFAULT_RULES) -> JumpWord | None:
    """Return whether the band helps as much as it should, from the best of free and assisted jumps; None without both."""
    if not free_cm or not assisted_cm:
        return None
    wanted = rules["floor.assist_pct"]
    free, assisted = max(free_cm), max(assisted_cm)
    more = 100 * (assisted / free - 1)
    inputs = (Input("free", f"{free:.1f} cm"), Input("assisted", f"{assisted:.1f} cm"))
    working = Working(f"{more:+.0f} %", f"about {wanted:g} % over free jumps", COMMON_PRACTICE, inputs)
    if more < wanted - NEAR_PCT:
        return JumpWord(True, f"Assisted jumps are {more:+.0f} %, wanted about {wanted:g}: a stronger band.", working)
    if more > wanted + NEAR_PCT:
        return JumpWord(True, f"Assisted jumps are {more:+.0f} %, wanted about {wanted:g}: a lighter band.", working)
    return JumpWord(False, f"Assisted jumps are {more:+.0f} %: as wanted.", working)
