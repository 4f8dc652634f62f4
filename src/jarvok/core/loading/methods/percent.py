"""Percentage of the max, or of the training max, or of the day's max from velocity."""

from __future__ import annotations

from jarvok.core.loading.state import LiftState, Offer
from jarvok.core.working import COMMON_PRACTICE, Input, Source

CAUTION = "The max moves daily; repetitions at a percentage differ by athlete."
NO_MAX = "no max in this lift: enter a tested or rep-max mark"


def offer(pct: float, state: LiftState) -> Offer | None:
    """Return `pct` per cent of the (training) max, or None without a max."""
    base = state.training_max_kg
    if base is None:
        return None
    of = "of" if base == state.max_kg else "of the training max,"
    return Offer(pct / 100 * base, "percent", f"{pct:g} % {of} {base:.1f} kg", COMMON_PRACTICE, state.max_inputs, caution=CAUTION)


def offer_of_today(pct: float, state: LiftState) -> Offer | None:
    """Return `pct` per cent of the max that today's warm-up velocities imply, or None while they imply none."""
    if state.today is None or state.today.load_kg is None:
        return None
    base = state.today.load_kg
    interval = state.today.interval_kg
    text = f"{base:.1f} kg" + (f", 95 % between {interval[0]:.0f} and {interval[1]:.0f}" if interval else "")
    return Offer(
        pct / 100 * base,
        "percent of today",
        f"{pct:g} % of the day's max, {base:.1f} kg",
        Source("fact", "today's own velocities"),
        (Input("max from today's velocities", text),),
        caution="Without full intent in the warm-up it reads low; profiles tend to read high.",
    )
