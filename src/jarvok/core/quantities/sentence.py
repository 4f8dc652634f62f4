"""How a sentence begins."""

from __future__ import annotations


def first_upper(text: str) -> str:
    """Begin a sentence, and leave the rest as it is written.

    >>> first_upper("velocity of the day")
    'Velocity of the day'
    """
    return text[:1].upper() + text[1:]
