"""Reps in reserve and RPE: the load that leaves the stated repetitions, by the relation in use."""

from __future__ import annotations

from jarvok.core.equations import MOST_REPS
from jarvok.core.loading.state import Ask, LiftState, Offer

HIGHEST_RELIABLE_RIR = 4  # common practice
HIGHEST_RELIABLE_REPS = 12  # common practice


def offer(ask: Ask, rir: float, words: str, state: LiftState) -> Offer | None:
    """Return the load for `ask.reps` with `rir` left, or None without a max or beyond 15 repetitions to failure."""
    to_failure = ask.reps + rir
    if state.max_kg is None or to_failure > MOST_REPS:
        return None
    relation = state.equation
    unsure = to_failure > HIGHEST_RELIABLE_REPS or rir > HIGHEST_RELIABLE_RIR
    return Offer(
        relation.load_kg(state.max_kg, to_failure),
        "reps in reserve",
        f"{ask.reps} reps with {words} is a {to_failure:g}RM: {state.max_kg:.1f} / {relation.ratio(to_failure):.3f} "
        f"({relation.name})",
        relation.source,
        state.max_inputs,
        caution="Unreliable above 12 repetitions or beyond 4 in reserve." if unsure else "",
    )


def reserve_at(share: float, reps: int, state: LiftState) -> float:
    """Return the repetitions left at a share of the max, in halves up to four (four stands for four and more)."""
    for halves in range(9):
        rir = halves / 2
        if reps + rir <= MOST_REPS and 1 / state.equation.ratio(reps + rir) <= share:
            return rir
    return 4.0
