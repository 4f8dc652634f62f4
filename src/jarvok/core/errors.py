"""Errors of the core: each carries a sentence a coach can act on."""

from __future__ import annotations


class CoachError(ValueError):
    """Something the coach gave cannot be used. `message` says what was wrong, `accepted` what would be accepted."""

    def __init__(self, message: str, *, where: str = "", accepted: str = "") -> None:
        self.message = message
        self.where = where
        self.accepted = accepted
        super().__init__(f"{message} {accepted}".strip())


def outside(name: str, value: float, low: float, high: float, where: str = "") -> CoachError:
    """The error for a figure beyond its limits: "Body mass in kg: 700 is too much. 20 to 250 are accepted."."""
    words = name.removesuffix("_kg").replace("_", " ") + (" in kg" if name.endswith("_kg") else "")
    said = "too much" if value > high else "too little"
    return CoachError(
        f"{words[:1].upper()}{words[1:]}: {value:g} is {said}.", where=where, accepted=f"{low:g} to {high:g} are accepted."
    )
