"""A planned session and its lines, before any load is resolved."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from jarvok.core.loading.prescription import Prescription
from jarvok.core.session.blocks import STRAIGHT, BlockStyle
from jarvok.core.session.roles import BlockRole


@dataclass(frozen=True)
class PlannedLine:
    """One line of a session: its slot (`A1`), block, exercise, prescription and the reason it is there.

    `note` is the coach's word beside it: surface, footwear, the implement of each round; `line_id` is what it is known by
    wherever it stands.
    """

    slot: str
    block: str
    exercise_id: str
    prescription: Prescription
    reason: str
    is_main: bool
    replaced: str = ""
    style: BlockStyle = STRAIGHT
    note: str = ""
    role: BlockRole = BlockRole.SMALL
    line_id: str = ""


@dataclass(frozen=True)
class PlannedSession:
    """One planned session on a day: its key (`A`), theme, lines, and why it lies on that day.

    `load` is how hard the day is meant: high, middle or low. `is_own` says that the coach has written it; `left_out` names
    what the arrangement holds and this athlete cannot do here.
    """

    key: str
    day: date
    theme: str
    day_reason: str
    lines: tuple[PlannedLine, ...]
    load: str = "middle"
    is_own: bool = False
    left_out: tuple[str, ...] = ()
