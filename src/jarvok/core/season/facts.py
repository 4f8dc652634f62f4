"""What a season is planned from."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from functools import cached_property
from types import MappingProxyType

from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.arrangement import Arrangement
from jarvok.core.season.arrangements.force_velocity import ARRANGEMENT as FORCE_VELOCITY
from jarvok.core.season.calendar import Span
from jarvok.core.season.model import HandWeek, Rank, Target
from jarvok.core.season.taper import TaperStyle


@dataclass(frozen=True)
class SeasonFacts:
    """What a season is planned from.

    `start` is the day it was planned on; `targets` its competitions in any order; `matches` days of league matches; `spans`
    camps, travel and the like; `loading_weeks` before an easier one (None: as the arrangement has it, 0: reactive); `easy`
    weeks (by their Monday) the coach made easy (True) or not (False); `by_hand` those whose volume or top is set. Where the
    coach has chosen no taper, the arrangement's is taken, as long as was found to suit the athlete (`own_taper_days`).
    """

    start: date
    targets: tuple[Target, ...]
    arrangement: Arrangement = FORCE_VELOCITY
    matches: tuple[date, ...] = ()
    spans: tuple[Span, ...] = ()
    loading_weeks: int | None = None
    taper: TaperStyle | None = None
    own_taper_days: int | None = None
    easy: Mapping[date, bool] = field(default_factory=lambda: MappingProxyType({}))
    by_hand: Mapping[date, HandWeek] = field(default_factory=lambda: MappingProxyType({}))
    rules: Rules = field(default=DEFAULT_RULES)

    @property
    def usual_taper(self) -> TaperStyle:
        """The taper of a season of full length where the coach has chosen none."""
        style = self.arrangement.taper.style
        return style if self.own_taper_days is None else replace(style, days=self.own_taper_days)

    @cached_property
    def mains(self) -> tuple[Target, ...]:
        """The main competitions, in order of days."""
        return tuple(sorted((t for t in self.targets if t.rank is Rank.MAIN), key=lambda t: t.day))

    @cached_property
    def blocks(self) -> tuple[Target, ...]:
        """The blocks with no competition at their end, in order of days."""
        return tuple(sorted((t for t in self.targets if t.block is not None), key=lambda t: t.day))
