"""Concurrent: max effort, fast and repetition work all year, variations rotated weekly, volume by the time of year.

Volumes, intensities and lengths are common practice [C]; shares of the season Jarvok's default [J].
"""

from __future__ import annotations

from jarvok.core.season.arrangement import GENERAL, Arrangement, PhaseRule, TaperRule, fixed
from jarvok.core.season.model import PhaseKey

ALL = ("max strength", "strength-speed", "strength endurance")
# lengths, volumes and intensities: Jarvok's defaults [J] within common practice
FAR = PhaseRule(
    id="far", name="Concurrent, high volume", key=PhaseKey.MIXED, least_weeks=4, most_weeks=40, share=0.7, volume=1.05,
    intensity_pct=(85.0, 92.5), given_up=None, builds=ALL, keeps=("maximal speed",),
    exercises="variations that are hard at low load, changed by one small step each week", accessories="high volume, rotated",
)  # fmt: skip
NEAR = PhaseRule(
    id="near", name="Concurrent, toward the lifts", key=PhaseKey.MIXED, least_weeks=3, most_weeks=5, share=0.3, volume=0.85,
    intensity_pct=(87.5, 95.0), given_up=0, builds=("max strength", "strength-speed"),
    keeps=("strength endurance", "maximal speed"),
    exercises="competition loads come late; the variations that have moved this athlete's lift stay", accessories="medium",
)  # fmt: skip

ARRANGEMENT = Arrangement(
    key="concurrent",
    name="Concurrent",
    phases_for=fixed(GENERAL, FAR, NEAR),
    base="far",
    loading_weeks=None,
    waves=(0.95, 1.0, 1.05),  # [J] fast work runs in waves of three weeks
    taper=TaperRule(),
    heavy_days_out=10,
    good_for="Keeping everything alive; shows more weak points in one session.",
    for_whom="Strength sport and team sport with strength to build on; not for the very weak.",
    weakness="Messier to plan, and no quality gets all the room.",
    fatigue="Reactive: stop when overreached, rotate variations; no compulsory deload week.",
    how="taper, then a few weeks toward the lifts themselves; the high volume before gets what is left",
)
