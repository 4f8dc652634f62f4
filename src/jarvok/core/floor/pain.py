"""Pain or illness during a session: what falls away for the day, and what may stand in. Nothing is diagnosed. Common practice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.floor.readiness import AREAS, REFERRAL, UNWELL
from jarvok.core.library.substitutes import Limits, nearest
from jarvok.core.quantities.days import said_day

ILL = "unwell"
MOST_INSTEAD = 6  # [T] a list that is read at the rack
INSTEAD_REPS, INSTEAD_RIR = 8, 3  # [J] light enough to see whether it is free of pain
LONGEST_WORDS = 200  # [T]


@dataclass(frozen=True)
class Felt:
    """A pain as it was told: where, in which line of the session (by its place from 0), and why it was carried on, if it was."""

    area: str
    at: int
    carried_on: str = ""


@dataclass(frozen=True)
class OpenPain:
    """A pain of an earlier session that nobody has answered: the place, its day, and what was told in words."""

    area: str
    day: date
    words: str


def told_words(area: str, day: date, lift: str, reps: int) -> str:
    """Return what was told on the floor, in words."""
    after = "before the first repetition" if reps == 0 else f"after {reps} repetition{'s' if reps > 1 else ''}"
    return f"{AREAS[area][0]}, {said_day(day, weekday=True, is_long=True)}: {lift}, {after}"


def check_felt(area: str, reason: str, carries_on: bool) -> None:
    """Raise `CoachError` for a pain without a place, and for carrying on without a reason or while unwell."""
    if area not in AREAS:
        places = ", ".join(name.lower() for name, _ in AREAS.values())
        raise CoachError("Where does it hurt?", where="pain_area", accepted=f"{places}.")
    if not carries_on:
        return
    if area == ILL:
        raise CoachError(UNWELL, where="carry_on", accepted="Finish the session; what was done stays.")
    if not reason.strip():
        raise CoachError("Carrying on with pain wants a reason.", where="carry_on", accepted="A few words: who decided, and why.")
    if len(reason) > LONGEST_WORDS:
        raise CoachError("The reason is too long.", where="carry_on", accepted=f"Up to {LONGEST_WORDS} characters.")


def loads(area: str, lift: Exercise) -> bool:
    """Return whether an exercise loads a place that hurts; everything does while unwell."""
    return area == ILL or bool(AREAS[area][1] & {lift.pattern, lift.region, *lift.tags})


def falls_away(area: str, at: int, lifts: Sequence[Exercise]) -> tuple[int, ...]:
    """Return the lines that fall away for the day, by their place from 0: the one it was felt in, all that load the place."""
    return tuple(i for i, lift in enumerate(lifts) if i == at or loads(area, lift))


def ended_by(felt: Sequence[Felt], lifts: Sequence[Exercise]) -> dict[int, str]:
    """Return for each line that pain has ended the place that hurts, in words."""
    found: dict[int, str] = {}
    for pain in felt:
        if pain.carried_on:
            continue
        for i in falls_away(pain.area, pain.at, lifts):
            found.setdefault(i, area_words(pain.area))
    return found


def area_words(area: str) -> str:
    """Return a place as it is said."""
    return AREAS[area][0].lower()


def sentence(area: str, names: Sequence[str]) -> str:
    """Return what is said after a pain: what falls away, by name, and who looks at it."""
    if area == ILL:
        return UNWELL
    without = f" Today without: {'; '.join(dict.fromkeys(names))}." if names else ""
    return f"Pain, {area_words(area)}.{without} {REFERRAL}"


def carried_words(area: str, name: str, reason: str) -> str:
    """Return what is said where the coach has a lift carried on."""
    return f"Pain, {area_words(area)}: {name} is carried on ({reason}). It ends at once where it gets worse. {REFERRAL}"


def instead(lift: Exercise, areas: Sequence[str], limits: Limits) -> tuple[str, ...]:
    """Return what may be done in place of a lift, the closest first: nothing that loads a place that hurts; none while unwell."""
    if ILL in areas:
        return ()
    off = frozenset().union(*(AREAS[a][1] for a in areas)) if areas else frozenset()
    free = replace(limits, restricted=limits.restricted | off)
    return tuple(s.exercise_id for s in nearest(lift.id, free)[:MOST_INSTEAD])


def instead_text(lift: Exercise, sets: int) -> str:
    """Return the line that a replacement is begun with: few repetitions by feel, far from failure."""
    if lift.kind in ("hold", "carry"):
        amount = "20 s" if lift.kind == "hold" else "20 m"
        return f"{sets} × {amount}{'/side' if lift.per_side else ''}"
    return f"{sets} × {INSTEAD_REPS}{'/side' if lift.per_side else ''}, {INSTEAD_RIR} in reserve"
