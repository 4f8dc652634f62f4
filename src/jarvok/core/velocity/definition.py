"""From where to where a mean velocity is taken: stands beside every number, and is never mixed within a profile."""

from __future__ import annotations

from enum import StrEnum

PHASE_CUTOFF_HZ = 6.6  # [J] zero-lag; higher keeps short phases truer, lower keeps the number free of noise
PHASE_EDGE_MPS = 0.03  # [J] the phase runs from where the bar passes this speed to where it falls under it
# [M] what the filter costs: the mean reads this much low for a phase of so many s; there peak velocity counts
SHORT_PHASE = ((1.5, 0.5), (0.85, 2.0), (0.7, 3.5), (0.5, 6.0))


class Definition(StrEnum):
    """How the two ends of the concentric phase were found."""

    CROSSING = "crossing"
    FITTED = "fitted"
    DEVICE = "device"


DEFINITION_WORDS = {
    Definition.CROSSING: f"from {PHASE_EDGE_MPS:g} m/s up to {PHASE_EDGE_MPS:g} m/s at the top",
    Definition.FITTED: "fitted from rest to rest, as measured before December 2026",
    Definition.DEVICE: "as another device gave it",
}


def short_phase_words(duration_s: float) -> str:
    """Return what the mean of a short phase is worth in words; nothing for one long enough."""
    if duration_s >= SHORT_PHASE[1][0]:
        return ""
    low_pct = next((pct for least, pct in SHORT_PHASE if duration_s >= least), SHORT_PHASE[-1][1])
    return f"{duration_s:.1f} s long: the mean may read up to {low_pct:g} % low, look at the peak"
