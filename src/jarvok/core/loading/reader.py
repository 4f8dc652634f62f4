"""Reading one line of shorthand, character by character: what was taken, where it stumbled."""

from __future__ import annotations

import re

from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import kg_from_lb

NUMBER = r"(\d+(?:[.,]\d+)?)"
MASS_UNIT = r"(kg|kilos?|lbs?|pounds?)\b"
EXAMPLES = "4×3 @ 82 %, 3×8 2 in reserve, 3×5 @ RPE 8, 5×2 @ 0.75–0.85 m/s, APRE-6, 3×6/side @ 20 kg, 2×30 m, 3×45 s"


class ShorthandError(CoachError):
    """A line that cannot be read: `position` is the character it stumbled over, `suggestion` the nearest valid line."""

    def __init__(self, message: str, position: int, suggestion: str = "") -> None:
        self.position = position
        self.suggestion = suggestion
        accepted = f"Perhaps: {suggestion}" if suggestion else f"For example: {EXAMPLES}"
        super().__init__(message, where=str(position), accepted=accepted)


class Reader:
    """A line and how far it has been read."""

    def __init__(self, line: str) -> None:
        self.line = line
        self.at = 0

    def skip(self, also: str = "") -> None:
        """Pass over white space and the characters of `also`."""
        while self.at < len(self.line) and (self.line[self.at].isspace() or self.line[self.at] in also):
            self.at += 1

    def take(self, pattern: str) -> re.Match[str] | None:
        """Take what matches here, if anything does."""
        self.skip()
        match = re.compile(pattern, re.IGNORECASE).match(self.line, self.at)
        if match:
            self.at = match.end()
        return match

    @property
    def done(self) -> bool:
        """Whether nothing worth reading is left."""
        return not self.line[self.at :].strip(" ,;.\t")

    def fail(self, message: str, suggestion: str = "", at: int | None = None) -> ShorthandError:
        """Return the error for this place."""
        self.skip()
        return ShorthandError(message, self.at if at is None else at, suggestion)


def number(text: str) -> float:
    """Return a decimal written with a point or a comma."""
    return float(text.replace(",", "."))


def is_pounds(unit: str) -> bool:
    """Whether a unit of mass as typed means pounds."""
    return unit.lower().startswith(("lb", "pound"))


def mass_kg(text: str, unit: str) -> float:
    """Return a mass in kg, typed with its unit."""
    return kg_from_lb(number(text)) if is_pounds(unit) else number(text)


LEAST_PCT, MOST_PCT = 10, 130  # [T]


def share_pct(reader: Reader, value: float, at: int) -> float:
    """Return a share of a max in per cent, refused outside what anybody programs."""
    if not LEAST_PCT <= value <= MOST_PCT:
        raise reader.fail(f"{value:g} % is outside {LEAST_PCT} to {MOST_PCT} % of a max.", at=at)
    return value


def seconds(match: re.Match[str], first: int = 1) -> int:
    """Return seconds from groups `minutes:seconds` at `first` or `amount unit` two groups later."""
    if match.group(first) is not None:
        return 60 * int(match.group(first)) + int(match.group(first + 1))
    unit = (match.group(first + 3) or "s").lower()
    return int(match.group(first + 2)) * (60 if unit.startswith("m") else 1)


TIME = r"(?:(\d+):([0-5]\d)|(\d+)\s*(min(?:utes?)?|s(?:ec(?:onds)?)?)?\b)"
