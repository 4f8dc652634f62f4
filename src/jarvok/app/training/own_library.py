"""The coach's own exercises: kept apart from the shipped ones, in force for every request."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse

from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.training.models import OwnExercise
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise, VelocityAnchor
from jarvok.core.library.exercises import exercise_from, exercises, shipped, with_own
from jarvok.core.library.kit import GEAR_NAMES, IMPLEMENTS

_OWN = Objects(lambda _: OwnExercise.objects.all())
PATTERNS = (
    "squat",
    "hinge",
    "press",
    "pull",
    "single_leg",
    "classic",
    "jump",
    "throw",
    "run",
    "trunk",
    "hold",
    "carry",
    "drill",
    "conditioning",
)
REGIONS = ("lower", "upper", "whole", "trunk", "neck")
COSTS = ("high", "middle", "low")
KINDS = ("strength", "ballistic", "classic", "accessory", "jump", "throw", "run", "hold", "carry", "drill", "conditioning")
CHOICES: dict[str, tuple[str, ...]] = {
    "pattern": PATTERNS,
    "region": REGIONS,
    "cost": COSTS,
    "kind": KINDS,
    "implement": ("none", *sorted(IMPLEMENTS)),
    "velocity": ("mean", "peak"),
}
LONGEST = {"name": 60, "cue": 120}


def own_exercises() -> list[Exercise]:
    """The coach's own exercises; one taken out is still known, so that what was done with it can be read."""
    newest = {row.exercise_id: row for row in _OWN.all()}
    found = []
    for row in newest.values():
        if row.withdrawn_at is None or not is_shipped(row.exercise_id):
            try:
                found.append(exercise_from(row.data))
            except (KeyError, TypeError, ValueError):
                continue
    return found


def taken_out_ids() -> set[str]:
    """Ids of the coach's own exercises that are no longer in the library."""
    newest = {row.exercise_id: row for row in _OWN.all()}
    return {key for key, row in newest.items() if row.withdrawn_at is not None and not is_shipped(key)}


class OwnLibrary:
    """Middleware: the coach's own exercises count in every request of the API."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/"):
            return self.get_response(request)
        with with_own(own_exercises()):
            return self.get_response(request)


def id_for(name: str) -> str:
    """A free id for an exercise of that name."""
    base = re.sub(r"[^a-z0-9]+", "_", name.lower()).strip("_")[:32] or "exercise"
    known, number, found = exercises(), 2, f"own_{base}"
    while found in known:
        found, number = f"own_{base}_{number}", number + 1
    return found


def checked(typed: dict[str, Any]) -> dict[str, Any]:
    """An exercise's row as it can be kept; raises `CoachError` for one that cannot."""
    for key, longest in LONGEST.items():
        if not 1 <= len(str(typed[key]).strip()) <= longest:
            raise CoachError(f"The {key} is missing or too long.", where=key, accepted=f"1 to {longest} characters.")
    for key, choices in CHOICES.items():
        if typed[key] not in choices:
            raise CoachError(f"“{typed[key]}” is no {key}.", where=key, accepted=", ".join(choices).replace("_", " "))
    unknown = set(typed["needs"]) - set(GEAR_NAMES)
    if unknown:
        raise CoachError(
            f"There is no such gear: {', '.join(sorted(unknown))}.", where="needs", accepted=", ".join(GEAR_NAMES.values())
        )
    if not 0.2 <= typed["seconds_per_rep"] <= 600:
        raise CoachError("A repetition takes longer or less long.", where="seconds_per_rep", accepted="0.2 to 600 s.")
    return {**typed, "name": typed["name"].strip(), "cue": typed["cue"].strip()}


def kept_of(base: Exercise | None) -> dict[str, Any]:
    """What a form does not ask for is kept from the exercise that is edited."""
    if base is None:
        return {
            "family": "own",
            "tags": [],
            "roles": [],
            "place": "",
            "tail_days": 1,
            "faults": [],
            "cautions": [],
            "teaching": 1,
        }
    return {
        "family": base.family,
        "tags": list(base.tags),
        "roles": list(base.roles),
        "place": base.place,
        "tail_days": base.tail_days,
        "faults": list(base.faults),
        "cautions": list(base.cautions),
        "teaching": base.teaching,
        "same_lift": base.same_lift,
        "free_jump": base.free_jump,
        "variation_of": base.variation_of,
        "running": base.running,
        "tempo": base.tempo,
        "bar_kg": base.bar_kg,
        "max_from": {"exercise": base.max_from[0], "ratio": base.max_from[1]} if base.max_from else None,
        "motion": {"least_range_m": base.motion.least_range_m, "start": base.motion.start.value} if base.motion else None,
        "plyometric": base.plyometric.__dict__ if base.plyometric else None,
        "v1rm": _anchor(base.v1rm),
        "light_load": _anchor(base.light_load),
        "simulated": _simulated(base),
    }


def _anchor(anchor: VelocityAnchor | None) -> dict[str, Any] | None:
    if anchor is None:
        return None
    return {"share": anchor.share, "mps": anchor.mps, "mark": anchor.source.mark, "source": anchor.source.text}


def _simulated(base: Exercise) -> dict[str, Any] | None:
    if base.simulated_pattern is None:
        return None
    return {"pattern": base.simulated_pattern.value, "range_m": base.simulated_range_m}


def is_shipped(exercise_id: str) -> bool:
    """Whether the library came with it."""
    return exercise_id in shipped()
