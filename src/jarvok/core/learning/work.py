"""Work in numbers that can be added up: of a session, a day, a week, a phase, an athlete, a squad; planned and done alike."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, fields

from jarvok.core.exercises import Exercise
from jarvok.core.loading.prescription import SetGroup

ZONES_PCT = (0.0, 70.0, 80.0, 90.0)  # lower edges, % of the max: Prilepin's table, quoted from memory
ZONE_NAMES = ("under 70 %", "70–79 %", "80–89 %", "90 % and over")
PATTERN_NAMES = {
    "squat": "squat", "hinge": "hinge", "press": "press", "pull": "pull", "single_leg": "single leg", "classic": "weightlifting",
    "jump": "jumps", "throw": "throws", "run": "runs", "trunk": "trunk", "hold": "holds", "carry": "carries",
    "drill": "drills", "conditioning": "conditioning",
}  # fmt: skip


@dataclass(frozen=True)
class Work:
    """Sums of work. Loads in kg, runs in m. `lifts` counts repetitions of main lifts by zone, `share_pct` is their
    percentages of the max added up, so that the average is that over `lifts_known`.
    """

    main_sets: int = 0
    sets_by_pattern: Mapping[str, int] = field(default_factory=dict)
    lifts: tuple[int, int, int, int] = (0, 0, 0, 0)
    lifts_known: int = 0
    share_pct: float = 0.0
    volume_kg: float = 0.0
    contacts: int = 0
    sprint_m: float = 0.0

    def __add__(self, other: Work) -> Work:
        """The work of both."""
        return summed((self, other))

    @property
    def average_pct(self) -> float | None:
        """The average intensity of the lifts whose share of the max is known, in %."""
        return self.share_pct / self.lifts_known if self.lifts_known else None


NOTHING = Work()
_PLAIN = [f.name for f in fields(Work) if f.name not in ("sets_by_pattern", "lifts")]


def summed(parts: Iterable[Work]) -> Work:
    """Return the sum of some work, nothing for none."""
    rows = list(parts)
    patterns: dict[str, int] = {}
    for row in rows:
        for pattern, sets in row.sets_by_pattern.items():
            patterns[pattern] = patterns.get(pattern, 0) + sets
    plain = {name: sum(getattr(row, name) for row in rows) for name in _PLAIN}
    zones = tuple(sum(row.lifts[zone] for row in rows) for zone in range(len(ZONES_PCT)))
    return Work(sets_by_pattern=patterns, lifts=zones, **plain)  # type: ignore[arg-type]


def zone_of(share_pct: float) -> int:
    """Return the zone of a share of the max in %, from 0."""
    return max(i for i, low in enumerate(ZONES_PCT) if share_pct >= low or i == 0)


def work_of_set(
    lift: Exercise, *, counts: bool, reps: int, load_kg: float | None = None, share: float | None = None,
    metres: float | None = None, per_side: bool = False,
) -> Work:  # fmt: skip
    """Return the work of one set. `counts` says whether it is main work, `share` is the load's part of the max (1.0 is the max).

    Both sides count; a lift without a load has no volume; warm-ups are not asked for.
    """
    sides = 2 if per_side else 1
    every = reps * sides
    is_lift = counts and load_kg is not None and lift.is_loaded
    zone = zone_of(100 * share) if is_lift and share is not None else None
    return Work(
        main_sets=1 if counts else 0,
        sets_by_pattern={lift.pattern: 1} if counts else {},
        lifts=tuple(every if i == zone else 0 for i in range(4)),  # type: ignore[arg-type]
        lifts_known=every if zone is not None else 0,
        share_pct=100 * share * every if zone is not None and share is not None else 0.0,
        volume_kg=(load_kg or 0.0) * every if lift.is_loaded else 0.0,
        contacts=every if lift.kind == "jump" else 0,
        sprint_m=(metres or 0.0) * max(1, reps) if lift.kind == "run" else 0.0,
    )


def work_of_line(lift: Exercise, groups: Iterable[SetGroup], *, counts: bool) -> Work:
    """Return the work a line plans before its loads are known: sets, contacts, metres; lifts by zone where a share is written."""
    found: list[Work] = []
    for group in groups:
        share = group.load.share_of_bar if group.load is not None else None
        one = work_of_set(
            lift, counts=counts, reps=group.reps or 0, load_kg=0.0 if lift.is_loaded else None, share=share,
            metres=group.metres, per_side=group.per_side,
        )  # fmt: skip
        found += [one] * group.sets
    return summed(found)


def done_pct(planned_sets: int, done_of_planned: int) -> float | None:
    """Return the part of the planned main sets that was done in %, or None where none was planned."""
    return 100 * done_of_planned / planned_sets if planned_sets else None
