"""A line carried over to another exercise at the rack: the same sets and repetitions, and a load that is that exercise's own."""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.exercises import Exercise
from jarvok.core.floor.pain import instead_text
from jarvok.core.loading.methods.as_written import FixedLoad, FixedLoads
from jarvok.core.loading.methods.percent import Percent, PercentRange
from jarvok.core.loading.methods.reserve import Reserve
from jarvok.core.loading.methods.rising import Rising
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.rule import LoadRule
from jarvok.core.loading.shorthand import parse

# shares and reserves mean the same of any lift; kilograms, records and velocities belong to the lift they were written for
CARRIED = (Percent, PercentRange, Reserve)
RESERVE = 2.0  # [J] far enough from failure for a lift that nobody has written
BY_TIME_OR_WAY = ("hold", "carry")


def same_again(written: Prescription, old: Exercise, lift: Exercise, sets: int, max_kg: float | None) -> Prescription:
    """Return a line for another exercise: as written where that means the same of it, else with repetitions in reserve.

    `sets` are those left; `max_kg` is the other exercise's max. A hold or a carry in place of repetitions, or the other way
    round, is begun anew.
    """
    if (old.kind in BY_TIME_OR_WAY or lift.kind in BY_TIME_OR_WAY) and old.kind != lift.kind:
        return parse(instead_text(lift, sets))
    groups = tuple(
        replace(g, load=_load(g.load, lift, max_kg), parts=(), minis=(), per_side=lift.per_side or g.per_side)
        for g in written.groups
    )
    if len(groups) == 1 and not _differs(groups[0].load):
        groups = (replace(groups[0], sets=sets, sets_high=None),)
    return replace(written, groups=groups, every_s=None, until_miss=False, drops=None, inside_s=None, stop_loss_pct=None)


def own_load(written: Prescription, lift: Exercise) -> Prescription:
    """Return a line written for somebody else: kilograms on a bar were theirs, repetitions in reserve are anybody's."""
    if lift.implement != "barbell":
        return written
    groups = tuple(replace(g, load=Reserve(RESERVE) if _is_in_kg(g.load) else g.load) for g in written.groups)
    return replace(written, groups=groups)


def _is_in_kg(rule: LoadRule | None) -> bool:
    return isinstance(rule, FixedLoad | FixedLoads) or (isinstance(rule, Rising) and isinstance(rule.start, FixedLoad))


def _differs(rule: LoadRule | None) -> bool:
    """Whether its sets are not alike, so that it matters which of them are left."""
    return isinstance(rule, PercentRange) or (isinstance(rule, Percent) and len(rule.percents) > 1)


def _load(rule: LoadRule | None, lift: Exercise, max_kg: float | None) -> LoadRule | None:
    if not lift.is_loaded or rule is None:
        return None
    if isinstance(rule, Reserve) or (isinstance(rule, CARRIED) and max_kg is not None):
        return rule
    return Reserve(RESERVE)
