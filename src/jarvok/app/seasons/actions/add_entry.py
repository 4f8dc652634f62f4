"""Something is put into the calendar."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import CalendarEntry
from jarvok.app.seasons.calendar_rows import FARTHEST_DAYS, LONGEST_DAYS, Scope
from jarvok.core.errors import CoachError


def run(who: Who, scope: Scope, kind: str, name: str, start: date, end: date, uid: str = "") -> CalendarEntry:
    """Something is put into the calendar."""
    with acting(who, "add_entry", f"{name.strip()} in the calendar", athlete=scope.athlete, squad=scope.squad):
        name = name.strip()
        if kind not in CalendarEntry.KINDS:
            raise CoachError("There is no such kind.", where="kind", accepted=", ".join(CalendarEntry.KINDS))
        if not 1 <= len(name) <= 80:
            raise CoachError("It needs a name.", where="name", accepted="1 to 80 characters are accepted.")
        if not 0 <= (end - start).days <= LONGEST_DAYS:
            raise CoachError("It ends before it begins, or lasts too long.", where="end", accepted=f"Up to {LONGEST_DAYS} days.")
        if abs((start - clock.today()).days) > FARTHEST_DAYS:
            raise CoachError(
                f"{start:%-d %B %Y} lies too far away.", where="start", accepted="Days within two years are accepted."
            )
        if kind == "match" and end != start:
            raise CoachError("A match is on one day.", where="end", accepted="Its day, or a competition of several days.")
        return CalendarEntry.objects.create(
            athlete=scope.athlete, squad=scope.squad, group=scope.group, kind=kind, name=name, start=start, end=end, uid=uid
        )
