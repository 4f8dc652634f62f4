"""What was written after the last competition for the next: it stands beside the season that follows."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import EntryResult
from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import SeasonNote

TOLD_WEEKS = 52  # [J] what was written longer ago was for another athlete


def last_time(athlete: Athlete, today: date) -> list[SeasonNote]:
    """Return what to keep and change, of the newest competition of the last year after which something was written."""
    rows = EntryResult.objects.filter(entry__athlete=athlete, entry__withdrawn_at__isnull=True)
    newest = {r.entry_id: r for r in rows.select_related("entry__competition").order_by("pk")}
    told = [
        r
        for r in newest.values()
        if (r.keep or r.change) and today - timedelta(weeks=TOLD_WEEKS) <= r.entry.day <= today
    ]  # fmt: skip
    if not told:
        return []
    last = max(told, key=lambda r: (r.entry.day, r.pk))
    said = [f"{word}: {words.rstrip('.')}." for word, words in (("Keep", last.keep), ("Change", last.change)) if words]
    written = f"written on {said_day(clock.day_of(last.at))}"
    return [SeasonNote("last-time", f"From {last.entry.name}, for this season", " ".join(said), written)]
