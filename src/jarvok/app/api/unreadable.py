"""What to say of a field that could not be read at all: which one, and what would be accepted."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jarvok.core.quantities.sentence import first_upper

WRAPPERS = ("body", "payload", "query", "path")
# what a name ends with, and how a person says it
UNITS = {
    "kg": "kg", "mps": "m/s", "s": "s", "cm": "cm", "m": "m", "pct": "%", "hz": "Hz", "hours": "hours",
    "min": "minutes", "id": "",
}  # fmt: skip
# what kind of thing was wanted, by how its error begins: that it is none, and what would be accepted
KINDS = (
    ("missing", "is missing", "It is needed."),
    ("int", "is no whole number", "A whole number, such as 3."),
    ("float", "is no number", "A number, such as 2.5."),
    ("finite_number", "is no number", "A number, such as 2.5."),
    ("decimal", "is no number", "A number, such as 2.5."),
    ("date", "is no day", "A day, such as 2026-05-04."),
    ("time", "is no time of day", "A time, such as 17:30."),
    ("bool", "is neither yes nor no", "Yes or no."),
    ("list", "is no list", "A list."),
    ("dict", "cannot be read", "Names with a value each."),
    ("string_type", "is no text", "Text."),
)
BOUNDS = {"ge": "from", "gt": "above", "le": "up to", "lt": "below"}


def words_for(error: Mapping[str, Any]) -> tuple[str, str, str]:
    """Return what was wrong, where it was and what would be accepted, from one error of the reader."""
    where = ".".join(str(p) for p in error.get("loc", ()) if p not in WRAPPERS)
    kind, ctx = str(error.get("type", "")), error.get("ctx") or {}
    name = _name(where)
    if kind in ("literal_error", "enum"):
        return f"{name} cannot be that.", where, f"{str(ctx.get('expected', '')).replace(chr(39), '')}."
    bound = next((k for k in BOUNDS if k in ctx), None)
    if bound is not None:
        return f"{name} is out of range.", where, f"{BOUNDS[bound].capitalize()} {ctx[bound]}."
    if "max_length" in ctx:
        return f"{name} is too long.", where, f"Up to {ctx['max_length']}."
    if "min_length" in ctx:
        return f"{name} is too short.", where, f"At least {ctx['min_length']}."
    said, accepted = next(((s, a) for k, s, a in KINDS if kind.startswith(k)), ("cannot be read", ""))
    return f"{name} {said}.", where, accepted


def _name(where: str) -> str:
    """The field in words: `measures.velocity_mps` is the velocity in m/s."""
    named = [p for p in where.split(".") if p and not p.isdigit()]
    if not named:
        return "What was sent"
    *words, last = named[-1].split("_")
    unit = UNITS.get(last) if words else None
    said = " ".join(words if unit is not None else [*words, last])
    return f"{first_upper(said)}{f' in {unit}' if unit else ''}"
