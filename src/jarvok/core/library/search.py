"""Finding an exercise by the words a coach types: its name, what else it is called, what it is for."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Mapping
from difflib import SequenceMatcher
from functools import lru_cache
from importlib import resources
from typing import NamedTuple

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise

NEAREST = 3  # [T] names offered where none is meant for certain
LEAST_ALIKE = 0.55  # [T] how alike a name must be to be offered


class TradeWords(NamedTuple):
    """Words by kind, role, pattern, implement or gear; other names by exercise id."""

    words: Mapping[str, str]
    aliases: Mapping[str, tuple[str, ...]]


@lru_cache(maxsize=1)
def trade_words() -> TradeWords:
    """Return the words of the trade that shipped exercises are found by."""
    text = resources.files("jarvok.core.library").joinpath("data/trade_words.json").read_text("utf-8")
    raw = json.loads(text)
    return TradeWords(raw["words"], {k: tuple(v) for k, v in raw["aliases"].items()})


def aliases(lift: Exercise) -> tuple[str, ...]:
    """Return what else an exercise is called."""
    return trade_words().aliases.get(lift.id, ())


def found_by(lift: Exercise) -> str:
    """Return all words an exercise is found by, in small letters: name first, then other names, then what it is for."""
    words = trade_words().words
    said = [words[k] for k in (lift.kind, *lift.roles, lift.pattern, lift.implement, *sorted(lift.needs)) if k in words]
    told = [lift.pattern.replace("_", " "), lift.implement, lift.kind, *(n.replace("_", " ") for n in sorted(lift.needs))]
    return " ".join(dict.fromkeys(" ".join([lift.name, *aliases(lift), *told, *said]).lower().split()))


def plain(text: str) -> str:
    """Return words without marks and in small letters, so that spellings meet."""
    return " ".join(re.sub(r"[^a-z0-9&]", " ", text.lower()).split())


def named(typed: str, lifts: Iterable[Exercise]) -> Exercise | None:
    """Return the exercise whose name, or other name, is just this; a plural s does not matter. None where none is."""
    return by_name(lifts).get(singular(plain(typed)))


def by_name(lifts: Iterable[Exercise]) -> dict[str, Exercise]:
    """Return the exercises by all their names, plain and singular; a name goes before another's other name."""
    rows = list(lifts)
    found = {singular(plain(name)): x for x in rows for name in aliases(x)}
    return found | {singular(plain(x.name)): x for x in rows}


def singular(text: str) -> str:
    """Return plain words without the s of a plural."""
    return " ".join(w[:-1] if len(w) > 2 and w.endswith("s") and not w.endswith("ss") else w for w in text.split())


def meant(typed: str, lifts: Iterable[Exercise]) -> Exercise:
    """Return the one exercise that is meant: by its name, else the only one that all the words fit.

    Raises `CoachError` that offers the nearest names where none or several could be meant.
    """
    rows = list(lifts)
    exact = named(typed, rows)
    if exact is not None:
        return exact
    words = plain(typed).split()
    fits = [x for x in rows if words and all(w in plain(" ".join([x.name, *aliases(x)])) for w in words)]
    if len(fits) == 1:
        return fits[0]
    near = [x.name for x in sorted(fits, key=lambda x: len(x.name))] or _alike(plain(typed), rows)
    offered = ", ".join(near[:NEAREST]) or "A name as the search field finds it"
    raise CoachError(f"“{typed.strip()}” could be several exercises." if fits else f"No exercise is called “{typed.strip()}”.",
                     where="text", accepted=f"{offered}.")  # fmt: skip


def _alike(typed: str, lifts: Iterable[Exercise]) -> list[str]:
    scored = [(SequenceMatcher(None, typed, plain(n)).ratio(), x.name) for x in lifts for n in (x.name, *aliases(x))]
    best = sorted((s for s in scored if s[0] >= LEAST_ALIKE), reverse=True)
    return list(dict.fromkeys(name for _, name in best))
