"""A wrong mark is withdrawn; it stays in the history."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.typed_marks import describe_mark
from jarvok.app.facts.athletes.models import MarkRecord
from jarvok.app.problems import Conflict


def run(who: Who, mark: MarkRecord) -> None:
    """Withdraw a mark."""
    if mark.withdrawn_at is not None:
        raise Conflict("This result has been deleted already.")
    with acting(who, "withdraw_mark", f"{describe_mark(mark)} deleted", athlete=mark.athlete):
        mark.withdrawn_at = clock.now()
        mark.save()
