"""What a coach has answered to the flags of an athlete's plan."""

from __future__ import annotations

from jarvok.app.athletes.kept_known import while_kept
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.seasons.models import FlagWord

_WORDS = Objects(lambda ids: FlagWord.objects.filter(athlete_id__in=ids, lifted_at__isnull=True))


def words_kept(athlete: Athlete) -> dict[tuple[str, str], FlagWord]:
    """The words that stand, by check and by what they are about."""
    return while_kept(athlete, lambda: {(w.check_id, w.where): w for w in _WORDS.of([athlete.pk])}, "flag words")
