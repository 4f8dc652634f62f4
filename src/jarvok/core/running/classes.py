"""The classes of running by intensity, duration and distance, and the rest of maximal sprints. Common practice."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.errors import CoachError
from jarvok.core.working import COMMON_PRACTICE, Source

FROM_MEMORY = Source("M", "from memory")
MAXIMAL_PCT, LEAST_MAXIMAL_PCT = 100, 95  # common practice: the classes of all-out running
REST_S_PER_10_M = 60  # common practice: about one minute for ten metres of maximal sprinting


@dataclass(frozen=True)
class RunningClass:
    """One class: intensity in % of the best, seconds and metres of one run (low, high; None where open).

    `pace_mps` is how fast a run of it is about, from standing [J]: for the minutes only.
    """

    key: str
    name: str
    intensity_pct: tuple[float, float]
    seconds: tuple[float, float] | None
    metres: tuple[float, float] | None
    pace_mps: float
    source: Source = COMMON_PRACTICE
    words: str = ""

    @property
    def is_maximal(self) -> bool:
        """Whether it is run as fast as one can."""
        return self.intensity_pct[1] >= MAXIMAL_PCT and self.intensity_pct[0] >= LEAST_MAXIMAL_PCT

    def holds(self, metres: float) -> bool:
        """Whether a run of so many metres is of this class."""
        return self.metres is None or self.metres[0] <= metres <= self.metres[1]


CLASSES: tuple[RunningClass, ...] = (
    RunningClass("speed", "Speed", (95, 100), (0, 7), (0, 60), 7.0),
    RunningClass("speed_endurance", "Speed endurance", (95, 100), (7, 15), (80, 150), 8.0),
    RunningClass("special_endurance_1", "Special endurance I", (95, 100), (15, 45), (150, 300), 7.0, FROM_MEMORY),
    RunningClass("special_endurance_2", "Special endurance II", (95, 100), (45, 120), (300, 600), 6.0, FROM_MEMORY),
    RunningClass("intensive_tempo", "Intensive tempo", (80, 90), None, None, 6.0, FROM_MEMORY, "the middle: use it sparingly"),
    RunningClass("extensive_tempo", "Extensive tempo", (0, 75), None, None, 5.0, FROM_MEMORY, "belongs on a low day"),
)
BY_KEY = {c.key: c for c in CLASSES}


def class_of(key: str) -> RunningClass:
    """Return a class; raise `CoachError` when there is none of that key."""
    found = BY_KEY.get(key)
    if found is None:
        raise CoachError("There is no such class of running.", where="running", accepted=", ".join(c.name for c in CLASSES))
    return found


def sprint_rest_s(metres: float) -> int:
    """Return the rest after a maximal sprint of so many metres, in s; or until the heart rate is back below the athlete's
    own threshold, where that is watched instead. Common practice.
    """
    return round(REST_S_PER_10_M * metres / 10)


def words_for(running: RunningClass, metres: float | None) -> str:
    """Return what a line of this class means, with its rest, in a sentence."""
    low, high = running.intensity_pct
    parts = [f"{running.name}: {low:g}–{high:g} %" if low else f"{running.name}: up to {high:g} %"]
    if running.seconds is not None:
        parts.append(f"{running.seconds[0]:g}–{running.seconds[1]:g} s")
    if running.metres is not None:
        parts.append(
            f"up to {running.metres[1]:g} m" if not running.metres[0] else f"{running.metres[0]:g}–{running.metres[1]:g} m"
        )
    if running.words:
        parts.append(running.words)
    if running.key == "speed" and metres:
        rest = sprint_rest_s(metres)
        parts.append(
            f"about {rest // 60}:{rest % 60:02d} of rest for {metres:g} m, or until the heart rate is back under the "
            "own threshold"
        )
    return ", ".join(parts)
