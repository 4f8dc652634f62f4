"""What a check says, and what one is."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Generic, TypeVar

from jarvok.core.working import Source

View = TypeVar("View")


class Severity(StrEnum):
    """How serious a flag is: somebody may be hurt, a plan may not work, or worth knowing."""

    CAUTION = "caution"
    THINK = "think again"
    NOTE = "note"


@dataclass(frozen=True)
class Fix:
    """A change that settles a flag in one step: its words, what is changed, and the values."""

    words: str
    kind: str
    values: dict[str, str | float | bool | None] = field(default_factory=dict)


@dataclass(frozen=True)
class Flag:
    """One remark: title and reason in words, where it stands (`where` names the week, phase or line), and its fix."""

    check_id: str
    severity: Severity
    title: str
    reason: str
    source: Source
    where: str = ""
    week: int | None = None
    fix: Fix | None = None


Word = TypeVar("Word")


def answered(flags: Iterable[Flag], words: Mapping[tuple[str, str], Word]) -> list[tuple[Flag, Word | None]]:
    """Return each flag with the coach's word on it, if there is one; an answered flag stays where it is.

    `words` are kept by (check id, where).
    """
    return [(flag, words.get((flag.check_id, flag.where))) for flag in flags]


@dataclass(frozen=True)
class Check(Generic[View]):
    """One check of a plan: its id, what it is about, its source, and the function that looks."""

    id: str
    about: str
    source: Source
    look: Callable[[View], Iterable[Flag]]
