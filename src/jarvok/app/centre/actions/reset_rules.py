"""Every value of the centre goes back to its default."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.centre.models import RuleChange


def run(
    who: Who,
) -> None:
    """Back to every default; the history of changes stays."""
    with acting(who, "reset_rules", "every value at its default"):
        for key in RuleChange.objects.values_list("key", flat=True).distinct():
            RuleChange.objects.create(key=key)
