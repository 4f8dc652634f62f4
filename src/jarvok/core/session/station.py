"""A line as the sequence of a session takes it, and the seconds of its sets and rests."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from jarvok.core.exercises import Exercise
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.rules import Rules
from jarvok.core.running.classes import BY_KEY
from jarvok.core.session.blocks import BlockStyle, Grouping

CARRY_MPS, DRILL_MPS = 1.0, 3.0  # [J] loaded carries; running drills and movement runs
HOLD_PAUSES = 0.5  # [J] a hold gathered in parts pauses half as long as it is held


@dataclass(frozen=True, kw_only=True)
class Station:
    """A line in its session: its block, what is prescribed, its rest between sets in s, its warm-up sets.

    `sets` are those done on the day where the day made them fewer; `has_own_rest` says that the athlete's own test found it.
    """

    slot: str
    block: str
    style: BlockStyle
    prescription: Prescription
    exercise: Exercise
    rest_s: int
    ramp_sets: int = 0
    sets: int | None = None
    has_own_rest: bool = False

    @cached_property
    def groups(self) -> tuple[SetGroup, ...]:
        """The group of each set, in order."""
        each = tuple(g for g in self.prescription.groups for _ in range(g.sets))
        return each if self.sets is None else each[: self.sets]

    def minis(self, number: int) -> tuple[int, ...]:
        """The small sets of a set from 1, as written or as single repetitions in a block of clusters; none: in one go."""
        group = self.groups[number - 1]
        if not group.minis and self.style.grouping is Grouping.CLUSTER and group.reps and group.reps > 1:
            return (1,) * group.reps
        return group.minis


def set_s(station: Station, number: int, rules: Rules, *, is_first: bool = True) -> float:
    """Return the seconds of a set of a line (from 1): by time, way or repetitions, with the rests inside it.

    `is_first` counts what stands around a set too: chalk, plates, words.
    """
    line, group = station.prescription, station.groups[number - 1]
    if group.seconds is not None:
        each = group.seconds * (1 + HOLD_PAUSES if group.in_all else 1)
    elif group.metres is not None:
        each = group.metres / pace_mps(station.exercise)
    else:
        reps = group.reps or 1
        each = reps * _rep_s(station) + (line.between_reps_s or 0) * (reps - 1)
    work_s = each * group.sides
    minis = station.minis(number)
    if minis:
        work_s += (len(minis) - 1) * inside_set_s(station, rules)
    if line.drops is not None and number == len(station.groups):
        work_s += line.drops.count * (each * group.sides + rules["session.strip_s"])
    is_exact = not is_first or station.exercise.kind == "conditioning"  # intervals count as they are
    return work_s + (0.0 if is_exact else rules["session.transition_s"])


def inside_set_s(station: Station, rules: Rules) -> int:
    """Return the rest in s between the small sets of a cluster: of the line, else of its block, else the usual one."""
    return station.prescription.inside_s or station.style.rest_inside_s or int(rules["session.cluster_inside_s"])


def pace_mps(exercise: Exercise) -> float:
    """Return how fast a way is covered: a run by its class, drills and carries slower."""
    running = BY_KEY.get(exercise.running)
    if running is not None:
        return running.pace_mps
    return DRILL_MPS if exercise.kind in ("run", "drill") else CARRY_MPS


def _rep_s(station: Station) -> float:
    style, tempo = station.style, station.prescription.tempo
    if style.grouping is Grouping.METRONOME and style.bpm:
        return style.beats * 60 / style.bpm
    if not tempo:
        return station.exercise.seconds_per_rep
    return max(1.0, sum(1.0 if part == "X" else float(part) for part in tempo.split("-")))


def rest_inside_s(station: Station, rules: Rules) -> int:
    """Return the rest after a line inside a round: as written, else the athlete's own, else what the grouping leaves."""
    style = station.style
    if style.rest_inside_s is not None:
        return style.rest_inside_s
    if station.prescription.rest_s is not None or station.has_own_rest:
        return station.rest_s
    match style.grouping:
        case Grouping.PAIR:
            return round(station.rest_s * rules["session.pair_rest_pct"] / 100)
        case Grouping.CIRCUIT | Grouping.CONTRAST:
            return int(rules["session.station_s"])
        case _:
            return station.rest_s


def rest_between_s(round_: Sequence[Station], rules: Rules) -> int:
    """Return the rest after a round of lines done in turn: as written, else that of the line that needs most."""
    style = round_[-1].style
    if style.rest_between_s is not None:
        return style.rest_between_s
    if style.grouping is Grouping.PAIR:
        return rest_inside_s(round_[-1], rules) if style.rest_inside_s is None else round_[-1].rest_s
    # what a test has found is the rest before the jump, not between rounds
    return max(s.rest_s for s in [x for x in round_ if not x.has_own_rest] or round_)
