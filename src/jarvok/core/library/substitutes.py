"""What stands in for an exercise that a restriction, the kit or the purpose rules out, ranked, each with its reason."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise, exercises, shipped
from jarvok.core.library.kit import FURNISHED, Kit

BEGINNER, SKILLED = 1, 3  # [J] years of training
COSTS = {"low": 0, "middle": 1, "high": 2}


@dataclass(frozen=True)
class Substitute:
    """One exercise that can stand in: how close it is (0-100, the weights are Jarvok's default) and why."""

    exercise_id: str
    closeness: int
    reason: str


@dataclass(frozen=True)
class Limits:
    """What an exercise has to get past: restricted tags, the kit at hand, how skilled the athlete is (1-3)."""

    restricted: frozenset[str] = frozenset()
    kit: Kit = FURNISHED
    skill: int = SKILLED

    def allows(self, candidate: Exercise) -> bool:
        """Whether an exercise breaks none of them."""
        return not self.why_not(candidate)

    def why_not(self, candidate: Exercise) -> str:
        """Return why an exercise cannot be done, or nothing."""
        off = self.restricted & {candidate.pattern, candidate.region, *candidate.tags}
        if off:
            return f"restricted: {', '.join(sorted(off)).replace('_', ' ')}"
        missing = self.kit.missing_for(candidate)
        if missing:
            return f"not here: {', '.join(missing)}"
        return "asks for more experience" if candidate.teaching > self.skill else ""


def substitutes(
    exercise_id: str, limits: Limits, purpose: Iterable[str] = (), faults: frozenset[str] = frozenset()
) -> tuple[Substitute, ...]:
    """Return every exercise that can stand in, the closest first.

    `purpose` names the roles wanted; without it those of the exercise count. A fault of the athlete's that an exercise
    addresses brings it forward. Nothing of another region of the body stands in.
    """
    roles, known = frozenset(purpose), exercises()
    if known is shipped():
        return _shipped_substitutes(exercise_id, limits, roles, faults)
    return _ranked(exercise_id, limits, roles, faults, known.values())


@lru_cache(maxsize=4096)
def _shipped_substitutes(
    exercise_id: str, limits: Limits, purpose: frozenset[str], faults: frozenset[str]
) -> tuple[Substitute, ...]:
    return _ranked(exercise_id, limits, purpose, faults, shipped().values())


def _ranked(
    exercise_id: str, limits: Limits, purpose: frozenset[str], faults: frozenset[str], known: Iterable[Exercise]
) -> tuple[Substitute, ...]:
    wanted = exercise(exercise_id)
    roles = purpose or frozenset(wanted.roles)
    found: list[Substitute] = []
    for candidate in known:
        if candidate.id == exercise_id or not limits.allows(candidate):
            continue
        points, words = _closeness(wanted, candidate, roles, faults)
        if points >= LEAST:
            found.append(Substitute(candidate.id, min(100, points), ", ".join(words)))
    return tuple(sorted(found, key=lambda s: -s.closeness))


def nearest(exercise_id: str, limits: Limits) -> tuple[Substitute, ...]:
    """Return what is nearest of what can be done, the closest first, however far it is: for when the lift itself is off.

    Only loaded or held work of the same region, or of the trunk: no runs, jumps or drills.
    """
    wanted = exercise(exercise_id)
    found: list[Substitute] = []
    for candidate in exercises().values():
        if candidate.id == exercise_id or candidate.kind not in NEAREST_KINDS or not limits.allows(candidate):
            continue
        points, words = _closeness(wanted, candidate, frozenset(wanted.roles), frozenset())
        if points > 0:
            found.append(Substitute(candidate.id, min(100, points), ", ".join(words)))
    return tuple(sorted(found, key=lambda s: -s.closeness))


NEAREST_KINDS = frozenset({"strength", "accessory", "hold", "carry"})  # [C] not what is thrown, jumped or run
LEAST = 35  # [J] below it an exercise is another exercise


def _closeness(wanted: Exercise, candidate: Exercise, roles: frozenset[str], faults: frozenset[str]) -> tuple[int, list[str]]:
    """Points and words; the weights are Jarvok's default [J]."""
    points = 0
    words: list[str] = []
    if candidate.family == wanted.family:
        points, words = points + 35, [*words, "same family"]
    elif candidate.pattern == wanted.pattern:
        points, words = points + 22, [*words, f"same pattern ({candidate.pattern.replace('_', ' ')})"]
    if roles & frozenset(candidate.roles):
        points, words = points + 20, [*words, "same purpose"]
        points += 8 if wanted.roles and wanted.roles[0] in candidate.roles else 0
    if candidate.region == wanted.region:
        points += 10
    elif "whole" not in (candidate.region, wanted.region):
        return 0, []
    if candidate.kind == wanted.kind:
        points += 15
    if candidate.place == wanted.place:
        points, words = points + 8, [*words, "as heavy and as fast"] if candidate.place else words
    points -= 4 * abs(COSTS[candidate.cost] - COSTS[wanted.cost])
    if faults & frozenset(candidate.faults):
        points, words = points + 12, [*words, "works on a recorded fault"]
    return points, words


def substitute(exercise_id: str, restricted_tags: frozenset[str], limits: Limits | None = None) -> str | None:
    """Return the nearest exercise that breaks nothing: itself when it can be done, else the closest; None without one.

    `restricted_tags` name patterns, regions or tags that are off.
    """
    limits = limits or Limits(restricted_tags)
    if limits.allows(exercise(exercise_id)):
        return exercise_id
    found = substitutes(exercise_id, limits)
    return found[0].exercise_id if found else None
