"""How a sentence begins, and how a number of things is said in it."""

from __future__ import annotations


def first_upper(text: str) -> str:
    """Begin a sentence, and leave the rest as it is written.

    >>> first_upper("velocity of the day")
    'Velocity of the day'
    """
    return text[:1].upper() + text[1:]


def counted(count: float, one: str, many: str = "") -> str:
    """Return a number of things in words; `many` where the plural is not the singular with an s.

    >>> counted(1, "set"), counted(3, "set"), counted(0, "day"), counted(2, "repetition")
    ('1 set', '3 sets', '0 days', '2 repetitions')
    """
    return f"{count:g} {one}" if count == 1 else f"{count:g} {many or one + 's'}"
