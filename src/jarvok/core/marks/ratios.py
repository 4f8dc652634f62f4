"""Ratios between lifts: the athlete's beside the usual band, and the lagging lift in kilograms. Guides, not verdicts."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.working import COMMON_PRACTICE, Input, Working

CAUTION = "A guide, not a verdict: elite exceptions are known at both ends."


@dataclass(frozen=True)
class RatioRule:
    """One ratio: upper lift over lower lift, its target and usual band in per cent, and what a lag suggests."""

    upper: str
    lower: str
    name: str
    target_pct: float
    low_pct: float
    high_pct: float
    lagging_upper: tuple[str, ...]
    lagging_lower: tuple[str, ...]


@dataclass(frozen=True)
class Ratio:
    """An athlete's ratio in per cent with its error, which lift lags and by how many kg to the target, and the working."""

    rule: RatioRule
    pct: float
    error_pct: float
    verdict: str
    lagging: str
    gap_kg: float
    suggestions: tuple[str, ...]
    working: Working


@lru_cache(maxsize=1)
def ratio_rules() -> tuple[RatioRule, ...]:
    """Return the ratio table, in the order of the handbook."""
    raw = json.loads(resources.files("jarvok.core.marks").joinpath("data/ratios.json").read_text("utf-8"))
    return tuple(
        RatioRule(
            r["upper"], r["lower"], r["name"], r["target_pct"], r["low_pct"], r["high_pct"],
            tuple(r["lagging_upper"]), tuple(r["lagging_lower"]),
        )
        for r in raw["rows"]
    )  # fmt: skip


def ratios(maxes: Mapping[str, CurrentMax]) -> tuple[Ratio, ...]:
    """Return every ratio for which both lifts have a max of their own; `maxes` by exercise id."""
    return tuple(
        _ratio(rule, maxes[rule.upper], maxes[rule.lower]) for rule in ratio_rules() if {rule.upper, rule.lower} <= {*maxes}
    )


def _ratio(rule: RatioRule, upper: CurrentMax, lower: CurrentMax) -> Ratio:
    pct = 100 * upper.value_kg / lower.value_kg
    relative = ((upper.error_kg / upper.value_kg) ** 2 + (lower.error_kg / lower.value_kg) ** 2) ** 0.5
    if pct < rule.low_pct:
        verdict, lagging, suggestions = "below the band", rule.upper, rule.lagging_upper
        gap = lower.value_kg * rule.target_pct / 100 - upper.value_kg
    elif pct > rule.high_pct:
        verdict, lagging, suggestions = "above the band", rule.lower, rule.lagging_lower
        gap = upper.value_kg / (rule.target_pct / 100) - lower.value_kg
    else:
        verdict, lagging, suggestions, gap = "inside the band", "", (), 0.0
    error = pct * relative
    unsure = verdict != "inside the band" and rule.low_pct - error <= pct <= rule.high_pct + error
    if unsure:
        verdict += ", but by less than the maxes are sure of"
    working = Working(
        f"{pct:.0f} % ± {error:.0f}",
        f"{rule.name}: target {rule.target_pct:g} %, usual {rule.low_pct:g}–{rule.high_pct:g} %",
        COMMON_PRACTICE,
        (Input("upper", upper.working.result), Input("lower", lower.working.result)),
        missing=("the maxes are not sure enough to tell it from the band",) if unsure else (),
        caution=CAUTION,
    )
    return Ratio(rule, pct, error, verdict, lagging, gap, suggestions, working)
