"""A planned session and its lines, before any load is resolved."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from datetime import date
from functools import lru_cache
from typing import Any

from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.marks.conditions import from_raw
from jarvok.core.marks.mark import Conditions
from jarvok.core.session.blocks import STRAIGHT, BlockStyle, Grouping
from jarvok.core.session.forms import AS_IT_IS, Forms
from jarvok.core.session.roles import BlockRole

# the lines kept of past days are few different ones, read again at every look at a season
_read = lru_cache(maxsize=4096)(parse)


@dataclass(frozen=True)
class PlannedLine:
    """One line of a session: its slot (`A1`), block, exercise, prescription and the reason it is there.

    `note` is the coach's word beside it: surface, footwear, the implement of each round; `line_id` is what it is known by
    wherever it stands; `wish` names what is known of the athlete that it is there for; `conditions` are grip, rack, equipment;
    `forms` what single rounds are done with, and an easier and a harder form.
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
    wish: str = ""
    conditions: Conditions = ()
    forms: Forms = AS_IT_IS

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> PlannedLine:
        """Return a line as it was kept."""
        style = {**raw["style"], "grouping": Grouping(raw["style"]["grouping"])}
        return cls(
            raw["slot"],
            raw["block"],
            raw["exercise"],
            _read(raw["text"]),
            raw["reason"],
            raw["main"],
            raw["replaced"],
            BlockStyle(**style),
            raw["note"],
            BlockRole(raw["role"]),
            raw["id"],
            raw.get("wish", ""),
            from_raw(raw.get("conditions")),
            Forms.from_raw(raw),
        )

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON; the prescription in its one written form."""
        return {
            "id": self.line_id,
            "slot": self.slot,
            "block": self.block,
            "exercise": self.exercise_id,
            "text": write(self.prescription),
            "reason": self.reason,
            "main": self.is_main,
            "replaced": self.replaced,
            "style": {**asdict(self.style), "grouping": self.style.grouping.value},
            "note": self.note,
            "role": self.role.value,
            **({"wish": self.wish} if self.wish else {}),
            **({"conditions": dict(self.conditions)} if self.conditions else {}),
            **self.forms.to_raw(),
        }


@dataclass(frozen=True)
class PlannedSession:
    """One planned session on a day: its key (`A`), theme, lines, and why it lies on that day.

    `load` is how hard the day is meant: high, middle or low. `is_own` says that the coach has written it; `left_out` names
    what the arrangement holds and this athlete cannot do here; `starts` is when it begins, such as 06:30, or nothing.
    """

    key: str
    day: date
    theme: str
    day_reason: str
    lines: tuple[PlannedLine, ...]
    load: str = "middle"
    is_own: bool = False
    left_out: tuple[str, ...] = ()
    starts: str = ""

    @property
    def begins_h(self) -> float | None:
        """The hour of the day it begins at, None where nobody said."""
        hours, _, minutes = self.starts.partition(":")
        return int(hours) + int(minutes) / 60 if self.starts else None

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> PlannedSession:
        """Return a session as it was kept."""
        return cls(
            raw["key"],
            date.fromisoformat(raw["day"]),
            raw["theme"],
            raw["day_reason"],
            tuple(PlannedLine.from_raw(line) for line in raw["lines"]),
            raw["load"],
            raw["is_own"],
            tuple(raw["left_out"]),
            raw.get("starts", ""),
        )

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        return {
            "key": self.key,
            "day": self.day.isoformat(),
            "theme": self.theme,
            "day_reason": self.day_reason,
            "lines": [line.to_raw() for line in self.lines],
            "load": self.load,
            "is_own": self.is_own,
            "left_out": list(self.left_out),
            **({"starts": self.starts} if self.starts else {}),
        }
