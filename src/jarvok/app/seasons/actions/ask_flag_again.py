"""A flag that was answered asks again."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.seasons.models import FlagWord


def run(who: Who, word: FlagWord) -> None:
    """A flag that was answered asks again."""
    with acting(who, "ask_flag_again", "asks again", athlete=word.athlete):
        word.lifted_at = clock.now()
        word.save()
