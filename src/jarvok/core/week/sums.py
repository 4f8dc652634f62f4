"""A week in sums: hard sets by pattern, number of lifts and their intensity, contacts, sprint metres, volume load."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from jarvok.core.exercises import Exercise
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.resolve import ResolvedSet
from jarvok.core.session.roles import BlockRole


@dataclass(frozen=True)
class LineSum:
    """One line as it is summed: its exercise, its role, the prescription and the resolved sets."""

    exercise: Exercise
    role: BlockRole
    prescription: Prescription
    sets: tuple[ResolvedSet, ...]


@dataclass(frozen=True)
class WeekSums:
    """Sums of a week. `lifts` counts repetitions of weightlifting lifts; their average intensity is in % of the max and
    None without a share known; volume load in kg; contacts of high-stimulus jumps; metres at sprint effort.
    """

    hard_sets: int
    by_pattern: Mapping[str, int]
    lifts: int
    average_intensity_pct: float | None
    volume_kg: float
    contacts: int
    sprint_metres: int


def sum_up(lines: Iterable[LineSum]) -> WeekSums:
    """Return the sums of a week's lines. Hard sets are main sets: those of fast and main lines."""
    hard: Counter[str] = Counter()
    lifts = contacts = metres = 0
    shares: list[tuple[float, int]] = []
    volume_kg = 0.0
    for line in lines:
        lift = line.exercise
        reps = line.prescription.all_reps
        volume_kg += sum(s.volume_kg for s in line.sets)
        if line.role.counts:
            hard[lift.pattern] += line.prescription.total_sets
        if lift.kind == "classic":
            lifts += reps
            shares += [(s.share_of_max, s.reps or 0) for s in line.sets if s.share_of_max]
        if lift.kind == "jump" and lift.cost != "low":
            contacts += reps
        if lift.running == "speed" and lift.cost != "low":
            metres += sum(g.sets * (g.metres or 0) for g in line.prescription.groups)
    counted = sum(n for _, n in shares)
    average = round(100 * sum(share * n for share, n in shares) / counted, 1) if counted else None
    return WeekSums(sum(hard.values()), dict(hard), lifts, average, volume_kg, contacts, metres)
