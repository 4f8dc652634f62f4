"""Conditions of a mark or a line: how the bar is racked and gripped, what supports the body. Unlike things are not compared."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.marks.mark import Conditions, Mark


@dataclass(frozen=True)
class Condition:
    """One kind of condition: its id and name, its choices by id with their words, and the lifts it is asked of."""

    id: str
    name: str
    choices: tuple[tuple[str, str], ...]
    ids: frozenset[str]
    families: frozenset[str]

    def holds(self, lift: Exercise) -> bool:
        """Whether it is asked of a lift: one with a bar, of its families or named."""
        return lift.implement == "barbell" and lift.is_loaded and (lift.id in self.ids or lift.family in self.families)


@cache
def conditions() -> tuple[Condition, ...]:
    """Return all kinds of condition."""
    raw = json.loads(resources.files("jarvok.core.marks").joinpath("data/conditions.json").read_text("utf-8"))
    return tuple(
        Condition(c["id"], c["name"], tuple(c["choices"].items()), frozenset(c.get("ids", ())), frozenset(c.get("families", ())))
        for c in raw["conditions"]
    )


def conditions_of(lift: Exercise) -> tuple[Condition, ...]:
    """Return the kinds of condition that are asked of a lift."""
    return tuple(c for c in conditions() if c.holds(lift))


def checked(lift: Exercise, given: Mapping[str, str]) -> Conditions:
    """Return what was given as conditions of a lift, in the order of the table; empty words say nothing.

    Raises `CoachError` for a kind or a choice that the lift does not have.
    """
    asked = {c.id: c for c in conditions_of(lift)}
    for kind, choice in given.items():
        if choice and (kind not in asked or choice not in dict(asked[kind].choices)):
            known = asked[kind].choices if kind in asked else tuple((c.id, c.name.lower()) for c in asked.values())
            accepted = ", ".join(words for _, words in known) or "None are asked of this exercise."
            raise CoachError(f"{lift.name} has no such condition.", where="conditions", accepted=accepted)
    return tuple((kind, given[kind]) for kind in asked if given.get(kind))


def from_raw(raw: Mapping[str, Any] | None) -> Conditions:
    """Return kept conditions; kinds that are known no more are passed over."""
    if not raw:
        return ()
    return tuple((c.id, raw[c.id]) for c in conditions() if raw.get(c.id) in dict(c.choices))


def words_of(given: Conditions) -> str:
    """Return conditions in words: “fingertips in the rack, belt”; nothing where none are said."""
    names = {c.id: dict(c.choices) for c in conditions()}
    return ", ".join(names[kind][choice] for kind, choice in given)


def usual_of(marks: Iterable[Mark], told: Conditions = ()) -> Conditions:
    """Return an athlete's usual conditions of a lift: what the coach has said; else of each kind what most of its marks name.

    Marks that name nothing of a kind are as usual; where they are most, the usual is not said. Of equals the newest named.
    """
    known = sorted(marks, key=lambda m: m.day, reverse=True)
    usual = dict(told)
    for c in conditions():
        votes = Counter(dict(m.conditions).get(c.id, "") for m in sorted(known, key=lambda m: c.id not in dict(m.conditions)))
        if c.id not in usual and votes and (most := votes.most_common(1)[0][0]):
            usual[c.id] = most
    return tuple(usual.items())


def under(given: Conditions, usual: Conditions) -> dict[str, str]:
    """Return conditions in full: what is given, and for the other kinds what is usual."""
    return {**dict(usual), **dict(given)}


def is_comparable(mark: Mark, wanted: Conditions, usual: Conditions) -> bool:
    """Whether a mark counts where some conditions are wanted; none are the usual ones."""
    return under(mark.conditions, usual) == under(wanted, usual)
