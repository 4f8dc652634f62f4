"""What a coach has answered to the flags of an athlete's plan."""

from __future__ import annotations

from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import FlagWord


def words_kept(athlete: Athlete) -> dict[tuple[str, str], FlagWord]:
    """The words that stand, by check and by what they are about."""
    rows = FlagWord.objects.filter(athlete=athlete, lifted_at__isnull=True)
    return while_kept(athlete, lambda: {(w.check_id, w.where): w for w in rows}, "flag words")
