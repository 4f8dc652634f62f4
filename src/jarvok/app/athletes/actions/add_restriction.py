"""A restriction is set: what may not be done, by whose word, from when on."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.reading import restriction_tags
from jarvok.app.facts.athletes.models import Athlete, Restriction
from jarvok.core.errors import CoachError


def run(
    who: Who, athlete: Athlete, *, tag: str, words: str, side: str, set_by: str, since: date, until: date | None
) -> Restriction:
    """Keep a restriction; it holds from its first day to its last, or until it is ended."""
    if tag not in restriction_tags():
        raise CoachError("The library does not know that.", where="tag", accepted="Choose a pattern, region or range.")
    words, set_by = words.strip(), set_by.strip()
    if not words or not set_by:
        raise CoachError("A restriction says what, and who set it.", where="words" if not words else "set_by")
    if until is not None and until < since:
        raise CoachError("It ends before it begins.", where="until", accepted="A day from its first day on.")
    with acting(who, "add_restriction", words, athlete=athlete):
        return Restriction.objects.create(
            athlete=athlete, tag=tag, words=words[:120], side=side[:10], set_by=set_by[:60], since=since, until=until
        )
