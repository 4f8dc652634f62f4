"""The week is arranged another way: for all weeks, or for one."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import WeekChoice
from jarvok.core.errors import CoachError
from jarvok.core.week.arrangements import week_arrangement


def run(
    who: Who, people: Sequence[Athlete], arrangement: str, days: int, monday: date | None, by_order: bool | None = None
) -> None:
    """Arrange the week of some athletes; 0 days is the arrangement's usual number, a Monday one week only.

    `by_order` has sessions done in order, a missed one next, or on their days; None leaves it to the arrangement.
    """
    chosen = week_arrangement(arrangement)
    if days and days not in chosen.days:
        raise CoachError(
            f"{chosen.name} is not made for {days} sessions.", where="days", accepted=", ".join(str(d) for d in chosen.days)
        )
    alone = people[0] if len(people) == 1 else None
    squad = people[0].squad if len(people) > 1 else None
    with acting(who, "arrange_week", "week arranged anew", athlete=alone, squad=squad, also=people):
        for person in people:
            WeekChoice.objects.create(athlete=person, arrangement=arrangement, days=days, monday=monday, by_order=by_order)
