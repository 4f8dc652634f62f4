"""A written load so far over the max that it is likely a slip of the hand."""

from __future__ import annotations

from jarvok.core.loading.methods.as_written import FixedLoad, FixedLoads
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.state import LiftState


def written_far_over_kg(line: Prescription, state: LiftState) -> float | None:
    """Return the heaviest load in kg that is written out and lies so far over the lift's own max that it is asked about.

    None where there is none, or no max of the lift itself: an overload variation has its own.
    """
    if state.max_kg is None or state.related_max_from:
        return None
    loads: list[float] = []
    for group in line.groups:
        match group.load:
            case FixedLoad(load_kg=kg):
                loads.append(kg)
            case FixedLoads(loads_kg=kgs):
                loads += kgs
            case _:
                pass
    heaviest = max(loads, default=0.0)
    return heaviest if heaviest > state.at_share(1 + state.rules["marks.improbable_set_pct"] / 100) else None
