"""What stands beside the maxes of two days, as it is answered: ratios, the velocity of a load, days worth comparing."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date

from jarvok.app.learning.progress_beside import LiftLine, RatioProgress
from jarvok.app.schema import Schema
from jarvok.core.learning.reports import change_words
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import in_kg, said_mass
from jarvok.core.velocity.profile import Profile


class ProgressOut(Schema):
    """A lift's max on two days in words, and whether what lies between is more than noise."""

    athlete_id: int
    athlete: str
    then: str
    now: str
    change: str
    share: str
    words: str
    is_more_than_noise: bool


class LiftProgressOut(Schema):
    """A lift, the smallest change of it that matters in the squad, and who moved by how much."""

    exercise_id: str
    exercise: str
    worthwhile: str
    rows: list[ProgressOut]


class LoadSpeedOut(Schema):
    load: float
    velocity_mps: float


class DayLineOut(Schema):
    """A load–velocity line on a day: where it begins and ends, and the points it was found from; loads in the page's unit."""

    day: date
    points: list[LoadSpeedOut]
    ends: list[LoadSpeedOut]


class LineMovedOut(Schema):
    """A lift's lines of two days, and in words whether the same load moves faster."""

    exercise_id: str
    exercise: str
    unit: str
    at: str
    then: str
    now: str
    change: str
    words: str
    is_more_than_noise: bool
    lines: list[DayLineOut]


class SeasonDayOut(Schema):
    day: date
    words: str


def line_out(lift: LiftLine) -> LineMovedOut:
    """Both lines of a lift, with their loads in the unit of its plates."""
    moved, unit = lift.moved, lift.unit

    def said(line: Profile, mps: float) -> str:
        return f"{mps:.2f} ± {line.line_error_mps(moved.load_kg):.2f} m/s"

    return LineMovedOut(
        exercise_id=lift.exercise_id,
        exercise=exercise(lift.exercise_id).name,
        unit=unit,
        at=said_mass(moved.load_kg, unit, whole=True),
        then=said(moved.then, moved.then_mps),
        now=said(moved.now, moved.now_mps),
        change=change_words(moved.change.change, "m/s", places=2),
        words=moved.change.words,
        is_more_than_noise=moved.change.is_more_than_noise,
        lines=[_drawn(line, unit) for line in (moved.then, moved.now)],
    )


def _drawn(line: Profile, unit: str) -> DayLineOut:
    per = 1 / in_kg(1.0, unit)
    return DayLineOut(
        day=max(p.day for p in line.points),
        points=[LoadSpeedOut(load=round(p.load_kg * per, 1), velocity_mps=p.velocity_mps) for p in line.points],
        ends=[LoadSpeedOut(load=round(kg * per, 1), velocity_mps=line.velocity_mps(kg)) for kg in line.loads_kg],
    )


def ratios_out(found: Sequence[RatioProgress], names: Mapping[int, str]) -> list[LiftProgressOut]:
    """Ratios, each a table of its own, with the usual band in its name."""
    groups: dict[str, list[RatioProgress]] = {}
    for r in found:
        groups.setdefault(r.rule.name, []).append(r)
    return [
        LiftProgressOut(
            exercise_id=f"ratio:{name}",
            exercise=f"{name}, usual {rows[0].rule.low_pct:g}–{rows[0].rule.high_pct:g} %",
            worthwhile="",
            rows=[
                ProgressOut(
                    athlete_id=r.athlete_id,
                    athlete=names[r.athlete_id],
                    then=f"{r.then_pct:.0f} ± {r.then_error_pct:.0f} %",
                    now=f"{r.now_pct:.0f} ± {r.now_error_pct:.0f} %",
                    change=change_words(r.change.change, "points"),
                    share="",
                    words=r.change.words,
                    is_more_than_noise=r.change.is_more_than_noise,
                )
                for r in rows
            ],
        )
        for name, rows in groups.items()
    ]


def season_days_out(ends: Sequence[tuple[date, str]]) -> list[SeasonDayOut]:
    """The last days of phases, as they are chosen from."""
    return [SeasonDayOut(day=day, words=f"end of {name.lower()}, {said_day(day)}") for day, name in ends]
