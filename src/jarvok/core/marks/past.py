"""Past sessions of an exercise, as everything that looks back reads them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from functools import cached_property

from jarvok.core.quantities.days import said_day


@dataclass(frozen=True)
class PastSet:
    """One work set as it was done: load in kg, repetitions, reps in reserve if said, what was planned."""

    load_kg: float | None
    reps: int
    rir: float | None = None
    planned_reps: int | None = None
    seconds: int | None = None
    form_broke: bool = False


@dataclass(frozen=True)
class PastSession:
    """The work sets of one line of one past session, in order. `ref` names the stored line, such as `line:40`; `hung` what hung
    on the bar: its loads are then no loads of the free lift.
    """

    day: date
    text: str
    sets: tuple[PastSet, ...]
    ref: str = ""
    hung: str = ""

    @cached_property
    def top_kg(self) -> float | None:
        """Heaviest load of the session in kg, or None when nothing was loaded."""
        return max((s.load_kg for s in self.sets if s.load_kg), default=None)

    @cached_property
    def words(self) -> str:
        """The session in a few words: when, and the sets."""
        done = ", ".join(f"{s.load_kg:g} × {s.reps}" if s.load_kg else str(s.reps) for s in self.sets)
        return f"{said_day(self.day)}: {done}"
