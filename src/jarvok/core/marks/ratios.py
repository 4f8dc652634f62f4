"""Ratios between lifts: the athlete's beside the usual band, and the lagging lift in kilograms. Guides, not verdicts."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from importlib import resources
from math import sqrt
from typing import Protocol

from jarvok.core.equations import DEFAULT_EQUATION
from jarvok.core.marks.performance import Reading
from jarvok.core.marks.relation import Relation
from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.quantities.mass import to_a_tenth
from jarvok.core.working import COMMON_PRACTICE, Input, Working

CAUTION = "A guide, not a verdict: elite exceptions are known at both ends."
ASSISTED_TARGET_PCT = 110.0  # common practice: overspeed is working
ASSISTED_WITHIN_DAYS = 28  # [J] the free jump it is held against was measured recently


@dataclass(frozen=True)
class RatioRule:
    """One ratio: upper lift over lower lift, its target and usual band in per cent, and what a lag suggests.

    `lower_reps` above 1 compares with the lower lift's load for so many repetitions; `works_on` is what is done for an upper
    lift that lags, where it is not the lift itself.
    """

    upper: str
    lower: str
    name: str
    target_pct: float
    low_pct: float
    high_pct: float
    lagging_upper: tuple[str, ...]
    lagging_lower: tuple[str, ...]
    lower_reps: int = 1
    works_on: str = ""


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
            tuple(r["lagging_upper"]), tuple(r["lagging_lower"]), r.get("lower_reps", 1), r.get("works_on", ""),
        )
        for r in raw["rows"]
    )  # fmt: skip


def ratios(maxes: Mapping[str, CurrentMax], relation: Relation = DEFAULT_EQUATION, unit: str = "kg") -> tuple[Ratio, ...]:
    """Return every ratio for which both lifts have a max of their own; `maxes` by exercise id.

    `relation` turns a max into a load for repetitions, where a ratio asks for one; the working says that in `unit`.
    """
    found = [
        _ratio(rule, maxes[rule.upper], maxes[rule.lower], relation, unit)
        for rule in ratio_rules()
        if {rule.upper, rule.lower} <= {*maxes}
    ]
    inside = {(r.rule.upper, r.rule.lower): r.rule.name for r in found if r.verdict == INSIDE}
    return tuple(_in_one_voice(r, inside.get((r.rule.upper, r.rule.lower), "")) for r in found)


INSIDE = "in the usual range"


def _in_one_voice(ratio: Ratio, inside: str) -> Ratio:
    """No lag is called where another guide of the same two lifts lies inside its band, or the maxes are not sure of it."""
    if ratio.verdict == INSIDE or not (inside or ratio.working.missing):
        return ratio
    verdict = ratio.verdict if ratio.working.missing else f"{ratio.verdict}; {inside} is inside its own, so no lift lags"
    return replace(ratio, verdict=verdict, lagging="", gap_kg=0.0, suggestions=())


def _said(lift_id: str) -> str:
    """A lift as it is said."""
    return lift_id.replace("_", " ")


class KnownMax(Protocol):
    """A max in kg with its error, of whatever day."""

    @property
    def value_kg(self) -> float: ...  # noqa: D102
    @property
    def error_kg(self) -> float: ...  # noqa: D102


def share_pct(rule: RatioRule, upper: KnownMax, lower: KnownMax, relation: Relation = DEFAULT_EQUATION) -> tuple[float, float]:
    """Return one ratio and its error, both in per cent."""
    pct = 100 * upper.value_kg / relation.load_kg(lower.value_kg, rule.lower_reps)
    return pct, pct * sqrt((upper.error_kg / upper.value_kg) ** 2 + (lower.error_kg / lower.value_kg) ** 2)


def _ratio(rule: RatioRule, upper: CurrentMax, lower: CurrentMax, relation: Relation, unit: str) -> Ratio:
    lower_kg = relation.load_kg(lower.value_kg, rule.lower_reps)
    pct, error = share_pct(rule, upper, lower, relation)
    if pct < rule.low_pct:
        verdict, lagging, suggestions = "below the usual range", rule.upper, rule.lagging_upper
        gap = lower_kg * rule.target_pct / 100 - upper.value_kg
    elif pct > rule.high_pct:
        verdict, lagging, suggestions = "above the usual range", rule.lower, rule.lagging_lower
        gap = upper.value_kg / (rule.target_pct / 100) - lower_kg
    else:
        verdict, lagging, suggestions, gap = INSIDE, "", (), 0.0
    unsure = verdict != INSIDE and rule.low_pct - error <= pct <= rule.high_pct + error
    if unsure:
        verdict += ", but by less than the maxes are sure of"
    working = Working(
        f"{pct:.0f} % ± {error:.0f}",
        f"{rule.name}: target {rule.target_pct:g} %, usual {rule.low_pct:g}–{rule.high_pct:g} %",
        COMMON_PRACTICE,
        (
            Input(_said(rule.upper), upper.working.result),
            Input(_said(rule.lower), lower.working.result),
            *(
                (Input(f"{_said(rule.lower)} for {rule.lower_reps}", f"{to_a_tenth(lower_kg, unit)} {unit} by {relation.name}"),)
                if rule.lower_reps > 1
                else ()
            ),
        ),
        missing=("the maxes are not sure enough to tell it from the band",) if unsure else (),
        caution=CAUTION,
    )
    return Ratio(rule, pct, error, verdict, lagging, gap, suggestions, working)


@dataclass(frozen=True)
class AssistedJump:
    """A band-assisted jump over the same free jump in per cent, whether the overspeed works, words, and the working."""

    pct: float
    works: bool
    words: str
    working: Working


def assisted_jump(assisted: Reading, free: Reading, days_apart: int) -> AssistedJump | None:
    """Return the assisted jump against the same jump without the band; None when the two lie too far apart in time."""
    if days_apart > ASSISTED_WITHIN_DAYS:
        return None
    pct = 100 * assisted.value / free.value
    works = round(pct, 1) >= ASSISTED_TARGET_PCT  # as it is printed, so that the words cannot contradict it
    working = Working(
        f"{pct:.1f} %",
        f"assisted height over free height; about {ASSISTED_TARGET_PCT:g} % says that the overspeed is working",
        COMMON_PRACTICE,
        (Input("assisted", assisted.words), Input("free", free.words), Input("days apart", str(days_apart))),
        caution="The same jump on the same leg, measured recently.",
    )
    words = "the overspeed is working" if works else "under 110 %: change the band, or end the set when it falls"
    return AssistedJump(pct, works, words, working)
