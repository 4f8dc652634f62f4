"""Restrictions as they stand in a cell: what, which side, and by whose word."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import NamedTuple

from jarvok.core.errors import CoachError

ACCEPTED = "What and by whose word: “overhead, left shoulder, by Dr Aas”; several with semicolons."
_BY = re.compile(r"[,(]?\s*(?:set )?by\s+(?P<who>[^)]+)\)?\s*$", re.IGNORECASE)
_SIDE = re.compile(r"\b(left|right|both)\b", re.IGNORECASE)


class SaidRestriction(NamedTuple):
    """A restriction: the tag of the library it takes out, the words as written, the side, and who set it."""

    tag: str
    words: str
    side: str
    set_by: str


def read_restrictions(text: str, tags: Sequence[str]) -> tuple[SaidRestriction, ...]:
    """Return the restrictions of a cell.

    Raises `CoachError` where one names nothing that can be taken out, or nobody who set it.
    """
    return tuple(_read(part.strip(), tags) for part in text.split(";") if part.strip())


def _read(text: str, tags: Sequence[str]) -> SaidRestriction:
    by = _BY.search(text)
    if by is None:
        raise CoachError(f"“{text}” does not say who set it.", where="restriction", accepted=ACCEPTED)
    words = text[: by.start()].strip(" ,")
    plain = f" {re.sub(r'[^a-z]', ' ', words.lower())} "
    named = [t for t in tags if f" {t.replace('_', ' ')} " in plain]
    if not named:
        known = ", ".join(t.replace("_", " ") for t in tags)
        raise CoachError(f"“{words}” is nothing that can be taken out.", where="restriction", accepted=f"One of: {known}.")
    side = _SIDE.search(words)
    return SaidRestriction(max(named, key=len), words, side[1].lower() if side else "", by["who"].strip())
