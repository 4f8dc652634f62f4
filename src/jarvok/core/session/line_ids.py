"""What a line is known by, whatever slot it stands in: what it is there for, and what it is of.

`main-squat` is the session's main squat line, `small-row-2` its second small row. What hangs on a line (an edit, a kept flag)
hangs on this and holds when lines are moved, added or planned in another order; a slot such as A1 is only where it stands today.
"""

from __future__ import annotations

from collections.abc import Iterable

from jarvok.core.session.roles import BlockRole

LONGEST_LINE_ID = 60  # [T]


def line_id(role: BlockRole, what: str, taken: Iterable[str]) -> str:
    """Return the id of a line of `role` that is of `what` (a pattern, or a role of the library), unlike any that is taken."""
    base = f"{role}-{what.replace('_', '-')}"[: LONGEST_LINE_ID - len("-99")]
    held = frozenset(taken)
    if base not in held:
        return base
    return next(name for n in range(2, len(held) + 3) if (name := f"{base}-{n}") not in held)
