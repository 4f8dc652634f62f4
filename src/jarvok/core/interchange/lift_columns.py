"""Headings of a table that name a lift: by the library's name, or by the short one a coach writes over a column."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import NamedTuple

from jarvok.core.exercises import Exercise

# common practice: what a bare word over a column of results means
SHORT = {
    "squat": "back_squat",
    "bench": "bench_press",
    "dead": "deadlift",
    "dl": "deadlift",
    "press": "overhead_press",
    "military press": "overhead_press",
    "clean and jerk": "clean_and_jerk",
    "clean jerk": "clean_and_jerk",
    "c j": "clean_and_jerk",
    "trap bar": "trap_bar_deadlift",
    "chin up": "chin_up",
}
_BESIDE = re.compile(r"\b(?:1\s*rm|rm|max|maximum|best|test|result|kgs?|lbs?|pounds?)\b", re.IGNORECASE)


class LiftColumn(NamedTuple):
    """The lift of a column, and the unit its heading names: kg, lb or nothing."""

    exercise_id: str
    unit: str


def lift_column(heading: str, lifts: Sequence[Exercise]) -> LiftColumn | None:
    """Return the lift a heading names, None for one that names none."""
    words = _plain(_BESIDE.sub(" ", heading))
    names = {_plain(x.name): x.id for x in lifts} | {x.id.replace("_", " "): x.id for x in lifts}
    found = names.get(words) or SHORT.get(words)
    return LiftColumn(found, _unit(heading)) if found in {x.id for x in lifts} else None


def _unit(heading: str) -> str:
    if re.search(r"\b(?:lbs?|pounds?)\b", heading, re.IGNORECASE):
        return "lb"
    return "kg" if re.search(r"\bkgs?\b", heading, re.IGNORECASE) else ""


def _plain(text: str) -> str:
    return " ".join(re.sub(r"[^a-z0-9]", " ", text.lower()).split())
