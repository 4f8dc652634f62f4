"""Linear: volume falls and intensity rises over months; variations give way to the competition movements.

Volumes, intensities and lengths are common practice [C]; shares of the season Jarvok's default [J].
"""

from __future__ import annotations

from jarvok.core.season.arrangement import GENERAL, RISING, Arrangement, PhaseRule, TaperRule, fixed
from jarvok.core.season.model import PhaseKey

# phase lengths, volumes and intensities: Jarvok's defaults [J] within common practice
VOLUME = PhaseRule(
    id="volume", name="Volume", key=PhaseKey.VOLUME, least_weeks=3, most_weeks=10, share=0.35, volume=1.1,
    intensity_pct=(65.0, 75.0), given_up=1, builds=("strength endurance",), keeps=("max strength",),
    exercises="variations, longer sets", accessories="light, high volume",
)  # fmt: skip
STRENGTH = PhaseRule(
    id="strength", name="Strength", key=PhaseKey.BASE, least_weeks=4, most_weeks=10, share=0.40, volume=0.95,
    intensity_pct=(75.0, 87.5), given_up=None, builds=("max strength",), keeps=(),
    exercises="variations close to the competition movements", accessories="medium",
)  # fmt: skip
PEAK = PhaseRule(
    id="peak", name="Heavy", key=PhaseKey.PEAK, least_weeks=2, most_weeks=5, share=0.25, volume=0.75,
    intensity_pct=(85.0, 92.5), given_up=0, builds=("max strength",), keeps=(),
    exercises="the competition movements, sets of one to three", accessories="heavy, low volume",
)  # fmt: skip

ARRANGEMENT = Arrangement(
    key="linear",
    name="Linear",
    phases_for=fixed(GENERAL, VOLUME, STRENGTH, PEAK),
    base="strength",
    loading_weeks=3,
    waves=RISING,
    taper=TaperRule(),
    heavy_days_out=10,
    good_for="A single date far away; simple, predictable and easy to recover in.",
    for_whom="Novices, and strength events.",
    weakness="What is not trained for months fades: speed early, volume late. Hard to fit to a league.",
    fatigue="Planned deload weeks, 3:1.",
    how="taper, heavy, strength, volume, backwards from the day; volume falls and intensity rises throughout",
)
