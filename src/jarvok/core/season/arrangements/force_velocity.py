"""Force-velocity progression: heavy and slow, heavy and fast, light and fast, each exercise along its own chain.

Volumes, intensities and lengths are common practice [C]; shares of the season Jarvok's default [J].
"""

from __future__ import annotations

from jarvok.core.season.arrangement import GENERAL, RISING, Arrangement, PhaseRule, TaperRule, fixed
from jarvok.core.season.model import PhaseKey

# least and most weeks: common practice; shares, volumes and intensities are Jarvok's defaults [J]
BASE = PhaseRule(
    id="base", name="Base strength", key=PhaseKey.BASE, least_weeks=4, most_weeks=10, share=0.45, volume=1.0,
    intensity_pct=(75.0, 87.5), given_up=None, builds=("max strength",), keeps=(),
    exercises="the first step of each chain: step-up, pull-up, hinge, press",
    accessories="light, high volume, then fewer and heavier",
)  # fmt: skip
STRENGTH_SPEED = PhaseRule(
    id="strength_speed", name="Strength-speed", key=PhaseKey.STRENGTH_SPEED, least_weeks=3, most_weeks=8, share=0.30,
    volume=0.85, intensity_pct=(80.0, 85.0), given_up=0, builds=("strength-speed",), keeps=("max strength",),
    exercises="the same movements heavy and fast: fast step-up, fast pull-up, heavy swing", accessories="medium",
)  # fmt: skip
SPEED_STRENGTH = PhaseRule(
    id="speed_strength", name="Speed-strength", key=PhaseKey.SPEED_STRENGTH, least_weeks=3, most_weeks=8, share=0.25,
    volume=0.72, intensity_pct=(80.0, 87.5), given_up=1, builds=("maximal speed",), keeps=("max strength", "strength-speed"),
    exercises="light and fast, then unloaded: step-up jump, med-ball slam, broad jump", accessories="heavy, low volume",
)  # fmt: skip

ARRANGEMENT = Arrangement(
    key="force_velocity",
    name="Force–velocity progression",
    phases_for=fixed(GENERAL, BASE, STRENGTH_SPEED, SPEED_STRENGTH),
    base="base",
    loading_weeks=3,
    waves=RISING,
    taper=TaperRule(keeps_strength=False),
    heavy_days_out=10,
    good_for="Turning strength into speed for a date.",
    for_whom="Combat and field sport.",
    weakness="Several competitions close together; weightlifters, whose sport is the lifts.",
    fatigue="Planned deload weeks, 3:1.",
    how="taper, then speed-strength, then strength-speed, backwards from the day; the base gets what is left",
)
