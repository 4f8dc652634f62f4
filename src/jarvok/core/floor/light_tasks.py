"""A light task for a long rest: mobility where the lift that is up does not work, nothing that tires or hurts."""

from __future__ import annotations

from collections.abc import Collection

from jarvok.core.exercises import Exercise
from jarvok.core.floor.pain import loads
from jarvok.core.library.exercises import exercises

LONG_REST_S = 150  # [J] shorter ones are spent on plates and breath
ROLES = {"lower": ("mobility_upper", "mobility_rack"), "upper": ("mobility_hip", "mobility_ankle"), "whole": ("mobility_upper",)}
KINDS = ("drill", "hold")


def light_task(lift: Exercise, rest_s: float, areas: Collection[str], here: Collection[str], turn: int) -> str:
    """Return the name of a light exercise for the rest after a lift, another each `turn`; nothing for a short rest.

    `areas` hurt today, `here` are the exercises of the session. Common practice.
    """
    if rest_s < LONG_REST_S or not lift.is_loaded:
        return ""
    wanted = ROLES.get(lift.region, ())
    found = [
        e.name
        for e in exercises().values()
        if set(wanted) & set(e.roles)
        and e.kind in KINDS
        and e.region != lift.region
        and e.id not in here
        and not any(loads(a, e) for a in areas)
    ]
    return found[turn % len(found)] if found else ""
