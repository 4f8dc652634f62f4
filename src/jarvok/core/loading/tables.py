"""The tables of the loading methods, read from their data files; each file names its source and unit."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from typing import Any

from jarvok.core.working import Source


def _read(name: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(resources.files("jarvok.core.loading").joinpath(f"data/{name}.json").read_text("utf-8"))
    return found


def _source(raw: dict[str, Any]) -> Source:
    return Source(raw["source"]["mark"], raw["source"]["text"])


@dataclass(frozen=True)
class Increments:
    """Steps in kg by (group, region): group is `smaller` or `larger`, region `upper` or `lower`."""

    source: Source
    steps_kg: dict[tuple[str, str], tuple[float, float]]


@lru_cache(maxsize=1)
def increments() -> Increments:
    """Return the increments for linear loading and 2-for-2."""
    raw = _read("increments")
    return Increments(_source(raw), {(r["group"], r["region"]): (r["least_kg"], r["most_kg"]) for r in raw["rows"]})


@dataclass(frozen=True)
class ApreRow:
    """Repetitions `least_reps` to `most_reps` (None: and more) change the load by `near_kg` to `far_kg`.

    `near_kg` belongs to the repetition count nearest to no change, `far_kg` to the other edge.
    """

    least_reps: int
    most_reps: int | None
    near_kg: float
    far_kg: float


@dataclass(frozen=True)
class ApreProtocol:
    """One protocol: its RM, goal, the two warm sets as (repetitions, % of the RM load), and the adjustment rows."""

    rm: int
    goal: str
    warm_sets: tuple[tuple[int, float], ...]
    rows: tuple[ApreRow, ...]
    source: Source


@lru_cache(maxsize=1)
def apre_protocols() -> dict[int, ApreProtocol]:
    """Return the three protocols by their RM."""
    raw = _read("apre")
    return {
        p["rm"]: ApreProtocol(
            p["rm"],
            p["goal"],
            tuple((reps, pct) for reps, pct in p["sets"] if reps is not None),
            tuple(ApreRow(*row) for row in p["rows"]),
            _source(raw),
        )
        for p in raw["protocols"]
    }


@dataclass(frozen=True)
class IntensityWord:
    """A word for a day's heaviness and its share of the best for the scheme, in per cent."""

    word: str
    low_pct: float
    high_pct: float


WORDS_SOURCE_FILE = "intensity_words"


@lru_cache(maxsize=1)
def intensity_words() -> dict[str, IntensityWord]:
    """Return the words by name, lightest first."""
    return {r["word"]: IntensityWord(r["word"], r["low_pct"], r["high_pct"]) for r in _read(WORDS_SOURCE_FILE)["rows"]}


@lru_cache(maxsize=1)
def words_source() -> Source:
    """Return where the intensity words come from."""
    return _source(_read(WORDS_SOURCE_FILE))
