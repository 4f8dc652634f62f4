"""A calendar gets a secret address, under which another calendar follows it."""

from __future__ import annotations

from jarvok.app.accounts.links import make
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.people.models import Link, LinkKind

GOOD_H = 24 * 400  # [J] a season and what comes after it


def run(who: Who, of: Athlete | Squad) -> tuple[Link, str]:
    """Make the address; return its link and its token, which is kept nowhere."""
    athlete = of if isinstance(of, Athlete) else None
    squad = of if isinstance(of, Squad) else None
    with acting(who, "make_calendar_address", f"an address of the calendar of {of.name}", athlete=athlete, squad=squad):
        return make(LinkKind.CALENDAR, who.person, GOOD_H, athlete=athlete, squad=squad)
