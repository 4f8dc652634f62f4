"""The values of the job that a coach may change: each with its default, unit, limits and the mark of its source.

Published values are not here: they stand in the tables of their authors. What is common practice or Jarvok's own
choice is a default, named once, and every function that uses it takes a `Rules`.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from importlib import resources
from types import MappingProxyType
from typing import NamedTuple

from jarvok.core.equations import BY_KEY, DEFAULT_EQUATION, Equation
from jarvok.core.errors import CoachError
from jarvok.core.working import COMMON_PRACTICE, Source

OWN_CHOICE = Source("J", "Jarvok's default")


@dataclass(frozen=True)
class Rule:
    """One value: what it is called, its unit, its limits, where the default comes from and what it changes."""

    key: str
    group: str
    name: str
    default: float
    unit: str
    least: float
    most: float
    source: Source
    text: str


class Room(NamedTuple):
    """Groups of values that are looked for together: what it is called, and the groups by their names."""

    key: str
    name: str
    groups: tuple[str, ...]


# where values are looked for
ROOMS = (
    Room(
        "loads", "What sets a load", ("The max", "Setting a load", "Bar velocity", "What limits a lift", "Tests", "Typing errors")
    ),
    Room("season", "Season", ("The season",)),
    Room("week", "Week and session", ("The week", "The session")),
    Room("floor", "Floor", ("On the floor", "Readiness")),
)


def _read() -> tuple[Rule, ...]:
    raw = json.loads(resources.files("jarvok.core").joinpath("rules.json").read_text("utf-8"))
    return tuple(
        Rule(
            r["key"],
            r["group"],
            r["name"],
            r["default"],
            r["unit"],
            r["least"],
            r["most"],
            COMMON_PRACTICE if r["mark"] == "C" else OWN_CHOICE,
            r["text"],
        )
        for r in raw["rules"]
    )


RULES: tuple[Rule, ...] = _read()
RULE_BY_KEY = {rule.key: rule for rule in RULES}


@dataclass(frozen=True)
class Rules:
    """The values in force: the defaults, and what the coach has changed. `rules["max.rise_guard_pct"]` is a number."""

    changed: Mapping[str, float] = field(default_factory=lambda: MappingProxyType({}))
    equation: Equation = DEFAULT_EQUATION

    def __hash__(self) -> int:
        """By what is changed, so that what is worked out under some rules can be kept beside them."""
        return hash((frozenset(self.changed.items()), self.equation))

    def __getitem__(self, key: str) -> float:
        """Return the value in force."""
        return self.changed[key] if key in self.changed else RULE_BY_KEY[key].default


DEFAULT_RULES = Rules()


def check_rule(key: str, value: float) -> float:
    """Return `value` when it may stand for the rule; raise `CoachError` when it may not."""
    rule = RULE_BY_KEY.get(key)
    if rule is None:
        raise CoachError("There is no such setting.", where=key)
    if not rule.least <= value <= rule.most:
        raise CoachError(
            f"{value:g} cannot stand for “{rule.name}”.",
            where=key,
            accepted=f"{rule.least:g} to {rule.most:g} {rule.unit} are accepted.".replace("  ", " "),
        )
    return value


def check_equation(key: str) -> Equation:
    """Return the equation of that key; raise `CoachError` when there is none."""
    found = BY_KEY.get(key)
    if found is None:
        raise CoachError("There is no such equation.", where="equation", accepted=", ".join(e.name for e in BY_KEY.values()))
    return found
