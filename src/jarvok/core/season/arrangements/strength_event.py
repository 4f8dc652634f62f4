"""Strength-event peak: three-week waves worked back from the contest, events staggered by their last heavy exposure.

Volumes, intensities and lengths are common practice [C]; shares of the season Jarvok's default [J].
"""

from __future__ import annotations

from jarvok.core.season.arrangement import GENERAL, Arrangement, PhaseRule, TaperRule, fixed
from jarvok.core.season.model import PhaseKey
from jarvok.core.season.taper import Shape, TaperStyle

# variations far out and contest loads in the last 4-5 weeks: common practice; the numbers are Jarvok's defaults [J]
FAR = PhaseRule(
    id="far", name="Variations, hard at low load", key=PhaseKey.BASE, least_weeks=3, most_weeks=40, share=0.7, volume=1.0,
    intensity_pct=(77.5, 87.5), given_up=None, builds=("max strength", "strength endurance"), keeps=("strength-speed",),
    exercises="variations that are hard at low load; the lift whose position hurts is swapped for a related lift",
    accessories="light, high volume, then heavier and fewer",
)  # fmt: skip
CONTEST = PhaseRule(
    id="contest", name="Contest lifts and loads", key=PhaseKey.PEAK, least_weeks=3, most_weeks=6, share=0.3, volume=0.85,
    intensity_pct=(85.0, 95.0), given_up=0, builds=("max strength",), keeps=("strength endurance", "strength-speed"),
    exercises="the events themselves, each up to its own last heavy exposure", accessories="heavy, low volume, out at the end",
)  # fmt: skip

ARRANGEMENT = Arrangement(
    key="strength_event",
    name="Strength-event peak",
    phases_for=fixed(GENERAL, FAR, CONTEST),
    base="far",
    loading_weeks=2,
    waves=(0.95, 1.1),  # [J] two rising weeks and an easier one make a wave of three
    taper=TaperRule(style=TaperStyle(14, Shape.FAST, 60.0), last_session_days_out=6),  # [C] often nothing in the last 6-7 days
    heavy_days_out=16,
    good_for="A contest of several events, each peaked at its own time.",
    for_whom="Strength and contest athletes.",
    weakness="Joints pay for contest loads that come early; little room for speed.",
    fatigue="Planned: the third week of each wave is easier.",
    how="events are staggered back from the contest; waves of three weeks fill the time before",
)
