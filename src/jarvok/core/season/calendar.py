"""What else fills the calendar: league matches, camps, travel, exams, holidays and days away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

LEAGUE_GAP_DAYS = 14  # [J] a pause longer than this ends a run of matches
LEAGUE_MATCHES = 3  # [J] fewer are single matches


class SpanKind(StrEnum):
    """What happens over a span of days."""

    CAMP = "camp"
    TRAVEL = "travel"
    EXAMS = "exams"
    HOLIDAY = "holiday"
    AWAY = "unavailable"
    ILL = "ill"


SPAN_NAMES: dict[SpanKind, str] = {
    SpanKind.CAMP: "Camp",
    SpanKind.TRAVEL: "Travel",
    SpanKind.EXAMS: "Exams",
    SpanKind.HOLIDAY: "Holiday",
    SpanKind.AWAY: "Unavailable",
    SpanKind.ILL: "Ill",
}


@dataclass(frozen=True)
class Span:
    """Days from `start` to `end`, both included, with what they are."""

    kind: SpanKind
    start: date
    end: date
    name: str = ""

    def days_in(self, monday: date) -> int:
        """How many of its days lie in the week of a Monday."""
        first, last = max(self.start, monday), min(self.end, monday + timedelta(days=6))
        return max(0, (last - first).days + 1)

    @property
    def words(self) -> str:
        """Its name, or what it is."""
        return self.name or SPAN_NAMES[self.kind]


@dataclass(frozen=True)
class League:
    """A run of matches, in order."""

    matches: tuple[date, ...]

    @property
    def day(self) -> date:
        """Its first match."""
        return self.matches[0]

    @property
    def end(self) -> date:
        """Its last match."""
        return self.matches[-1]


def leagues_in(matches: Sequence[date]) -> tuple[League, ...]:
    """Return the runs of three or more matches with no pause longer than two weeks."""
    runs: list[list[date]] = []
    for day in sorted(set(matches)):
        if runs and (day - runs[-1][-1]).days <= LEAGUE_GAP_DAYS:
            runs[-1].append(day)
        else:
            runs.append([day])
    return tuple(League(tuple(run)) for run in runs if len(run) >= LEAGUE_MATCHES)
