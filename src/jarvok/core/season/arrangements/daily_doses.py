"""Small daily doses: one short focused cluster a day, different each day.

Volumes, intensities and lengths are common practice [C]; shares of the season Jarvok's default [J].
"""

from __future__ import annotations

from jarvok.core.season.arrangement import GENERAL, RISING, SHORT, Arrangement, PhaseRule, TaperRule, fixed
from jarvok.core.season.model import PhaseKey

# lengths, volumes and intensities: Jarvok's defaults [J]
DOSES = PhaseRule(
    id="doses", name="Small doses", key=PhaseKey.DOSES, least_weeks=3, most_weeks=40, share=0.75, volume=0.85,
    intensity_pct=(75.0, 85.0), given_up=None, builds=("max strength", "strength-speed"), keeps=("maximal speed",),
    exercises="heavy squat, jumps, single leg, other jumps: one a day, one or two supplements", accessories="one a day",
)  # fmt: skip
SHARPER = PhaseRule(
    id="sharper", name="Sharper doses", key=PhaseKey.SPEED_STRENGTH, least_weeks=2, most_weeks=4, share=0.25, volume=0.7,
    intensity_pct=(80.0, 87.5), given_up=0, builds=("maximal speed", "strength-speed"), keeps=("max strength",),
    exercises="fewer heavy days, more jumps and throws", accessories="out one by one",
)  # fmt: skip

ARRANGEMENT = Arrangement(
    key="daily_doses",
    name="Small daily doses",
    phases_for=fixed(GENERAL, DOSES, SHARPER),
    base="doses",
    loading_weeks=3,
    waves=RISING,
    taper=TaperRule(style=SHORT),
    heavy_days_out=7,
    good_for="Crowded calendars: missing one dose costs little.",
    for_whom="Athletes who are at the place every day, and in season.",
    weakness="No day is big enough to overload a trained lifter far.",
    fatigue="Little on any day; a deload week after three all the same.",
    how="a week of half doses before the day, sharper ones before it; the doses get what is left",
)
