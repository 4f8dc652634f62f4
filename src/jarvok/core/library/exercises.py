"""The exercise library: data files and their loader."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.sensors.trace import Pattern
from jarvok.core.velocity.detect import LiftMotion, Start
from jarvok.core.working import Source


@dataclass(frozen=True)
class VelocityAnchor:
    """A point of the general load-velocity relation: mean velocity in m/s at a share of 1RM (1.0 is the max)."""

    share: float
    mps: float
    source: Source


@dataclass(frozen=True)
class Exercise:
    """One exercise. `cost` is its same-day band: high, middle or low. `velocity` says which number counts.

    `same_lift` is the exercise whose marks and profile it shares: a lift done fast is still that lift. `free_jump` is
    what an assisted jump is held against, empty for others.
    """

    id: str
    name: str
    family: str
    pattern: str
    region: str
    cost: str
    kind: str
    cue: str
    implement: str
    bar_kg: float
    velocity: str
    seconds_per_rep: float
    per_side: bool
    motion: LiftMotion | None
    v1rm: VelocityAnchor | None
    light_load: VelocityAnchor | None
    tags: tuple[str, ...]
    same_lift: str
    free_jump: str
    max_from: tuple[str, float] | None
    simulated_pattern: Pattern | None
    simulated_range_m: float

    @property
    def is_loaded(self) -> bool:
        """Whether a load in kilograms belongs to it."""
        return self.implement != "none"


def _exercise(raw: dict[str, Any]) -> Exercise:
    v1rm, light, motion, sim = raw.get("v1rm"), raw.get("light_load"), raw.get("motion"), raw.get("simulated")
    related = raw.get("max_from")
    return Exercise(
        id=raw["id"],
        name=raw["name"],
        family=raw["family"],
        pattern=raw["pattern"],
        region=raw["region"],
        cost=raw["cost"],
        kind=raw["kind"],
        cue=raw["cue"],
        implement=raw["implement"],
        bar_kg=raw.get("bar_kg", 20.0),
        velocity=raw["velocity"],
        seconds_per_rep=raw["seconds_per_rep"],
        per_side=raw["per_side"],
        motion=LiftMotion(motion["least_range_m"], Start(motion["start"])) if motion else None,
        v1rm=VelocityAnchor(1.0, v1rm["mps"], Source(v1rm["mark"], v1rm["source"])) if v1rm else None,
        light_load=VelocityAnchor(light["share"], light["mps"], Source(light["mark"], light["source"])) if light else None,
        tags=tuple(raw["tags"]),
        same_lift=raw["same_lift"],
        free_jump=raw.get("free_jump", ""),
        max_from=(related["exercise"], related["ratio"]) if related else None,
        simulated_pattern=Pattern(sim["pattern"]) if sim else None,
        simulated_range_m=sim["range_m"] if sim else 0.5,
    )


@lru_cache(maxsize=1)
def exercises() -> dict[str, Exercise]:
    """Return every shipped exercise by id, in the order of the file."""
    text = resources.files("jarvok.core.library").joinpath("data/exercises.json").read_text("utf-8")
    return {raw["id"]: _exercise(raw) for raw in json.loads(text)["exercises"]}


@lru_cache(maxsize=1)
def chains() -> dict[str, dict[str, str]]:
    """Return for each chain the exercise id of each phase."""
    text = resources.files("jarvok.core.library").joinpath("data/chains.json").read_text("utf-8")
    return {raw["id"]: raw["steps"] for raw in json.loads(text)["chains"]}


def exercise(exercise_id: str) -> Exercise:
    """Return one exercise; raise `CoachError` when the library has none of that id."""
    found = exercises().get(exercise_id)
    if found is None:
        raise CoachError(f"The library has no exercise “{exercise_id}”.", where="exercise")
    return found


def substitute(exercise_id: str, restricted_tags: frozenset[str]) -> str | None:
    """Return the nearest exercise that breaks no restriction: itself when free, else same family, else same pattern.

    `restricted_tags` name patterns, regions or tags that are off. None when nothing loaded alike is left.
    """
    wanted = exercise(exercise_id)

    def free(candidate: Exercise) -> bool:
        return not restricted_tags & {candidate.pattern, candidate.region, *candidate.tags}

    if free(wanted):
        return exercise_id
    others = [e for e in exercises().values() if e.id != exercise_id and free(e)]
    for same in (
        [e for e in others if e.family == wanted.family and e.kind == wanted.kind],
        [e for e in others if e.family == wanted.family],
        [e for e in others if e.pattern == wanted.pattern],
        [e for e in others if e.region == wanted.region and e.kind == wanted.kind],
    ):
        if same:
            return same[0].id
    return None
