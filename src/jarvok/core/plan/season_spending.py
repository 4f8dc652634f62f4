"""A season as its sessions hold it: main sets of every day, beside the dose the season asks for."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta

from jarvok.core.season.model import SeasonPlan, SeasonWeek
from jarvok.core.week.plan import WeekFacts
from jarvok.core.week.spending import spend_week

WEEK_DAYS = 7  # [T]


@dataclass(frozen=True)
class WeekSets:
    """One week: the dose in main sets, and the main sets of each day that holds a session.

    `is_own` says that the days are counted from sessions the coach has changed, or that are past; `planned` are the main
    sets as the plan proposes them, `exposures_by_day` how many of those are last heavy sessions before a contest.
    """

    dose: float
    by_day: Mapping[date, int]
    is_own: bool = False
    planned: int = 0
    exposures_by_day: Mapping[date, int] = field(default_factory=dict)

    @property
    def sets(self) -> int:
        """Main sets of the week."""
        return sum(self.by_day.values())


@dataclass(frozen=True)
class SeasonSpending:
    """The weeks of a season in main sets, in order."""

    weeks: tuple[WeekSets, ...]

    def exposures_between(self, first: date, day: date) -> int:
        """Those of them that are last heavy sessions before a contest, as the plan proposes them."""
        return sum(n for week in self.weeks for d, n in week.exposures_by_day.items() if first <= d < day)

    def between(self, first: date, day: date) -> int:
        """Main sets from a day on up to the day before another."""
        return sum(n for week in self.weeks for d, n in week.by_day.items() if first <= d < day)


def spend_season(
    season: SeasonPlan,
    week_of: Callable[[SeasonWeek], tuple[str, WeekFacts]],
    own: Mapping[date, Mapping[date, int]] | None = None,
) -> SeasonSpending:
    """Return the season in main sets, without laying out its sessions line by line.

    `week_of` gives the week model and the facts of a week; `own` the main sets by day of weeks (by their Monday) that the
    coach has changed or that stand as they stood.
    """
    own = own or {}
    found: list[WeekSets] = []
    for week in season.weeks:
        spent = spend_week(*week_of(week))
        moved = spent.layout.facts.moved
        days: dict[date, int] = {}
        exposures: dict[date, int] = {}
        for session in spent.sessions:
            day = moved.get(session.laid.draft.key, session.laid.day)
            days[day] = days.get(day, 0) + session.sets
            exposures[day] = exposures.get(day, 0) + session.exposure_sets
        mine = own.get(week.start)
        found.append(
            WeekSets(round(spent.dose, 1), days if mine is None else dict(mine), mine is not None, spent.sets, exposures)
        )
    return SeasonSpending(tuple(found))


def days_of(monday: date) -> tuple[date, ...]:
    """The seven days of a week."""
    return tuple(monday + timedelta(days=i) for i in range(WEEK_DAYS))
