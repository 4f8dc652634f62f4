"""Bests as they happen: a set that went beyond everything of its kind on earlier days. Common practice."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from enum import StrEnum

from jarvok.core.marks.past import PastSession
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import said_mass
from jarvok.core.quantities.plates import SAME_LOAD_KG
from jarvok.core.velocity.ladder import BORDERLINE_MPS


class BestKind(StrEnum):
    """What a best is of."""

    LOAD = "load"
    SPEED = "speed"
    JUMP = "jump"
    REACTIVE = "reactive"
    RUN = "run"
    HOLD = "hold"
    HEIGHT = "height"
    DISTANCE = "distance"
    SCHEME = "scheme"


NAMES = {
    BestKind.JUMP: ("highest jump", "cm", 1),
    BestKind.REACTIVE: ("highest reactive strength", "", 2),
    BestKind.HOLD: ("longest hold", "s", 0),
    BestKind.HEIGHT: ("highest", "cm", 1),
    BestKind.DISTANCE: ("farthest", "m", 2),
}


@dataclass(frozen=True, kw_only=True)
class DoneSet:
    """A work set of one exercise with what was reached in it: load in kg, velocity in m/s with where it came from, best
    jump in cm, its reactive strength, a run in s over metres, a hold in s, a height in cm, a distance in m. None: none."""

    day: date
    ref: str
    reps: int = 0
    load_kg: float | None = None
    velocity_mps: float | None = None
    measured_by: str = ""
    jump_cm: float | None = None
    reactive: float | None = None
    run_s: float | None = None
    run_m: float | None = None
    hold_s: float | None = None
    height_cm: float | None = None
    distance_m: float | None = None


@dataclass(frozen=True)
class Best:
    """A value beyond all of earlier days, with the best of those; `at` is the load in kg, the distance in m or the
    repetitions it was reached with, `sets` of a scheme."""

    kind: BestKind
    value: float
    before: float
    before_day: date
    day: date
    ref: str
    at: float = 0.0
    sets: int = 1

    def words(self, unit: str = "kg") -> str:
        """It as a coach says it, loads in the unit of the plates: `heaviest 3: 105 kg, before 102.5 kg on 4 Nov`."""
        if self.kind in (BestKind.LOAD, BestKind.SCHEME):
            what = f"{self.sets} × {self.at:g}" if self.kind is BestKind.SCHEME else f"{self.at:g}" if self.at > 1 else "single"
            said, before = said_mass(self.value, unit), said_mass(self.before, unit)
            return f"heaviest {what}: {said}, before {before} on {said_day(self.before_day)}"
        if self.kind is BestKind.SPEED:
            name, ending, places = f"fastest at {said_mass(self.at, unit)}", "m/s", 2
        elif self.kind is BestKind.RUN:
            name, ending, places = f"fastest {self.at:g} m" if self.at else "fastest", "s", 2
        else:
            name, ending, places = NAMES[self.kind]
            name += f" with {said_mass(self.at, unit)}" if self.at else ""
        said = f"{self.value:.{places}f} {ending}".strip()
        return f"{name}: {said}, before {self.before:.{places}f} on {said_day(self.before_day)}"


@dataclass
class _Record:
    """The best of earlier days and of the newest day, one of which may be missing."""

    less_is_better: bool = False
    earlier: tuple[float, date] | None = None
    newest: tuple[float, date] | None = None

    def is_beyond(self, value: float, other: float) -> bool:
        return value < other if self.less_is_better else value > other

    def see(self, value: float, day: date) -> tuple[float, date] | None:
        """Take a value in; return what it is beyond, the best of earlier days, or None."""
        if self.newest is not None and self.newest[1] < day:
            if self.earlier is None or self.is_beyond(self.newest[0], self.earlier[0]):
                self.earlier = self.newest
            self.newest = None
        known = [x for x in (self.earlier, self.newest) if x is not None]
        is_best = self.earlier is not None and all(self.is_beyond(value, x[0]) for x in known)
        if self.newest is None or self.is_beyond(value, self.newest[0]):
            self.newest = (value, day)
        return self.earlier if is_best else None


@dataclass
class Sweep:
    """The sets of one exercise taken in by day; each answers with what it is the best of."""

    _loads: dict[int, _Record] = field(default_factory=dict)
    _speeds: dict[tuple[str, float], _Record] = field(default_factory=dict)
    _others: dict[tuple[BestKind, float], _Record] = field(default_factory=dict)

    def copy(self) -> Sweep:
        """Return one that goes on from here by itself."""
        return Sweep(
            {key: replace(record) for key, record in self._loads.items()},
            {key: replace(record) for key, record in self._speeds.items()},
            {key: replace(record) for key, record in self._others.items()},
        )

    def see(self, item: DoneSet) -> list[Best]:
        """Return the bests of a set beside everything that was taken in before it."""
        found: list[Best] = []
        if item.load_kg and item.reps:
            found += self._load(item, item.load_kg)
        if item.load_kg and item.velocity_mps:
            found += self._speed(item, item.load_kg, item.velocity_mps)
        for kind, value, at in (
            (BestKind.JUMP, item.jump_cm, item.load_kg or 0.0),
            (BestKind.REACTIVE, item.reactive, item.load_kg or 0.0),
            (BestKind.RUN, item.run_s, item.run_m or 0.0),
            (BestKind.HOLD, item.hold_s, item.load_kg or 0.0),
            (BestKind.HEIGHT, item.height_cm, 0.0),
            (BestKind.DISTANCE, item.distance_m, item.load_kg or 0.0),
        ):
            if value is None:
                continue
            record = self._others.setdefault((kind, at), _Record(less_is_better=kind is BestKind.RUN))
            before = record.see(value, item.day)
            if before is not None:
                found.append(Best(kind, value, *before, item.day, item.ref, at))
        return found

    def _load(self, item: DoneSet, load_kg: float) -> list[Best]:
        """A load counts for its repetitions and for fewer; it is a best at its own."""
        own = self._loads.get(item.reps)
        if own is None:  # what was done with more repetitions was done with these as well
            more = [self._loads[n] for n in sorted(self._loads) if n > item.reps]
            own = _Record(earlier=more[0].earlier, newest=more[0].newest) if more else _Record()
            self._loads[item.reps] = own
        before = own.see(load_kg, item.day)
        for reps, record in self._loads.items():
            if reps < item.reps:
                record.see(load_kg, item.day)
        return [Best(BestKind.LOAD, load_kg, *before, item.day, item.ref, item.reps)] if before is not None else []

    def _speed(self, item: DoneSet, load_kg: float, velocity_mps: float) -> list[Best]:
        """A velocity is compared with those at its load and at heavier ones, by the same kind of device."""
        seen = {k: r for k, r in self._speeds.items() if k[0] == item.measured_by}
        rivals = [x for (_, load), r in seen.items() if load >= load_kg - SAME_LOAD_KG for x in (r.earlier, r.newest) if x]
        own = next((r for (_, load), r in seen.items() if abs(load - load_kg) <= SAME_LOAD_KG), None)
        if own is None:
            own = self._speeds.setdefault((item.measured_by, load_kg), _Record())
        own.see(velocity_mps, item.day)
        before = [x for x in rivals if x[1] < item.day]
        if not before or any(round(velocity_mps - v, 4) <= (BORDERLINE_MPS if d < item.day else 0.0) for v, d in rivals):
            return []
        return [Best(BestKind.SPEED, velocity_mps, *max(before), item.day, item.ref, load_kg)]


def swept(sets: Iterable[DoneSet]) -> Sweep:
    """Return what the sets of one exercise, in the order they were done, leave to be beaten."""
    sweep = Sweep()
    for item in sets:
        sweep.see(item)
    return sweep


def bests_of(ref: str, sets: Iterable[DoneSet], before: Sweep) -> list[Best]:
    """Return what the last set of a day is the best of, `ref` naming it: beside all that was swept, which stays as it is, and
    the sets of that day in the order they were done."""
    sweep = before.copy()
    found = [best for item in sets for best in sweep.see(item) if best.ref == ref]
    return list({(b.kind, b.at): b for b in found}.values())


def new_bests(sets: Iterable[DoneSet], first: date) -> list[Best]:
    """Return the bests from a day on, oldest first, of the sets of one exercise in the order they were done.

    A result is a best where an earlier day holds one of its kind and it is beyond all of them; a velocity by more than the
    spread of one repetition. Of a day only the last of a kind stands: what was beaten an hour later is none.
    """
    sweep = Sweep()
    found: dict[tuple[BestKind, float, date], Best] = {}
    for item in sets:
        for best in sweep.see(item):
            if best.day >= first:
                found[best.kind, best.at, best.day] = best
    return list(found.values())


def scheme_best(history: Sequence[PastSession], now: PastSession) -> Best | None:
    """Return that all sets of a session, two or more of equal repetitions, were heavier than in any session before with as
    many sets and repetitions; None where they were not, or there is none to compare with.
    """
    if (
        now.hung
        or len(now.sets) < 2
        or len({s.reps for s in now.sets}) > 1
        or any(not s.load_kg or s.form_broke for s in now.sets)
    ):
        return None
    sets, reps = len(now.sets), now.sets[0].reps
    load = min(s.load_kg or 0.0 for s in now.sets)
    rivals: list[tuple[float, date]] = []
    for session in history:
        good = sorted((s.load_kg for s in session.sets if s.load_kg and s.reps >= reps and not s.form_broke), reverse=True)
        if len(good) >= sets and session.day < now.day and not session.hung:
            rivals.append((good[sets - 1], session.day))
    if not rivals or load <= max(rivals)[0]:
        return None
    return Best(BestKind.SCHEME, load, *max(rivals), now.day, now.ref, reps, sets)
