"""Block: few qualities at a time, accumulated, turned, and shown; each block of 2 to 5 weeks (Issurin 2010, from memory).

Volumes, intensities and lengths are common practice [C]; shares of the season Jarvok's default [J].
"""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.season.arrangement import GENERAL, RISING, Arrangement, PhaseRule, TaperRule
from jarvok.core.season.model import PhaseKey
from jarvok.core.working import Source

CYCLE_WEEKS = 10  # [J] the longest cycle that still lets every block be 2 to 5 weeks
ACCUMULATION = PhaseRule(
    id="accumulation", name="Accumulation", key=PhaseKey.VOLUME, least_weeks=2, most_weeks=5, share=0.5, volume=1.1,
    intensity_pct=(70.0, 80.0), given_up=None, builds=("max strength", "aerobic endurance"), keeps=(),
    exercises="general movements, many sets", accessories="light, high volume",
)  # fmt: skip
TRANSMUTATION = PhaseRule(
    id="transmutation", name="Transmutation", key=PhaseKey.STRENGTH_SPEED, least_weeks=2, most_weeks=5, share=0.5, volume=0.9,
    intensity_pct=(80.0, 87.5), given_up=0, builds=("strength-speed", "glycolytic endurance"), keeps=("max strength",),
    exercises="movements close to the sport, heavy and fast", accessories="medium",
)  # fmt: skip
REALISATION = PhaseRule(
    id="realisation", name="Realisation", key=PhaseKey.SPEED_STRENGTH, least_weeks=1, most_weeks=2, share=0.0, volume=0.6,
    intensity_pct=(85.0, 87.5), given_up=0, builds=("maximal speed",), keeps=("max strength", "strength-speed"),
    exercises="competition movements, fast and few; a control test fits here", accessories="heavy, low volume",
)  # fmt: skip


def phases_for(weeks: int) -> tuple[PhaseRule, ...]:
    """Return as many cycles as the weeks hold; the last one is realised in the taper."""
    cycles = max(1, -(-weeks // (CYCLE_WEEKS + 1)))
    found = [GENERAL]
    for i in range(1, cycles + 1):
        last = i == cycles
        parts = (ACCUMULATION, TRANSMUTATION) if last else (ACCUMULATION, TRANSMUTATION, REALISATION)
        for part in parts:
            name = part.name if cycles == 1 else f"{part.name} {i}"
            given_up = part.given_up if last or part.given_up is not None else i - 1
            found.append(replace(part, id=part.id if last else f"{part.id}_{i}", name=name, given_up=given_up))
    return tuple(found)


ARRANGEMENT = Arrangement(
    key="block",
    name="Block",
    phases_for=phases_for,
    base="accumulation",
    loading_weeks=3,
    waves=RISING,
    taper=TaperRule(name="Realisation"),
    heavy_days_out=10,
    good_for="Several competitions in a year: a cycle for each.",
    for_whom="Trained athletes who need much of one thing to improve.",
    weakness="What a block leaves out lives on its residual; too narrow for beginners.",
    fatigue="Planned deload weeks, 3:1; realisation is light by itself.",
    how="realisation ends on the day; transmutation and accumulation before it, and whole cycles before those",
    source=Source("P", "Issurin 2010"),
)
