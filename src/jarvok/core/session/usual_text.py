"""What a line says when an exercise is added and nothing was typed."""

from __future__ import annotations

from jarvok.core.exercises import Exercise

# [C] a usual first line for each kind of exercise, as many coaches would write it
USUAL_TEXT = {
    "jump": "3 × 4",
    "throw": "3 × 4",
    "run": "4 × 20 m",
    "carry": "2 × 30 m",
    "hold": "2 × 30 s",
    "drill": "2 × 8",
    "conditioning": "1 × 5 min",
}


def usual_text(lift: Exercise) -> str:
    """Return the shorthand of a usual line; a loaded lift leaves two in reserve."""
    sides = "/side" if lift.per_side else ""
    if lift.kind in USUAL_TEXT:
        return USUAL_TEXT[lift.kind] + (sides if lift.kind != "conditioning" else "")
    return f"3 × 8{sides}, 2 in reserve" if lift.is_loaded else f"3 × 8{sides}"
