"""A text that names masses in kilograms, said in pounds: workings are made in kilograms and read in the room's unit.

>>> said_in_pounds("75 % of 67.1 kg")
'75 % of 147.9 lb'
>>> said_in_pounds("67.1 kg ± 3.7")
'147.9 lb ± 8.2'
>>> said_in_pounds("50.3 to 49.9 kg, the nearest that can be built")
'110.9 to 110 lb, the nearest that can be built'
"""

from __future__ import annotations

import re

from jarvok.core.quantities.mass import format_mass

_NUMBER = r"(?<![\d.])(\d+(?:\.\d+)?)"
_SPREAD = re.compile(rf"{_NUMBER} kg ± (\d+(?:\.\d+)?)")
_RANGE = re.compile(rf"{_NUMBER}( to | and |–|/)(\d+(?:\.\d+)?) kg\b")
_ONE = re.compile(rf"{_NUMBER} kg\b")


def said_in_pounds(text: str) -> str:
    """Return a text with every mass that is followed by its unit in pounds, to a tenth; other numbers stay."""
    text = _SPREAD.sub(lambda m: f"{_lb(m[1])} lb ± {_lb(m[2])}", text)
    text = _RANGE.sub(lambda m: f"{_lb(m[1])}{m[2]}{_lb(m[3])} lb", text)
    return _ONE.sub(lambda m: f"{_lb(m[1])} lb", text)


def _lb(number: str) -> str:
    return format_mass(float(number), "lb")
