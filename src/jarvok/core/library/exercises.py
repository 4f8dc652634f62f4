"""The exercise library: data files and their loader."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from functools import lru_cache
from importlib import resources
from types import MappingProxyType
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise, LiftMotion, Pattern, Plyometric, Start, VelocityAnchor
from jarvok.core.quantities.plates import STANDARD_BAR_KG
from jarvok.core.working import Source

FILES = (
    "squat", "hinge", "press", "pull", "single_leg", "classic", "jump", "throw", "run", "trunk", "conditioning", "drill",
)  # fmt: skip


def exercise_from(raw: Mapping[str, Any]) -> Exercise:
    """Return an exercise from its row of a data file, defaults already in it."""
    v1rm, light, motion, sim = raw.get("v1rm"), raw.get("light_load"), raw.get("motion"), raw.get("simulated")
    related, jump = raw.get("max_from"), raw.get("plyometric")
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
        bar_kg=raw.get("bar_kg", STANDARD_BAR_KG),
        velocity=raw["velocity"],
        seconds_per_rep=raw["seconds_per_rep"],
        per_side=raw["per_side"],
        motion=LiftMotion(motion["least_range_m"], Start(motion["start"])) if motion else None,
        v1rm=VelocityAnchor(1.0, v1rm["mps"], Source(v1rm["mark"], v1rm["source"])) if v1rm else None,
        light_load=VelocityAnchor(light["share"], light["mps"], Source(light["mark"], light["source"])) if light else None,
        tags=tuple(raw["tags"]),
        same_lift=raw.get("same_lift") or raw["id"],
        free_jump=raw.get("free_jump", ""),
        max_from=(related["exercise"], related["ratio"]) if related else None,
        simulated_pattern=Pattern(sim["pattern"]) if sim else None,
        simulated_range_m=sim["range_m"] if sim else 0.5,
        variation_of=raw.get("variation_of", ""),
        roles=tuple(raw["roles"]),
        needs=frozenset(raw["needs"]),
        place=raw["place"],
        tail_days=raw["tail_days"],
        plyometric=Plyometric(jump["kind"], jump["contact_s"], jump["contacts"], jump.get("maximal", False)) if jump else None,
        running=raw.get("running", ""),
        faults=tuple(raw["faults"]),
        cautions=tuple(raw["cautions"]),
        tempo=raw.get("tempo", ""),
        teaching=raw["teaching"],
        is_own=raw.get("is_own", False),
    )


MEASURED = ("motion", "simulated")  # a variation moves like the lift it varies


@lru_cache(maxsize=1)
def shipped() -> Mapping[str, Exercise]:
    """Return every shipped exercise by id, in the order of the files."""
    rows: dict[str, dict[str, Any]] = {}
    folder = resources.files("jarvok.core.library").joinpath("data/exercises")
    for name in FILES:
        data = json.loads(folder.joinpath(f"{name}.json").read_text("utf-8"))
        for raw in data["exercises"]:
            if raw["id"] in rows:
                raise ValueError(f"the exercise {raw['id']} is there twice")
            rows[raw["id"]] = data["defaults"] | raw
    for row in rows.values():
        parent = rows.get(row.get("variation_of", ""), {}) if row["implement"] == "barbell" else {}
        for key in MEASURED:
            if key not in row and key in parent:
                row[key] = parent[key]
    return MappingProxyType({key: exercise_from(row) for key, row in rows.items()})


_known: ContextVar[Mapping[str, Exercise] | None] = ContextVar("known_exercises", default=None)


def exercises() -> Mapping[str, Exercise]:
    """Return every exercise by id: the shipped ones, and the coach's own while they are in use."""
    return _known.get() or shipped()


@contextmanager
def with_own(own: Iterable[Exercise]) -> Iterator[None]:
    """Let the coach's own exercises count beside the shipped ones, or in place of one with the same id, while it lasts."""
    rows = {e.id: e for e in own}
    token = _known.set(MappingProxyType({**shipped(), **rows}) if rows else None)
    try:
        yield
    finally:
        _known.reset(token)


def own_in_use() -> tuple[Exercise, ...]:
    """Return the coach's own exercises that count now: what is kept of a choice from the library is kept beside them."""
    known = _known.get()
    return () if known is None else tuple(e for key, e in known.items() if shipped().get(key) is not e)


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
