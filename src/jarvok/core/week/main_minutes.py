"""How long the main work of a session takes, with the warm-up before it: known before its exercises are chosen.

It goes by the drafts and the room alone, so that the season's bars and the sheets hold the same number of sets.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.prescription import Prescription
from jarvok.core.rules import Rules
from jarvok.core.session.blocks import BlockStyle
from jarvok.core.session.planned import PlannedLine
from jarvok.core.session.roles import role_of
from jarvok.core.week.hour import minutes_of
from jarvok.core.week.pick import pool
from jarvok.core.week.plan import Draft, WeekFacts

FEW_SETS = 9  # [J] so few main sets fit into the shortest hour with their warm-up: nothing is worked out for them
SPARE_MIN = 2  # [J] kept free: a strong lifter warms up by a set or two more than is reckoned here
_Row = tuple[str, str, Exercise, Prescription, bool, BlockStyle]


def fits(drafts: Sequence[Draft], sets: Sequence[int], facts: WeekFacts) -> bool:
    """Return whether the main work of a session, with what prepares it, fits into the minutes there are."""
    main = sum(n for n, d in zip(sets, drafts, strict=True) if d.counts)
    if facts.minutes is None or main <= FEW_SETS:
        return True
    rows = tuple(
        (d.slot, d.block, exercise(e), replace(d, sets=n).written, d.is_main, d.style)
        for d, n in zip(drafts, sets, strict=True)
        if n and (d.counts or d.prepares) and (e := _exercise_of(d, facts))
    )
    return _minutes(rows, facts.rules) <= facts.minutes - SPARE_MIN


def _exercise_of(draft: Draft, facts: WeekFacts) -> str:
    """The exercise a draft names, or the first that the room has for its role; nothing where it has none."""
    return draft.exercise_id or next(iter(pool(draft.role, facts.limits)), "")


@lru_cache(maxsize=4096)
def _minutes(rows: tuple[_Row, ...], rules: Rules) -> float:
    lines = [
        PlannedLine(slot, block, lift.id, line, "", is_main, style=style, role=role_of(block, lift, is_main=is_main))
        for slot, block, lift, line, is_main, style in rows
    ]
    return minutes_of(lines, rules)
