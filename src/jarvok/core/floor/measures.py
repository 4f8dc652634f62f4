"""Results of a set that are no load: rounds, time, height, distance. Limits are technical [T]: wider than anybody reaches."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from jarvok.core.errors import CoachError


class Measure(NamedTuple):
    """A result: what it is called, how it is asked for, its unit, least and most, whether it is a whole number."""

    name: str
    asked: str
    unit: str
    least: float
    most: float
    is_whole: bool


MEASURES: dict[str, Measure] = {
    "rounds": Measure("rounds", "rounds", "rounds", 0, 200, True),
    "extra_reps": Measure("reps beyond", "reps beyond", "reps", 0, 500, True),
    "time_s": Measure("time", "time, min:s", "s", 1, 7200, False),
    "height_cm": Measure("height", "height, cm", "cm", 1, 400, False),
    "distance_m": Measure("distance", "distance, m", "m", 0.1, 300, False),
    "velocity_mps": Measure("velocity", "velocity, m/s", "m/s", 0.05, 6, False),
    "heights": Measure("heights", "heights, cm", "cm", 1, 150, False),
    "contacts": Measure("contact time", "contact time, s", "s", 0.05, 2, False),
}
LISTS = ("heights", "contacts")  # one number a repetition, kept as jumps
OF_SCORE: dict[str, tuple[str, ...]] = {
    "time": ("time_s",),
    "rounds": ("rounds", "extra_reps"),
    "height": ("height_cm",),
    "distance": ("distance_m",),
}


def check_measures(values: Mapping[str, float]) -> dict[str, float]:
    """Return the results that are given; raise `CoachError` for one that is not known or cannot be."""
    for key, value in values.items():
        rule = MEASURES.get(key)
        if rule is None or key in LISTS:
            raise CoachError("This result is not known.", where=key, accepted=", ".join(m.name for m in MEASURES.values()) + ".")
        if not rule.least <= value <= rule.most or (rule.is_whole and value != int(value)):
            accepted = f"{rule.least:g} to {rule.most:g} {rule.unit} are accepted."
            raise CoachError(f"{value:g} {rule.unit} cannot be.", where=key, accepted=accepted)
    return dict(values)


def words_of(values: Mapping[str, float]) -> str:
    """Return results as a coach says them: `5 rounds + 3`, `6:12`, `212 cm`."""
    parts: list[str] = []
    if "rounds" in values:
        beyond = values.get("extra_reps", 0)
        named = "round" if values["rounds"] == 1 else "rounds"
        parts.append(f"{values['rounds']:g} {named}" + (f" + {beyond:g}" if beyond else ""))
    if "time_s" in values:
        minutes, seconds = divmod(values["time_s"], 60)
        parts.append(f"{int(minutes)}:{seconds:02.0f}" if values["time_s"] >= 60 else f"{seconds:g} s")
    parts += [f"{values[k]:g} {MEASURES[k].unit}" for k in ("height_cm", "distance_m") if k in values]
    return ", ".join(parts)


def measured_words(values: Mapping[str, float]) -> str:
    """Return what was measured beside load and repetitions: `0.62 m/s`."""
    return f"{values['velocity_mps']:.2f} m/s" if "velocity_mps" in values else ""


def reps_in_rounds(reps: list[int], rounds: int, beyond: int) -> list[int]:
    """Return how often each of several lines was done in so many rounds and repetitions beyond, in order."""
    found: list[int] = []
    for each in reps:
        extra = min(each, beyond)
        beyond -= extra
        found.append(each * rounds + extra)
    return found
