"""What a session of a week is called."""

from __future__ import annotations


def day_name(key: str) -> str:
    """Return "Day 1" for the key A and so on; a key that is no single letter stands as it is."""
    return f"Day {ord(key) - 64}" if len(key) == 1 and "A" <= key <= "Z" else key
