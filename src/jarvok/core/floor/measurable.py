"""What can be measured of a set, with a sensor or by hand: velocity of a bar, heights and contacts of jumps, time of a run."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise

UPWARDS = frozenset(
    {"jump_vertical", "jump_depth", "jump_single", "jump_assisted", "jump_short_contact", "jump_from_knees"}
)  # fmt: skip
ALONG = frozenset({"jump_horizontal", "jump_lateral", "jump_resisted"})
ON_CONTACT = frozenset({"jump_depth", "jump_short_contact"})  # what they are for is a short contact
FOR_TIME = frozenset(
    {
        "max_velocity", "acceleration", "start", "acceleration_resisted", "speed_endurance", "special_endurance", "drag_speed",
        "agility_planned",
    }
)  # fmt: skip
EASY = frozenset({"prepare", "low_run", "tempo_easy", "low_day"})  # nothing is timed or measured of what is easy on purpose
MEASURED = frozenset({"velocity_mps", "heights", "contacts", "time_s", "distance_m"})  # what `measured_of` can ask for
LOWEST_CM, HIGHEST_CM = 1.0, 150.0  # [T]
SHORTEST_S, LONGEST_S = 0.05, 2.0  # [T]
MOST_JUMPS = 30  # [T]


@dataclass(frozen=True)
class TypedJump:
    """A jump that was measured without a mat of ours: height in cm, contact before it in s where it was taken."""

    height_cm: float
    contact_s: float | None = None

    @property
    def rsi(self) -> float | None:
        """Height in m over contact in s (Young 1995, quoted from memory), None without a contact."""
        return self.height_cm / 100 / self.contact_s if self.contact_s else None


def measured_of(lift: Exercise) -> tuple[str, ...]:
    """Return what is measured of an exercise, by the keys of what is typed; nothing for what is easy on purpose or a landing."""
    roles = frozenset(lift.roles)
    if lift.kind == "jump":
        if roles & ALONG and "jump_short_contact" not in roles:
            return ("distance_m",)
        if roles & UPWARDS:
            return ("heights", "contacts") if roles & ON_CONTACT else ("heights",)
        return ()
    if lift.kind == "run":
        return ("time_s",) if roles & FOR_TIME and not roles & EASY else ()
    return ("velocity_mps",) if lift.motion is not None and lift.is_loaded else ()


def check_jumps(jumps: Sequence[TypedJump]) -> None:
    """Raise `CoachError` for a jump that cannot be."""
    if len(jumps) > MOST_JUMPS:
        raise CoachError(f"{len(jumps)} jumps in a set cannot be.", where="jumps", accepted=f"Up to {MOST_JUMPS}.")
    for jump in jumps:
        if not LOWEST_CM <= jump.height_cm <= HIGHEST_CM:
            accepted = f"{LOWEST_CM:g} to {HIGHEST_CM:g} cm are accepted."
            raise CoachError(f"{jump.height_cm:g} cm cannot be a jump.", where="heights", accepted=accepted)
        if jump.contact_s is not None and not SHORTEST_S <= jump.contact_s <= LONGEST_S:
            accepted = f"{SHORTEST_S:g} to {LONGEST_S:g} s are accepted."
            raise CoachError(f"{jump.contact_s:g} s cannot be a contact.", where="contacts", accepted=accepted)
