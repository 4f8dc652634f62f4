"""Where timing gates stand on the floor: what turns a split into a time over a distance."""

from __future__ import annotations

import re
from collections.abc import Sequence

from jarvok.core.errors import CoachError

MOST_GATES = 12  # [T]
NEAREST_M, FARTHEST_M = 0.5, 400.0  # [T] a hall, or the bend of a track
ACCEPTED = f"Metres from the start, each further than the one before, as in 5 10 20 30. Up to {MOST_GATES} gates."


def read_places_m(text: str) -> tuple[float, ...]:
    """Return the distances in m of the gates behind the start, typed as `5 10 20 30`; none of nothing.

    Raises `CoachError` for what cannot be read and for gates that do not stand one behind the other.
    """
    without_unit = re.sub(r"(?<=\d)\s*m\b", "", text)
    words = [w for w in re.split(r"[;\s]+|,(?:\s+|$)", without_unit) if w]
    if len(words) == 1 and words[0].count(",") > 1:
        words = words[0].split(",")
    elif len(words) == 1 and "," in words[0]:
        raise CoachError(f"“{words[0]}” may be one gate or two.", where="gates", accepted=ACCEPTED)
    found: list[float] = []
    for word in words:  # a comma that is left is a decimal point
        try:
            found.append(float(word.replace(",", ".")))
        except ValueError:
            raise CoachError(f"“{word}” is no distance.", where="gates", accepted=ACCEPTED) from None
    return check_places_m(found)


def check_places_m(places_m: Sequence[float]) -> tuple[float, ...]:
    """Return distances in m that gates can stand at; raises `CoachError` for others."""
    if len(places_m) > MOST_GATES:
        raise CoachError(f"{len(places_m)} gates are more than one run passes.", where="gates", accepted=ACCEPTED)
    before = 0.0
    for place in places_m:
        if not NEAREST_M <= place <= FARTHEST_M or place <= before:
            raise CoachError(f"A gate cannot stand at {place:g} m there.", where="gates", accepted=ACCEPTED)
        before = place
    return tuple(places_m)


def place_m(places_m: Sequence[float], gate: int) -> float | None:
    """Return the distance in m of a gate by its number, 1 for the first behind the start; None where nobody said."""
    return places_m[gate - 1] if 1 <= gate <= len(places_m) else None
