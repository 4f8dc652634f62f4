"""High and low around speed: the year of a running team sport.

Volumes, intensities and lengths are common practice [C]; shares of the season Jarvok's default [J].
"""

from __future__ import annotations

from jarvok.core.season.arrangement import GENERAL, RISING, SHORT, Arrangement, PhaseRule, TaperRule, fixed
from jarvok.core.season.model import PhaseKey

SPEED = ("maximal speed", "max strength")


def _phase(
    rule_id: str, name: str, key: PhaseKey, weeks: tuple[int, int], share: float, volume: float,
    pct: tuple[float, float], given_up: int | None, builds: tuple[str, ...], exercises: str,
) -> PhaseRule:  # fmt: skip
    kept = tuple(q for q in ("max strength", "maximal speed", "aerobic endurance") if q not in builds)
    return PhaseRule(rule_id, name, key, *weeks, share, volume, pct, given_up, builds, kept, exercises, "on low days")


# the order is common practice; lengths, volumes and intensities are Jarvok's defaults [J]
RETURN = _phase("general_return", "General return", PhaseKey.GENERAL, (1, 2), 0.06, 0.6, (60.0, 70.0), 4, ("aerobic endurance",),
                "easy running and tempo, general strength, after the season")  # fmt: skip
SPECIFIC_1 = _phase("specific_1", "Specific, winter", PhaseKey.BASE, (4, 10), 0.24, 1.0, (75.0, 85.0), 3, ("max strength",),
                    "short accelerations, resisted first, on grass; total-body weights on high days")  # fmt: skip
SPRING = _phase("spring", "Spring practice", PhaseKey.STRENGTH_SPEED, (3, 5), 0.12, 0.7, (80.0, 85.0), 1, ("strength-speed",),
                "sport practice supplies the running; two strength sessions")  # fmt: skip
OPEN = _phase("discretionary", "Discretionary", PhaseKey.GENERAL, (2, 4), 0.08, 0.6, (65.0, 75.0), 0, ("aerobic endurance",),
              "weeks of the players' own; a short list to keep going")  # fmt: skip
GENERAL_2 = _phase("general_2", "General, summer", PhaseKey.VOLUME, (2, 6), 0.14, 1.0, (70.0, 80.0), 2, ("aerobic endurance",),
                   "tempo running, longer sets, starts uphill")  # fmt: skip
SPECIFIC_2 = _phase("specific_2", "Specific, summer", PhaseKey.BASE, (4, 10), 0.26, 1.0, (77.5, 87.5), None, SPEED,
                    "free sprints, then flying ones; weights that match the day's theme")  # fmt: skip
CAMP = _phase("camp", "Camp", PhaseKey.SPEED_STRENGTH, (2, 3), 0.10, 0.6, (80.0, 85.0), 1, ("maximal speed",),
              "practice is the load; weights keep what is there")  # fmt: skip

ARRANGEMENT = Arrangement(
    key="high_low",
    name="High and low around speed",
    phases_for=fixed(GENERAL, RETURN, SPECIFIC_1, SPRING, OPEN, GENERAL_2, SPECIFIC_2, CAMP),
    base="specific_2",
    loading_weeks=3,
    waves=RISING,
    taper=TaperRule(style=SHORT, intensity_pct=85.0, name="Sharpen"),
    heavy_days_out=10,
    good_for="Speed all year, hard days together and low days between.",
    for_whom="Running team sports.",
    weakness="Needs open days around practice; loses its shape in a crowded calendar.",
    fatigue="Low days between high ones, and a deload week after three.",
    how="the first match is the day; camp and summer before it, then the earlier parts of the year",
)
