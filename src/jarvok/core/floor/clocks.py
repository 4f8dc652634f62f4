"""The clocks of the floor as plain parts: what is called for how many seconds. The page only shows where in them it is.

A clock is its parts and the moment it was started; whoever knows both agrees on what it shows, however often the page
was closed in between.

Usual figures of the forms are Jarvok's own [J], limits technical [T].
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import NamedTuple

from jarvok.core.errors import CoachError
from jarvok.core.quantities.sentence import counted

LEAD_S = 10  # [J] get ready
CHANGE_S = 20  # [J] until you miss: change the weights first, then rest
MOST_S, MOST_ROUNDS = 4 * 3600, 200


class ClockKind(StrEnum):
    """The timed forms."""

    EVERY = "every"
    UNTIL_MISS = "until_miss"
    AMRAP = "amrap"
    INTERVALS = "intervals"
    METRONOME = "metronome"
    TEMPO = "tempo"
    HOLD = "hold"
    REST = "rest"
    STATIONS = "stations"


class Figure(NamedTuple):
    """One figure of a clock: its name, its unit, what it is when nothing is said, and its limits."""

    name: str
    unit: str
    default: float
    least: float
    most: float


@dataclass(frozen=True)
class ClockForm:
    """What a clock is called, what it does, and the figures it takes."""

    name: str
    words: str
    figures: tuple[Figure, ...]


_ROUNDS = Figure("rounds", "rounds", 10, 1, MOST_ROUNDS)
FORMS: dict[ClockKind, ClockForm] = {
    ClockKind.EVERY: ClockForm("EMOM, every x", "a set starts each time", (Figure("every_s", "s", 90, 10, 900), _ROUNDS)),
    ClockKind.UNTIL_MISS: ClockForm(
        "Until you miss",
        "lift, change the weights first, then rest",
        (Figure("every_s", "s", 90, 30, 900), Figure("rounds", "rounds", 12, 1, 60)),
    ),
    ClockKind.AMRAP: ClockForm("As many rounds as you can", "one stretch of time", (Figure("seconds", "s", 600, 30, 3600),)),
    ClockKind.INTERVALS: ClockForm(
        "Intervals",
        "work and rest in turn",
        (Figure("work_s", "s", 30, 3, 900), Figure("rest_s", "s", 30, 0, 900), _ROUNDS),
    ),
    ClockKind.METRONOME: ClockForm(
        "Metronome",
        "a beat, one repetition each so many",
        (
            Figure("bpm", "beats a minute", 50, 20, 240),
            Figure("beats", "beats a rep", 2, 1, 8),
            Figure("seconds", "s", 60, 10, 1800),
        ),
    ),
    ClockKind.TEMPO: ClockForm(
        "Tempo",
        "down, hold, up, hold",
        (
            Figure("down_s", "s", 3, 0, 20),
            Figure("bottom_s", "s", 1, 0, 20),
            Figure("up_s", "s", 1, 0, 20),
            Figure("top_s", "s", 0, 0, 20),
            Figure("reps", "reps", 6, 1, 50),
        ),
    ),
    ClockKind.HOLD: ClockForm(
        "Holds",
        "hold and rest",
        (Figure("hold_s", "s", 30, 3, 600), Figure("rest_s", "s", 30, 0, 900), Figure("rounds", "rounds", 3, 1, 50)),
    ),
    ClockKind.REST: ClockForm("Rest", "counts down to the next set", (Figure("seconds", "s", 180, 5, 1800),)),
    ClockKind.STATIONS: ClockForm(
        "Change stations",
        "time at each station, then change",
        (
            Figure("station_s", "s", 300, 20, 1800),
            Figure("change_s", "s", 30, 0, 300),
            Figure("stations", "stations", 4, 2, 12),
            Figure("rounds", "rounds", 1, 1, 10),
        ),
    ),
}


@dataclass(frozen=True)
class Part:
    """One stretch of a clock: what is called, seconds, whether it is work, and which round it belongs to (0: none)."""

    call: str
    seconds: float
    is_work: bool
    round: int = 0


@dataclass(frozen=True)
class ClockPlan:
    """A clock: its parts in order, rounds in all, seconds between beats of a metronome (0: none), beats a repetition."""

    kind: ClockKind
    words: str
    parts: tuple[Part, ...]
    rounds: int
    beat_s: float = 0.0
    beats: int = 0

    @property
    def seconds(self) -> float:
        """Seconds from the start to the end."""
        return sum(p.seconds for p in self.parts)

    def at(self, elapsed_s: float) -> tuple[Part | None, float]:
        """Return the part running `elapsed_s` after the start and its seconds left; None before the start or after the end."""
        if elapsed_s < 0:
            return None, 0.0
        for part in self.parts:
            if elapsed_s < part.seconds:
                return part, part.seconds - elapsed_s
            elapsed_s -= part.seconds
        return None, 0.0


def figures_of(kind: ClockKind, given: Mapping[str, float]) -> dict[str, float]:
    """Return the figures of a clock with defaults filled in. Raises `CoachError` for one that cannot be."""
    found: dict[str, float] = {}
    for name, unit, default, least, most in FORMS[kind].figures:
        value = given.get(name, default)
        if not least <= value <= most:
            accepted = f"{least:g} to {most:g} {unit} are accepted."
            raise CoachError(f"{value:g} cannot be here.", where=name, accepted=accepted)
        found[name] = float(value)
    unknown = set(given) - set(found)
    if unknown:
        raise CoachError(f"{FORMS[kind].name} takes no {', '.join(sorted(unknown))}.", where="figures", accepted=", ".join(found))
    return found


def clock_plan(kind: ClockKind, given: Mapping[str, float], lead_s: float = LEAD_S) -> ClockPlan:
    """Return the parts of a clock. Raises `CoachError` for figures that cannot be or more than four hours."""
    f = figures_of(kind, given)
    parts, rounds, words = _PLANS[kind](f)
    lead = (Part("Get ready", lead_s, False),) if lead_s > 0 and kind is not ClockKind.REST else ()
    plan = ClockPlan(
        kind,
        words,
        (*lead, *(p for p in parts if p.seconds > 0)),
        rounds,
        60 / f["bpm"] if kind is ClockKind.METRONOME else 0.0,
        int(f.get("beats", 0)),
    )
    if plan.seconds > MOST_S:
        raise CoachError(f"{plan.seconds / 60:.0f} minutes are too long.", where="rounds", accepted="Up to four hours.")
    return plan


_Made = tuple[list[Part], int, str]
_Maker = Callable[[Mapping[str, float]], _Made]


def _every(f: Mapping[str, float]) -> _Made:
    n = int(f["rounds"])
    return [Part("Set", f["every_s"], True, i) for i in range(1, n + 1)], n, f"every {f['every_s']:g} s, {counted(n, 'set')}"


def _until_miss(f: Mapping[str, float]) -> _Made:
    n, change = int(f["rounds"]), min(CHANGE_S, f["every_s"] / 3)
    work = min(30.0, f["every_s"] / 3)
    parts: list[Part] = []
    for i in range(1, n + 1):
        parts += [Part("Lift", work, True, i), Part("Change the weights", change, False, i)]
        parts.append(Part("Rest", f["every_s"] - work - change, False, i))
    return parts, n, f"every {f['every_s']:g} s until a miss; weights first, then rest"


def _one(call: str, is_work: bool) -> _Maker:
    def made(f: Mapping[str, float]) -> _Made:
        return [Part(call, f["seconds"], is_work, 1)], 1, f"{f['seconds'] / 60:g} min"

    return made


def _intervals(f: Mapping[str, float]) -> _Made:
    n = int(f["rounds"])
    parts: list[Part] = []
    for i in range(1, n + 1):
        parts.append(Part("Work", f["work_s"], True, i))
        if i < n:
            parts.append(Part("Rest", f["rest_s"], False, i))
    return parts, n, f"{n} × {f['work_s']:g} s on, {f['rest_s']:g} s off"


def _metronome(f: Mapping[str, float]) -> _Made:
    a_minute = f["bpm"] / f["beats"]
    return [Part("To the beat", f["seconds"], True, 1)], 1, f"{f['bpm']:g} beats a minute, {a_minute:g} reps a minute"


def _tempo(f: Mapping[str, float]) -> _Made:
    n = int(f["reps"])
    phases = (("Down", "down_s"), ("Hold low", "bottom_s"), ("Up", "up_s"), ("Hold high", "top_s"))
    parts = [Part(call, f[key], True, i) for i in range(1, n + 1) for call, key in phases]
    return parts, n, "-".join(f"{f[key]:g}" for _, key in phases) + f", {n} reps"


def _hold(f: Mapping[str, float]) -> _Made:
    n = int(f["rounds"])
    parts: list[Part] = []
    for i in range(1, n + 1):
        parts.append(Part("Hold", f["hold_s"], True, i))
        if i < n:
            parts.append(Part("Rest", f["rest_s"], False, i))
    return parts, n, f"{n} × {f['hold_s']:g} s"


def _stations(f: Mapping[str, float]) -> _Made:
    n, rounds = int(f["stations"]), int(f["rounds"])
    parts: list[Part] = []
    for i in range(1, n * rounds + 1):
        parts.append(Part(f"Station {(i - 1) % n + 1}", f["station_s"], True, i))
        if i < n * rounds:
            parts.append(Part("Change stations", f["change_s"], False, i))
    return parts, n * rounds, f"{n} stations of {f['station_s'] / 60:g} min"


_PLANS: dict[ClockKind, _Maker] = {
    ClockKind.EVERY: _every,
    ClockKind.UNTIL_MISS: _until_miss,
    ClockKind.AMRAP: _one("As many as you can", True),
    ClockKind.INTERVALS: _intervals,
    ClockKind.METRONOME: _metronome,
    ClockKind.TEMPO: _tempo,
    ClockKind.HOLD: _hold,
    ClockKind.REST: _one("Rest", False),
    ClockKind.STATIONS: _stations,
}
