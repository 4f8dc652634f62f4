"""A flag is answered with a reason; it stays visible."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import FlagWord
from jarvok.core.errors import CoachError


def run(who: Who, athlete: Athlete, check_id: str, where: str, reason: str) -> FlagWord:
    """Answer a flag with a reason; it stays visible."""
    with acting(who, "keep_flag", f"kept, because {reason.strip()}", athlete=athlete):
        reason = reason.strip()
        if not 1 <= len(reason) <= 200:
            raise CoachError("Say why it stays.", where="reason", accepted="1 to 200 characters are accepted.")
        FlagWord.objects.filter(athlete=athlete, check_id=check_id, where=where, lifted_at__isnull=True).update(
            lifted_at=clock.now()
        )
        return FlagWord.objects.create(athlete=athlete, check_id=check_id[:30], where=where[:120], reason=reason)
